// Drawing with points and constraints in the real window, with the mouse and with keys.
#include <gmock/gmock.h>

#include "app/drawing_driver.h"
#include "fields/regions_field.h"
#include "geom/planes.h"
#include "support/document_builder.h"

namespace kervo::test {
namespace {

TEST_F(DrawingTest, ARectangleIsDrawnConstrainedAndDragged) {
  drawOnABlock();
  chooseKind("rectangle");
  drag(&window->view(), seen(20, 10), seen(60, 40));
  settle();
  ASSERT_EQ(drawing().points.size(), 4u);
  EXPECT_EQ(solution().freedoms, 4);
  chooseKind("");
  // Dragged at a corner the opposite one stays and the sides stay level and upright.
  const PlanePoint low = solution().points[0], high = solution().points[2];
  drag(&window->view(), seen(high.u, high.v), seen(high.u + 10, high.v - 5));
  settle();
  EXPECT_NEAR(solution().points[2].u, high.u + 10, 0.6);
  EXPECT_NEAR(solution().points[2].v, high.v - 5, 0.6);
  EXPECT_EQ(solution().points[1].v, solution().points[0].v);
  EXPECT_NEAR(distance(solution().points[0], low), 0, 1e-9);
  // Dimensions begin with what they measure; then one is typed.
  const double width = distance(solution().points[0], solution().points[1]);
  addConstraint("length", "l1");
  EXPECT_NEAR(distance(solution().points[0], solution().points[1]), width, 1e-5);
  EXPECT_EQ(solution().freedoms, 3);
  writeInto(named<QLineEdit>("length: line 1"), "45 mm");
  settle();
  EXPECT_NEAR(distance(solution().points[0], solution().points[1]), 45, 1e-9);
  EXPECT_NEAR(distance(solution().points[3], solution().points[2]), 45, 1e-9);
  // And it cuts.
  key(Qt::Key_Return);
  settle();
  ASSERT_FALSE(window->desk().trial.active());
  EXPECT_FALSE(model().failed());
}

TEST_F(DrawingTest, LinesThatMeetShareTheirPoint) {
  drawOnABlock();
  chooseKind("line");
  drag(&window->view(), seen(20, 10), seen(60, 25));
  settle();
  const PlanePoint end = solution().points[1];
  drag(&window->view(), seen(end.u, end.v) + QPoint(2, 1), seen(40, 50));
  settle();
  ASSERT_EQ(drawing().curves.size(), 2u);
  EXPECT_EQ(drawing().points.size(), 3u);
  EXPECT_EQ(drawing().curves[0].points[1], drawing().curves[1].points[0]);
}

TEST_F(DrawingTest, AChainIsClickedAndClosedWithEnter) {
  drawOnABlock();
  chooseKind("chain");
  for (const auto& [u, v] : {std::pair(20.0, 10.0), {60.0, 10.0}, {60.0, 40.0}}) clickAt(&window->view(), seen(u, v));
  ASSERT_EQ(drawing().curves.size(), 2u);
  key(Qt::Key_Return);
  ASSERT_EQ(drawing().curves.size(), 3u);
  EXPECT_EQ(drawing().points.size(), 3u);
  ASSERT_TRUE(window->desk().trial.active());
  const DrawingResult* made = window->desk().trial.result()->report().drawing();
  ASSERT_NE(made, nullptr);
  ASSERT_EQ(made->regions.size(), 1u);
  EXPECT_NEAR(made->regions[0].area(), 600, 15);
  // What was meant level and upright is.
  EXPECT_EQ(drawing().constraints.size(), 2u);
  // Undo takes one line at a time.
  key(Qt::Key_Z, Qt::ControlModifier);
  EXPECT_EQ(drawing().curves.size(), 2u);
}

TEST_F(DrawingTest, ALineIsTypedWithoutTheMouse) {
  drawOnABlock();
  chooseKind("line");
  key(Qt::Key_3, Qt::AltModifier);
  type("10");
  key(Qt::Key_Tab);
  type("5 mm");
  key(Qt::Key_Return);
  type("25");
  key(Qt::Key_Tab);
  type("90 deg");
  key(Qt::Key_Return);
  ASSERT_EQ(drawing().curves.size(), 1u);
  EXPECT_NEAR(solution().points[0].u, 10, 1e-9);
  EXPECT_NEAR(solution().points[0].v, 5, 1e-9);
  EXPECT_NEAR(solution().points[1].u, 10, 1e-9);
  EXPECT_NEAR(solution().points[1].v, 30, 1e-9);
  // What was typed drives it from now on.
  ASSERT_EQ(drawing().constraints.size(), 2u);
  EXPECT_EQ(drawing().constraints[0].value->text(), "25");
  EXPECT_EQ(solution().freedoms, 2);
}

TEST_F(DrawingTest, OnlyWhatIsTypedIsHeld) {
  drawOnABlock();
  chooseKind("line");
  clickAt(&window->view(), seen(20, 10));
  QTest::mouseMove(window->windowHandle(), window->view().mapTo(window.get(), seen(50, 28)));
  type("30");
  key(Qt::Key_Return);
  ASSERT_EQ(drawing().curves.size(), 1u);
  ASSERT_EQ(drawing().constraints.size(), 1u);
  EXPECT_EQ(drawing().constraints[0].kind, "length");
  EXPECT_NEAR(distance(solution().points[0], solution().points[1]), 30, 1e-9);
  EXPECT_GT(solution().points[1].v, 20);
}

TEST_F(DrawingTest, WhatIsSelectedIsConstrainedDimensionedAndRemoved) {
  drawOnABlock();
  chooseKind("line");
  drag(&window->view(), seen(20, 10), seen(60, 17));
  drag(&window->view(), seen(20, 30), seen(60, 45));
  chooseKind("");
  const auto middle = [&](std::size_t line) {
    const PlanePoint at = (solution().points[2 * line] + solution().points[2 * line + 1]) * 0.5;
    return seen(at.u, at.v);
  };
  clickAt(&window->view(), middle(0));
  clickAt(&window->view(), middle(1), Qt::ControlModifier);
  ASSERT_EQ(window->desk().drawing.selected().size(), 2u);
  click(button("parallel"));
  const PlanePoint one = solution().points[1] - solution().points[0],
                   other = solution().points[3] - solution().points[2];
  EXPECT_NEAR(cross(one, other) / length(one) / length(other), 0, 1e-9);
  // A dimension is typed right where it stands.
  clickAt(&window->view(), {20, 400});
  clickAt(&window->view(), middle(0));
  click(button("length"));
  QLineEdit* value = named<QLineEdit>("Value of the dimension");
  ASSERT_EQ(QApplication::focusWidget(), value);
  type("50 mm");
  key(Qt::Key_Return);
  EXPECT_NEAR(distance(solution().points[0], solution().points[1]), 50, 1e-9);
  // … and again with a double click.
  for (const DrawingMark& mark : window->view().drawingTool().marks())
    if (mark.dimension)
      QTest::mouseDClick(window->windowHandle(), Qt::LeftButton, {},
                         window->view().mapTo(window.get(), mark.rect.center().toPoint()));
  settle();
  ASSERT_EQ(QApplication::focusWidget(), named<QLineEdit>("Value of the dimension"));
  type("nothing");
  key(Qt::Key_Return);
  EXPECT_TRUE(named<QLineEdit>("Value of the dimension")->property("bad").toBool());
  key(Qt::Key_Escape);
  EXPECT_NEAR(distance(solution().points[0], solution().points[1]), 50, 1e-9);
  // By keys: the next part is marked, taken and removed, with the constraints on it.
  window->desk().drawing.select({});
  key(Qt::Key_N);
  key(Qt::Key_Space);
  ASSERT_EQ(window->desk().drawing.selected(), std::vector<std::string>{"p1"});
  key(Qt::Key_Delete);
  EXPECT_EQ(drawing().curves.size(), 1u);
  EXPECT_TRUE(drawing().constraints.empty());
  // Escape goes back by one: what is drawn, what is selected, then out, with everything kept.
  chooseKind("circle");
  key(Qt::Key_Escape);
  EXPECT_EQ(window->desk().drawing.kind(), nullptr);
  key(Qt::Key_Escape);
  EXPECT_FALSE(window->desk().trial.active());
  EXPECT_EQ(window->desk().session.document().made.steps.size(), 2u);
}

TEST_F(DrawingTest, PlacesAreTakenForWhatIsThere) {
  drawOnABlock();
  chooseKind("line");
  drag(&window->view(), seen(20, 10), seen(60, 25));
  // From the middle of it at a right angle back onto nothing.
  const PlanePoint middle = (solution().points[0] + solution().points[1]) * 0.5;
  drag(&window->view(), seen(middle.u, middle.v) + QPoint(2, -1), seen(30, 50));
  ASSERT_EQ(drawing().constraints.size(), 1u);
  EXPECT_EQ(drawing().constraints[0].kind, "midpoint");
  EXPECT_NEAR(distance(solution().points[2], middle), 0, 1e-9);
  // With Alt nothing is inferred.
  QTest::mousePress(window->windowHandle(), Qt::LeftButton, Qt::AltModifier,
                    window->view().mapTo(window.get(), seen(70, 10)));
  QTest::mouseMove(window->windowHandle(), window->view().mapTo(window.get(), seen(80, 10)));
  QTest::mouseRelease(window->windowHandle(), Qt::LeftButton, Qt::AltModifier,
                      window->view().mapTo(window.get(), seen(90, 10)));
  settle();
  EXPECT_EQ(drawing().curves.size(), 3u);
  EXPECT_EQ(drawing().constraints.size(), 1u);
}

TEST_F(DrawingTest, StretchesAreSweptAwayAndEndsLengthened) {
  drawALineThatTwoCross();
  ASSERT_EQ(drawing().curves.size(), 3u);
  // Over the middle of the first, and the lower ends of the others, in one go.
  click(button("sweep over what goes"));
  drag(&window->view(), seen(50, 26), seen(50, 14));
  EXPECT_EQ(drawing().curves.size(), 4u);
  key(Qt::Key_Z, Qt::ControlModifier);
  ASSERT_EQ(drawing().curves.size(), 3u);
  drag(&window->view(), seen(20, 10), seen(80, 10));
  EXPECT_EQ(drawing().curves.size(), 3u);
  const auto low = [&](std::size_t curve) {
    double least = 1e9;
    for (const std::string& id : drawing().curves[curve].points)
      least = std::min(least, solution().points[*drawing().point(id)].v);
    return least;
  };
  EXPECT_NEAR(low(1), 20, 0.6);
  EXPECT_NEAR(low(2), 20, 0.6);
  // An end goes on to the next curve.
  chooseKind("line");
  drag(&window->view(), seen(40, 35), seen(55, 35));
  chooseKind("");
  click(button("lengthen to the next"));
  clickAt(&window->view(), seen(54, 35));
  EXPECT_NEAR(solution().points[*drawing().point(drawing().curves[3].points[1])].u, 70, 0.6);
  // What cannot be says why, and nothing is lost.
  clickAt(&window->view(), seen(70, 48));
  EXPECT_TRUE(window->message().isVisible());
  key(Qt::Key_Escape);
  click(button("split where they meet"));
  EXPECT_GT(drawing().curves.size(), 4u);
  EXPECT_TRUE(solution().holds());
}

TEST_F(DrawingTest, PiecesOfTheSelectedCurveAreListedAndDroppedWithMouseAndKeys) {
  drawALineThatTwoCross();
  window->view().setFocus();
  clickAt(&window->view(), seen(50, 20));
  const auto& pieces = window->desk().drawing.pieces();
  ASSERT_EQ(pieces.size(), 3u);
  const auto lengthListed = [&] {
    double all = 0;
    for (const CurvePiece& piece : pieces) all += window->desk().drawing.lengthOf(piece);
    return all;
  };
  EXPECT_NEAR(lengthListed(), 80, 1.2);
  EXPECT_NEAR(window->desk().drawing.lengthOf(pieces[1]), 40, 1.2);
  // The keyboard shows which piece is meant, and drops it.
  const auto dropping = [&](int piece) -> QToolButton* {
    for (QToolButton* each : window->bench().findChildren<QToolButton*>("link"))
      if (each->isVisible() && each->text().startsWith(QStringLiteral("drop %1").arg(piece))) return each;
    return nullptr;
  };
  ASSERT_TRUE(dropping(2));
  dropping(2)->setFocus();
  EXPECT_EQ(window->desk().drawing.litPiece(), std::optional<std::size_t>(1));
  key(Qt::Key_Space);
  settle();
  ASSERT_EQ(drawing().curves.size(), 4u);
  EXPECT_TRUE(pieces.empty());
  EXPECT_TRUE(window->bench().isAncestorOf(QApplication::focusWidget()));
  key(Qt::Key_Z, Qt::ControlModifier);
  ASSERT_EQ(drawing().curves.size(), 3u);
  window->desk().drawing.select({});
  settle();
  clickAt(&window->view(), seen(50, 20));
  click(dropping(1));
  settle();
  EXPECT_EQ(drawing().curves.size(), 3u);
  const auto ends = drawing().curves.front().points;
  EXPECT_NEAR(distance(solution().points[*drawing().point(ends[0])], solution().points[*drawing().point(ends[1])]), 60,
              1.2);
}

TEST_F(DrawingTest, WhatIsSelectedMovesTogetherByDragAndByArrows) {
  drawOnABlock();
  chooseKind("line");
  drag(&window->view(), seen(10, 20), seen(30, 21));
  drag(&window->view(), seen(40, 30), seen(60, 31));
  drag(&window->view(), seen(70, 40), seen(90, 41));
  chooseKind("");
  const std::vector<PlanePoint> before = solution().points;
  ASSERT_EQ(before.size(), 6u);
  clickAt(&window->view(), seen(20, 20.5));
  clickAt(&window->view(), seen(50, 30.5), Qt::ControlModifier);
  drag(&window->view(), seen(50, 30.5), seen(55, 20.5));
  const std::vector<PlanePoint> dragged = solution().points;
  for (std::size_t i = 0; i < 4; ++i) {
    EXPECT_NEAR(dragged[i].u, before[i].u + 5, 0.7);
    EXPECT_NEAR(dragged[i].v, before[i].v - 10, 0.7);
  }
  EXPECT_EQ(dragged[4].u, before[4].u);
  // Arrows: a line of the grid, with Shift a tenth of one.
  window->view().setFocus();
  key(Qt::Key_Right);
  key(Qt::Key_Up, Qt::ShiftModifier);
  settle();
  const double step = window->desk().drawing.grid().value();
  EXPECT_NEAR(solution().points[0].u, dragged[0].u + step, 1e-9);
  EXPECT_NEAR(solution().points[3].v, dragged[3].v + step / 10, 1e-9);
  EXPECT_EQ(solution().points[4].u, before[4].u);
  // With nothing selected they turn the view, as everywhere.
  key(Qt::Key_Escape);
  const Vector up = window->view().camera().up();
  key(Qt::Key_Right);
  EXPECT_GT(length(window->view().camera().up() - up), 0.01);
}

TEST_F(DrawingTest, ACornerIsRoundedAndTheOutlineMirrored) {
  drawOnABlock();
  chooseKind("rectangle");
  drag(&window->view(), seen(20, 10), seen(60, 40));
  chooseKind("");
  const PlanePoint corner = solution().points[2];
  clickAt(&window->view(), seen(corner.u, corner.v));
  ASSERT_EQ(window->desk().drawing.selected(), std::vector<std::string>{"p3"});
  ASSERT_EQ(window->desk().drawing.features().size(), 2u);
  click(button("round it"));
  ASSERT_EQ(QApplication::focusWidget(), named<QLineEdit>("Value of the dimension"));
  type("6 mm");
  key(Qt::Key_Return);
  const auto area = [&] { return window->desk().trial.result()->report().drawing()->regions.front().area(); };
  const double whole =
      distance(solution().points[0], solution().points[1]) * distance(solution().points[0], solution().points[3]);
  EXPECT_NEAR(area(), whole - (1 - 3.14159265358979 / 4) * 36, 1e-6);
  // Everything across a line drawn last.
  chooseKind("line");
  drag(&window->view(), seen(75, 5), seen(75, 55));
  chooseKind("");
  const std::size_t before = drawing().curves.size();
  std::vector<std::string> all;
  for (const DrawnCurve& curve : drawing().curves) all.push_back(curve.id);
  window->desk().drawing.select(all);
  settle();
  click(button("mirror"));
  EXPECT_EQ(drawing().curves.size(), 2 * before - 1);
  EXPECT_EQ(window->desk().trial.result()->report().drawing()->regions.size(), 2u);
  EXPECT_TRUE(solution().holds());
}

TEST_F(DrawingTest, AGapIsShownAndClosed) {
  drawOnABlock();
  const auto number = [](double u, double v, const char* id) { return DrawnPoint{id, {u, v}}; };
  Drawing open;
  open.points = {number(20, 10, "p1"), number(60, 10, "p2"), number(60, 40, "p3"), number(20.4, 10.3, "p4")};
  const auto line = [](const char* id, const char* from, const char* to) {
    DrawnCurve curve{.id = id, .kind = "line", .numbers = {}};
    curve.points = {from, to};
    return curve;
  };
  open.curves = {line("l1", "p1", "p2"), line("l2", "p2", "p3"), line("l3", "p3", "p4")};
  window->desk().drawing.set(open, "Draw");
  settle();
  EXPECT_TRUE(window->desk().trial.result()->report().drawing()->regions.empty());
  click(button("close"));
  ASSERT_EQ(drawing().points.size(), 3u);
  EXPECT_EQ(window->desk().trial.result()->report().drawing()->regions.size(), 1u);
}

TEST_F(DrawingTest, AContradictionIsRefusedAndNamed) {
  drawOnABlock();
  chooseKind("line");
  drag(&window->view(), seen(20, 10), seen(60, 17));
  drag(&window->view(), seen(20, 30), seen(60, 45));
  addConstraint("parallel", "l1, l2");
  const std::size_t held = drawing().constraints.size();
  addConstraint("perpendicular", "line 1, line 2");
  // It is refused, with what it contradicts and two ways out.
  EXPECT_EQ(drawing().constraints.size(), held);
  bool told = false;
  for (QLabel* label : window->findChildren<QLabel*>())
    told |= label->isVisible() && label->text() == "right angle would contradict parallel: line 1 and line 2";
  EXPECT_TRUE(told);
  ASSERT_TRUE(window->desk().drawing.refused());
  EXPECT_EQ(window->desk().drawing.refused()->conflict.with, std::vector<std::string>{"k1"})
      << window->desk().drawing.refused()->conflict.reason;
  click(button("leave as it was"));
  EXPECT_EQ(drawing().constraints.size(), held);
  addConstraint("perpendicular", "l1, l2");
  click(button("turn that off"));
  EXPECT_EQ(drawing().constraints.size(), held);
  EXPECT_EQ(drawing().constraints.back().kind, "perpendicular");
  EXPECT_TRUE(solution().holds());
  // Taken back by one edit at a time.
  key(Qt::Key_Z, Qt::ControlModifier);
  EXPECT_EQ(drawing().constraints.back().kind, "parallel");
  key(Qt::Key_Z, Qt::ControlModifier);
  EXPECT_EQ(drawing().constraints.size(), held - 1);
  key(Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
  EXPECT_EQ(drawing().constraints.size(), held);
  // What cannot be is said at the row, and nothing changes.
  const std::size_t before = drawing().constraints.size();
  addConstraint("radius", "l1");
  EXPECT_EQ(drawing().constraints.size(), before);
}

TEST_F(DrawingTest, AnOutlineIsTakenAlongOffsetAndFollowsTheBody) {
  drawOnABlock();
  click(named<QToolButton>("Take along: outline"));
  clickPoint(onFace("block1", "block1:top"));
  settle();
  const auto taken = [&] { return window->desk().trial.step().value("taken").as<std::vector<TakenAlong>>(); };
  ASSERT_EQ(taken().size(), 1u);
  EXPECT_EQ(taken().front().face.name, "block1:top");
  click(named<QToolButton>("Take along: outline"));  // done with picking
  ASSERT_EQ(window->desk().drawing.regions().size(), 1u);
  // One side is selected, and with it what was taken along: an offset of all of it.
  clickAt(&window->view(), seen(100, 30));
  ASSERT_EQ(window->desk().drawing.selected().size(), 1u);
  window->desk().drawing.select({"taken1"});
  settle();
  click(named<QToolButton>("Offset"));
  settle();
  ASSERT_EQ(drawing().copies.size(), 1u);
  typeInto(named<QLineEdit>("offset 1: distance"), "5 mm");
  chooseFrom(named<QComboBox>("offset 1: where"), "inside");
  settle();
  const auto areas = [&] {
    std::vector<double> result;
    for (const RegionShape& region : window->desk().drawing.regions()) result.push_back(region.area);
    std::sort(result.begin(), result.end());
    return result;
  };
  ASSERT_EQ(areas().size(), 2u);
  EXPECT_NEAR(areas()[1], 90 * 50, 1e-6);
  EXPECT_NEAR(areas()[0], 6000 - 90 * 50, 1e-6);
  // The region is taken with the mouse, and alone cut with.
  window->view().setFocus();
  clickAt(&window->view(), seen(50, 20));
  ASSERT_EQ(window->desk().drawing.pickedRegions().size(), 1u);
  click(button("Cut with them"));
  settle();
  key(Qt::Key_Return);
  settle();
  EXPECT_NEAR(volume("block1"), 100 * 60 * 40 - 90 * 50 * 40, 1e-6);
  // The block gets longer: so does the pocket.
  window->desk().session.edit("longer", [](const Document& document) {
    return document.withReplaced(document.find("block1")->with("width", Expression("120 mm")));
  });
  settle();
  EXPECT_NEAR(volume("block1"), 120 * 60 * 40 - 110 * 50 * 40, 1e-6);
}

TEST_F(DrawingTest, ARingOfHolesIsMadeWithKeysAndItsCountTyped) {
  drawOnABlock();
  chooseKind("circle");
  drag(&window->view(), seen(30, 30), seen(33, 30));
  settle();
  chooseKind("");
  ASSERT_EQ(drawing().curves.size(), 1u);
  const std::string circle = drawing().curves.front().id;
  // A point in the middle to turn about.
  chooseKind("line");
  drag(&window->view(), seen(50, 30), seen(50, 50));
  chooseKind("");
  settle();
  const std::string centre = drawing().curves.back().points.front();
  window->desk().drawing.select({circle, centre});
  settle();
  auto* ring = named<QToolButton>("Ring");
  ring->setFocus();
  key(Qt::Key_Space);
  settle();
  ASSERT_EQ(drawing().copies.size(), 1u);
  EXPECT_EQ(drawing().copies.front().about, centre);
  // The keyboard is in its count already.
  type("4");
  settle();
  EXPECT_EQ(drawing().copies.front().numbers.front().text(), "4");
  EXPECT_EQ(window->desk().drawing.regions().size(), 4u);
  // All are taken and cut with: more of them later are cut, too.
  std::vector<std::string> names;
  for (const RegionShape& region : window->desk().drawing.regions()) names.push_back(region.name);
  window->desk().drawing.pickRegions(names);
  click(button("Cut with them"));
  settle();
  EXPECT_THAT(window->desk().trial.step().value("profiles").as<RegionPick>().regions,
              testing::UnorderedElementsAre(circle + "+", "ring1:*:" + circle + "+"));
  key(Qt::Key_Escape);
  settle();
  window->desk().trial.edit(window->desk().session.document().made.steps.back()->id());
  settle();
  // Removed with what it was made of, and back again.
  window->desk().drawing.select({circle});
  window->view().setFocus();
  key(Qt::Key_Delete);
  EXPECT_TRUE(drawing().copies.empty());
  key(Qt::Key_Z, Qt::ControlModifier);
  EXPECT_EQ(drawing().copies.size(), 1u);
}

TEST_F(DrawingTest, WhatWasTakenAlongBecomesASnapshotThatStays) {
  drawOnABlock();
  click(named<QToolButton>("Take along: section"));
  clickPoint(onFace("block1", "block1:top"));
  settle();
  key(Qt::Key_Escape);
  EXPECT_EQ(window->desk().drawing.taken().size(), 1u);
  clickAt(&window->view(), seen(100, 30));
  settle();
  EXPECT_TRUE(window->desk().drawing.describe(window->desk().drawing.selected().front()).contains("linked"));
  click(button("snapshot"));
  settle();
  EXPECT_TRUE(window->desk().drawing.taken().empty());
  ASSERT_EQ(drawing().curves.size(), 4u);
  ASSERT_EQ(drawing().points.size(), 4u) << "ends that meet are one point";
  EXPECT_TRUE(window->desk().drawing.describe(drawing().curves.front().id).contains("snapshot of section of Block"));
  ASSERT_EQ(window->desk().drawing.regions().size(), 1u);
  EXPECT_NEAR(window->desk().drawing.regions().front().area, 6000, 1e-6);
}

TEST_F(DrawingTest, ShiftTakesTheInsideOfIslandsAndABoxTakesRegions) {
  drawOnABlock();
  chooseKind("rectangle");
  drag(&window->view(), seen(10, 10), seen(60, 50));
  drag(&window->view(), seen(20, 20), seen(40, 40));
  drag(&window->view(), seen(70, 20), seen(85, 40));
  chooseKind("");
  settle();
  ASSERT_EQ(window->desk().drawing.regions().size(), 3u);
  clickAt(&window->view(), seen(52, 30));
  EXPECT_EQ(window->desk().drawing.pickedRegions().size(), 1u);
  clickAt(&window->view(), seen(52, 30));
  EXPECT_TRUE(window->desk().drawing.pickedRegions().empty());
  clickAt(&window->view(), seen(52, 30), Qt::ShiftModifier);
  EXPECT_EQ(window->desk().drawing.pickedRegions().size(), 2u);
  // From the card with keys.
  auto* take = named<QToolButton>(QString("Take region %1").arg([&] {
    const auto& regions = window->desk().drawing.regions();
    for (std::size_t i = 0; i < regions.size(); ++i)
      if (!regions[i].taken) return static_cast<int>(i) + 1;
    return 0;
  }()));
  take->setFocus();
  key(Qt::Key_Space);
  EXPECT_EQ(window->desk().drawing.pickedRegions().size(), 3u);
  // A box with Shift takes what lies in it; here it lets go, since all of it was taken.
  drag(&window->view(), seen(5, 5), seen(65, 55), Qt::LeftButton, Qt::ShiftModifier);
  EXPECT_EQ(window->desk().drawing.pickedRegions().size(), 1u);
  drag(&window->view(), seen(5, 5), seen(90, 55), Qt::LeftButton, Qt::ShiftModifier);
  EXPECT_EQ(window->desk().drawing.pickedRegions().size(), 3u);
}

}  // namespace
}  // namespace kervo::test
