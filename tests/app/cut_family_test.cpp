// Split, Combine and their pieces as a person does them: cutters from the view and the list, offers, badges, groups.
#include "app/look.h"
#include "exchange/body_file.h"
#include "support/document_builder.h"
#include "support/trial_driver.h"

namespace kervo::test {
namespace {

class CutFamily : public TrialTest {};

TEST_F(CutFamily, LineThatIsTooShortIsMendedByOneClick) {
  start(documentOf({plate(), drawing("d", test::onFace("plate", "plate:top"), {line("l", "-60", "0", "30", "0")})}));
  window->desk().selection.setStep("d");
  settle();
  click(button("Split along it"));
  ASSERT_TRUE(window->desk().trial.active());
  EXPECT_TRUE(hasLine("\"l\" ends inside \"Block\": it is 20 mm too short"));
  // The reason stands first, as far as there is room, above what is offered; *more* shows all of it.
  const auto shownLabels = [&] {
    QStringList texts;
    for (const QLabel* label : window->bench().before()->findChildren<QLabel*>("bad"))
      if (label->isVisible()) texts << label->text();
    return texts;
  };
  ASSERT_EQ(shownLabels().size(), 1);
  EXPECT_TRUE(shownLabels().front().startsWith("nothing is divided"));
  window->resize(1040, 800);
  settle();
  QToolButton* more = window->bench().before()->moreButton();
  ASSERT_TRUE(more->isVisible());
  EXPECT_TRUE(shownLabels().front().endsWith("…"));
  more->setFocus();
  key(Qt::Key_Space);
  QWidget* popup = QApplication::activePopupWidget();
  ASSERT_NE(popup, nullptr);
  QStringList all;
  for (const QLabel* label : popup->findChildren<QLabel*>()) all << label->text();
  EXPECT_EQ(all, window->bench().before()->lines());
  QTest::keyClick(popup, Qt::Key_Escape);
  settle();
  EXPECT_EQ(QApplication::activePopupWidget(), nullptr);
  ASSERT_TRUE(window->desk().trial.active()) << "Esc closed the list only";
  // The gap shows in the view, the cut cannot be made.
  bool gap = false;
  for (const SceneLine& each : window->view().scene().lines) gap |= each.style == SceneLine::Style::Fault;
  EXPECT_TRUE(gap);
  EXPECT_FALSE(window->bench().before()->makeButton()->isEnabled());
  QPushButton* extend = nullptr;
  for (QPushButton* each : window->bench().findChildren<QPushButton*>("offer"))
    if (each->text().startsWith("Extend by")) extend = each;
  ASSERT_NE(extend, nullptr);
  click(extend);
  EXPECT_TRUE(hasLine("volume balances"));
  // All of a plain report is there, and nothing of it is cut off.
  EXPECT_FALSE(more->isVisible());
  for (const QLabel* label : window->bench().before()->findChildren<QLabel*>())
    if (!label->text().isEmpty()) {
      EXPECT_TRUE(label->isVisible()) << label->text().toStdString();
      EXPECT_GE(label->height(), label->heightForWidth(label->width())) << label->text().toStdString();
    }
  key(Qt::Key_Return);
  EXPECT_EQ(model().bodies.size(), 2u);
  EXPECT_NEAR(model().bodies[0].shape().volume(), 30000, 1e-6);
}

TEST_F(CutFamily, CuttersOfSeveralKindsArePickedAndTakenOut) {
  start(documentOf(
      {plate(), step("rod", "cylinder",
                     {{"radius", Expression("8")}, {"height", Expression("40")}, {"at", point("20", "0", "-5")}})}));
  key(Qt::Key_B, Qt::ControlModifier | Qt::ShiftModifier);
  ASSERT_TRUE(window->desk().trial.active());
  window->desk().trial.setField("stock", bodies({"plate"}));
  window->desk().trial.setField("cutters", std::vector<CutterPick>{});
  settle();
  // The empty well takes picks from the view: the round face, then the whole body.
  window->bench().arm(window->bench().editor("cutters"));
  settle();
  clickPoint(onFace("rod", "rod:side") + Vector{0, 0, 15});
  ASSERT_EQ(window->desk().trial.step().value("cutters").as<std::vector<CutterPick>>().size(), 1u);
  EXPECT_EQ(window->desk().trial.step().value("cutters").as<std::vector<CutterPick>>()[0].kind, CutterPick::Kind::Face);
  EXPECT_EQ(kept().size(), 2u);
  click(named<QAbstractButton>("Cutter: pick whole bodies"));
  clickPoint(onFace("rod", "rod:top"));
  ASSERT_EQ(window->desk().trial.step().value("cutters").as<std::vector<CutterPick>>().size(), 2u);
  click(named<QAbstractButton>("Remove side of Cylinder"));
  EXPECT_EQ(window->desk().trial.step().value("cutters").as<std::vector<CutterPick>>().size(), 1u);
  key(Qt::Key_Escape);
  EXPECT_EQ(kept(), (std::vector<BodyId>{"plate/inside", "plate/outside"}));
}

TEST_F(CutFamily, PlaneIsBuiltOnTheSpotWithTheMouseAndWithKeys) {
  start(documentOf({plate()}));
  key(Qt::Key_B, Qt::ControlModifier | Qt::ShiftModifier);
  ASSERT_TRUE(window->desk().trial.active());
  window->desk().trial.setField("cutters", std::vector<CutterPick>{});
  settle();
  const auto build = [&](const QString& text) {
    auto* list = named<QToolButton>("Cutter: choose from a list");
    ASSERT_NE(list, nullptr);
    emit list->menu()->aboutToShow();
    for (QAction* action : list->menu()->actions())
      for (QAction* each : action->menu() ? action->menu()->actions() : QList<QAction*>())
        if (each->text() == text) each->trigger();
    settle();
  };
  const auto cutters = [&] { return window->desk().trial.step().value("cutters").as<std::vector<CutterPick>>(); };
  build("Midway between two faces …");
  EXPECT_TRUE(button("▸ first face …"));
  clickPoint(onFace("plate", "plate:top"));
  EXPECT_TRUE(button("▸ second face …"));
  EXPECT_TRUE(cutters().empty());
  clickPoint(onFace("plate", "plate:front"));
  ASSERT_EQ(cutters().size(), 1u);
  EXPECT_EQ(cutters()[0].plane.kind, PlanePick::Kind::Midway);
  // The diagonal at the upper front edge: a prism of 10 × 10 / 2 goes to one side.
  ASSERT_EQ(kept().size(), 2u);
  EXPECT_NEAR(std::min(tried().pieces[0].volume, tried().pieces[1].volume), 100 * 50, 1e-6);

  // Half built and left by Esc, it is forgotten.
  click(named<QAbstractButton>("Remove midway top of Block | front of Block"));
  key(Qt::Key_Escape);
  build("Through three corners …");
  key(Qt::Key_N);
  key(Qt::Key_Space);
  EXPECT_TRUE(button("▸ corner 2 of 3 …"));
  key(Qt::Key_Escape);
  EXPECT_TRUE(cutters().empty());
  build("Through three corners …");
  for (int i = 0; i < 3; ++i) {
    key(Qt::Key_N);
    key(Qt::Key_Space);
  }
  ASSERT_EQ(cutters().size(), 1u);
  EXPECT_EQ(cutters()[0].plane.points.size(), 3u);
}

// An assembly of seventeen bodies that Kervo did not make: halved with a kerf, put together again by undo, divided
// where its bodies overlap, all with keys.
TEST_F(CutFamily, ThirdPartyAssemblyWithKeysAlone) {
  const TemporaryFolder folder;
  Progress progress;
  const FileContents motor = readBodies("/usr/share/opencascade/data/occ/Motor-c.brep", progress);
  writeBodies(folder / "motor.step", motor.bodies, "mm", progress);
  open((folder / "motor.step").string());
  const auto total = [&] {
    double volume = 0;
    for (const Body& body : model().bodies) volume += body.shape().volume();
    return volume;
  };
  const double whole = total();
  ASSERT_EQ(model().bodies.size(), 17u);

  key(Qt::Key_B, Qt::ControlModifier | Qt::ShiftModifier);
  ASSERT_TRUE(window->desk().trial.active());
  tabTo("Kerf");
  type("1 mm");
  tabTo("Keep: both");
  key(Qt::Key_Right);
  tabTo("All bodies on that side");
  key(Qt::Key_Space);
  const double removed = tried().audit.volumeRemoved;
  EXPECT_NEAR(tried().audit.balance, 0, 1e-6 * whole);
  key(Qt::Key_Return);
  EXPECT_FALSE(window->desk().trial.active());
  EXPECT_NEAR(total(), whole - removed, 1e-6 * whole);
  const double saw = -55 + 0.5;  // the middle, as the step proposes it
  for (const Body& body : model().bodies) EXPECT_GT(body.shape().box().low.x, saw - 1e-3) << body.name;
  key(Qt::Key_Z, Qt::ControlModifier);
  EXPECT_EQ(model().bodies.size(), 17u);

  key(Qt::Key_M, Qt::ControlModifier | Qt::ShiftModifier);
  tabTo("Verb");
  for (int i = 0; i < 6 && !hasLine("volume balances"); ++i) {
    if (window->desk().trial.step().value("verb").as<std::string>() == "partition")
      window->desk().trial.setField("stock", BodyPick{true, {}});
    else
      key(Qt::Key_Down);
    settle();
  }
  EXPECT_EQ(window->desk().trial.step().value("verb").as<std::string>(), "partition");
  EXPECT_TRUE(hasLine("volume balances"));
  key(Qt::Key_Return);
  EXPECT_GT(model().bodies.size(), 17u);
  // What two bodies had in common is there once now.
  EXPECT_LT(total(), whole - 9000);
}

TEST_F(CutFamily, MessagesNameBodiesAndFacesAsPeopleSeeThem) {
  start(documentOf({plate(), block("far", "5", "5", "5", {"200", "0", "0"})}));
  window->desk().trial.begin(step("s", "split",
                                  {{"stock", bodies({"plate"})},
                                   {"cutters", std::vector{CutterPick::of(FaceReference{"", "far:top", std::nullopt})}},
                                   {"extent", std::string("finite")}}));
  settle();
  EXPECT_TRUE(hasLine("\"top of Block\"")) << window->bench().before()->lines().join("\n").toStdString();
  EXPECT_FALSE(hasLine("far:top"));
}

TEST_F(CutFamily, BadgesAndWordsKeepAndDropPieces) {
  start(documentOf({plate(), step("s", "split", {{"cutters", cutBy("yz")}, {"offset", Expression("10 mm")}})}));
  window->desk().trial.edit("s");
  settle();
  ASSERT_EQ(kept().size(), 2u);
  clickAt(&window->view(), badgeOf("plate/front"));
  EXPECT_EQ(kept(), std::vector<BodyId>{"plate/back"});
  // Dropped ones are still there, as ghosts with a badge; another click brings it back.
  clickAt(&window->view(), badgeOf("plate/front"));
  EXPECT_EQ(kept().size(), 2u);
  click(button("keep largest"));
  EXPECT_EQ(kept(), std::vector<BodyId>{"plate/back"});
  click(button("invert"));
  EXPECT_EQ(kept(), std::vector<BodyId>{"plate/front"});
  // With the keyboard, in the list.
  auto* list = window->bench().pieces();
  list->setFocus();
  list->setCurrentIndex(list->model()->index(1, 0));
  key(Qt::Key_Space);
  EXPECT_EQ(kept().size(), 2u);
  key(Qt::Key_Delete);
  EXPECT_EQ(kept(), std::vector<BodyId>{"plate/front"});
  key(Qt::Key_Return);
  EXPECT_EQ(model().bodies.size(), 1u);
  EXPECT_NEAR(model().bodies[0].shape().volume(), 40 * 60 * 10, 1e-6);
}

TEST_F(CutFamily, PiecesThatTouchABodyStay) {
  start(documentOf({plate(), block("stop", "5", "5", "10", {"50", "0", "0"}),
                    step("s", "split", {{"stock", bodies({"plate"})}, {"cutters", cutBy("yz")}})}));
  window->desk().trial.edit("s");
  settle();
  click(button("keep touching …"));
  clickPoint(onFace("stop", "stop:top"));
  EXPECT_EQ(kept(), std::vector<BodyId>{"plate/front"});
}

TEST_F(CutFamily, BoxOverBadgesDropsThem) {
  start(documentOf({plate(), step("s", "split", {{"cutters", std::vector{cutBy("yz")[0], cutBy("xz")[0]}}})}));
  window->desk().trial.edit("s");
  settle();
  ASSERT_EQ(kept().size(), 4u);
  const QPoint at = badgeOf("plate/front-front");
  drag(&window->view(), at - QPoint(16, 16), at + QPoint(16, 16));
  EXPECT_EQ(kept().size(), 3u);
}

TEST_F(CutFamily, PieceThatAppearsAfterAnEditIsAnnounced) {
  start(documentOf({block("a", "length", "10", "10"),
                    drawing("d", test::onFace("a", "a:top"), {rectangle("r", "10", "-1", "5", "12")}),
                    step("c", "cut", {{"profiles", allOf("d")}})},
                   {{"length", Expression("14 mm")}}));
  EXPECT_FALSE(window->message().isVisible());
  ASSERT_EQ(model().bodies.size(), 1u);
  editCell(window->dimensions().sheet(), 0, 1, "30 mm");
  EXPECT_EQ(model().bodies.size(), 2u);
  EXPECT_TRUE(window->message().isVisible());
  EXPECT_TRUE(window->message().text().contains("pieces that were not there before"))
      << window->message().text().toStdString();
  click(button("Look at the step"));
  EXPECT_EQ(window->desk().trial.step().id(), "c");
}

TEST_F(CutFamily, GroupIsOpenedItsMemberMovedAndClosedAgain) {
  start(documentOf({plate(), block("hole", "10", "10", "30", {"0", "0", "-10"})}));
  window->desk().selection.set({{Pick::Kind::Body, "hole", 0}});
  settle();
  click(button("Mark as hole-maker"));
  window->desk().selection.set({{Pick::Kind::Body, "plate", 0}, {Pick::Kind::Body, "hole", 0}});
  settle();
  click(button("Group them"));
  EXPECT_TRUE(hasLine("removes 1.00 cm³"));
  key(Qt::Key_Return);
  EXPECT_NEAR(volume("group1"), 60000 - 1000, 1e-6);
  window->desk().selection.setStep("group1");
  settle();
  click(button("Open the group"));
  EXPECT_EQ(model().bodies.size(), 2u);
  window->desk().selection.set({{Pick::Kind::Body, "hole", 0}});
  settle();
  click(button("Place …"));
  typeInto(named<QLineEdit>("By x"), "45 mm");
  key(Qt::Key_Return);
  window->desk().selection.setStep("group1");
  settle();
  click(button("Close the group"));
  // Half of it is over the edge now.
  EXPECT_NEAR(volume("group1"), 60000 - 500, 1e-6);
}

TEST_F(CutFamily, AngleGaugeTurnsThePlane) {
  start(documentOf({block("a", "40", "40", "40", {"-20", "-20", "-20"})}));
  key(Qt::Key_B, Qt::ControlModifier | Qt::ShiftModifier);
  typeInto(named<QLineEdit>("Tilt"), "30 deg");
  const auto& gauges = tried().gauges;
  const auto tilt = std::find_if(gauges.begin(), gauges.end(), [](const Gauge& each) { return each.field == "tilt"; });
  ASSERT_NE(tilt, gauges.end());
  const auto onScreen = [&](double angle) { return window->view().toWidget(tilt->armAt(angle)).toPoint(); };
  drag(&window->view(), onScreen(tilt->value), onScreen(0.2618));
  EXPECT_EQ(window->desk().trial.step().value("tilt").as<Expression>().text(), "15 deg");
  EXPECT_TRUE(hasLine("volume balances"));
}

TEST_F(CutFamily, CutterThatMissesIsDraggedToWhereItCuts) {
  start(documentOf({block("bar", "60", "20", "20")}));
  clickPoint(onFace("bar", "bar:top"));
  click(button("Split along it"));
  // A plane along the body's own face divides nothing; that is said, and the plane can be taken hold of.
  ASSERT_TRUE(hasLine("nothing is divided"));
  ASSERT_NE(window->gauges().field("offset"), nullptr);
  const auto& report = window->desk().trial.result()->report();
  ASSERT_TRUE(report.finding);
  const auto& gauges = report.finding->gauges;
  const auto offset = std::find_if(gauges.begin(), gauges.end(), [](const Gauge& g) { return g.field == "offset"; });
  ASSERT_NE(offset, gauges.end());
  const QPoint from = window->view().toWidget(offset->from).toPoint();
  const QPoint to = window->view().toWidget(offset->from - offset->along * 8).toPoint();
  drag(&window->view(), from, to);
  EXPECT_TRUE(hasLine("volume balances")) << window->bench().before()->lines().join("\n").toStdString();
  EXPECT_EQ(kept().size(), 2u);
  key(Qt::Key_Return);
  ASSERT_EQ(model().bodies.size(), 2u);
  EXPECT_NEAR(volume("bar/front") + volume("bar/back"), 24000, 1e-6);
  EXPECT_GT(volume("bar/front"), 1000);
}

TEST_F(CutFamily, NumbersInTheViewDoNotCoverEachOther) {
  start(documentOf({block("cube", "10", "10", "10")}));
  window->desk().selection.set({body("cube")});
  settle();
  key(Qt::Key_P, Qt::ControlModifier);
  const auto apart = [&](const char* when) {
    std::vector<QRect> rects;
    for (const char* field : {"x", "y", "z"}) {
      QWidget* frame = window->gauges().field(field)->parentWidget();
      EXPECT_TRUE(window->view().rect().contains(frame->geometry())) << field << ", " << when;
      for (const QRect& other : rects) EXPECT_FALSE(frame->geometry().intersects(other)) << field << ", " << when;
      rects.push_back(frame->geometry());
    }
  };
  apart("home");
  window->view().look(StandardView::Top);
  settle();
  apart("from above");
  // Far away, where all three beads lie at one place, and so near that they are outside the view.
  window->view().zoomBy(0.02);
  settle();
  apart("far away");
  window->view().zoomBy(2000);
  settle();
  apart("near");
}

TEST_F(CutFamily, RegionsGetDepthsOfTheirOwn) {
  start(documentOf(
      {plate(),
       drawing("d", test::onFace("plate", "plate:top"), {circle("c1", "-20", "0", "5"), circle("c2", "20", "0", "3")}),
       step("c", "cut", {{"profiles", allOf("d")}, {"to", std::string("distance")}, {"depth", Expression("4 mm")}})}));
  window->desk().trial.edit("c");
  settle();
  typeInto(named<QLineEdit>("Depth of c2+"), "6 mm");
  const double pi = std::acos(-1.0);
  EXPECT_NEAR(tried().audit.volumeRemoved, pi * (25 * 4 + 9 * 6), 1e-6);
  typeInto(named<QLineEdit>("Depth of c2+"), " ");
  EXPECT_NEAR(tried().audit.volumeRemoved, pi * (25 * 4 + 9 * 4), 1e-6);
}

TEST_F(CutFamily, LimitForWallsIsTold) {
  Document document =
      documentOf({plate(), drawing("d", test::onFace("plate", "plate:top"), {circle("c", "44", "0", "4")}),
                  step("c", "cut", {{"profiles", allOf("d")}})});
  document.seen.wallLimit = Expression("3 mm");
  start(document);
  window->desk().trial.edit("c");
  settle();
  EXPECT_TRUE(hasLine("thinnest wall 2.00 mm, under the limit of 3.00 mm"));
}

TEST_F(CutFamily, TwoThousandPiecesAreListedAndLitOneByOne) {
  start(documentOf({block("a", "2", "2", "2"), step("p", "pattern",
                                                    {{"bodies", bodies({"a"})},
                                                     {"way", std::string("grid")},
                                                     {"count", Expression("50")},
                                                     {"spacing", Expression("4")},
                                                     {"rows", Expression("40")},
                                                     {"row_spacing", Expression("4")}})}));
  EXPECT_EQ(model().bodies.size(), 2000u);
  window->desk().trial.edit("p");
  settle();
  auto* list = window->bench().pieces();
  EXPECT_EQ(list->model()->rowCount(), 1999);
  const QImage before = window->view().grabFramebuffer();
  list->scrollTo(list->model()->index(1500, 0));
  clickAt(list->viewport(), list->visualRect(list->model()->index(1500, 0)).center());
  EXPECT_NE(window->view().grabFramebuffer(), before);
}

TEST_F(CutFamily, SnapshotFollowsNothing) {
  start(documentOf({block("a", "10", "10", "size")}, {{"size", Expression("10 mm")}}));
  window->desk().selection.set({{Pick::Kind::Body, "a", 0}});
  for (const app::Verb& verb : window->verbs())
    if (verb.key == "freeze") verb.run();
  settle();
  ASSERT_EQ(model().bodies.size(), 2u);
  window->desk().session.edit("size",
                              [](const Document& now) { return now.withDimension("size", Expression("30 mm")); });
  settle();
  EXPECT_NEAR(model().bodies[0].shape().volume(), 3000, 1e-9);
  EXPECT_NEAR(model().bodies[1].shape().volume(), 1000, 1e-9);
}

}  // namespace
}  // namespace kervo::test
