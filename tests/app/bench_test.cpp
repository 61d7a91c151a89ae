// The Bench: offers, wells and picks, shields, gauges, the keyboard alone.

#include "support/document_builder.h"
#include "support/window_driver.h"

namespace kervo::test {
namespace {

class BenchTest : public WindowTest {
 protected:
  QStringList offers() {
    QStringList texts;
    for (QToolButton* each : window->bench().findChildren<QToolButton*>("verb"))
      if (each->isVisible()) texts << each->text();
    return texts;
  }
  /// A block of 100 × 60 × 40 with one corner at the origin.
  void makeBlock() {
    click(button("Block"));
    key(Qt::Key_Return);
  }
};

TEST_F(BenchTest, FirstStartOffersWhatStartsAModel) {
  EXPECT_TRUE(offers().contains("Bring in …"));
  EXPECT_TRUE(offers().contains("Block"));
  EXPECT_TRUE(offers().contains("Open demo"));
  click(button("Open demo"));
  EXPECT_EQ(model().bodies.size(), 3u);
}

TEST_F(BenchTest, OffersFitTheSelection) {
  openDemo();
  EXPECT_FALSE(offers().contains("Open demo"));
  clickPoint(onFace("clamp/front", "clamp:side:front"));
  EXPECT_TRUE(offers().contains("Draw on it"));
  EXPECT_TRUE(offers().contains("Cut through it"));
  window->desk().selection.setStep("halves");
  EXPECT_TRUE(offers().contains("Edit on the Bench"));
  EXPECT_FALSE(offers().contains("Draw on it"));
}

TEST_F(BenchTest, BlockFromTypedSizes) {
  click(button("Block"));
  typeInto(named<QLineEdit>("Width"), "80");
  typeInto(named<QLineEdit>("Depth"), "50 mm");
  typeInto(named<QLineEdit>("Height"), "2 cm");
  EXPECT_TRUE(hasLine("adds 80.00 cm³"));
  EXPECT_TRUE(model().bodies.empty());
  key(Qt::Key_Return);
  EXPECT_NEAR(volume("block1"), 80000, 1e-6);
}

TEST_F(BenchTest, ShieldedBodyIsSparedByTheCut) {
  openDemo();
  auto* sheet = window->bodies().sheet();
  const int back = 2;
  clickAt(sheet->viewport(), sheet->visualRect(sheet->model()->index(back, 1)).center());
  clickAt(sheet->viewport(), sheet->visualRect(sheet->model()->index(back, 4)).center());
  ASSERT_TRUE(model().find("clamp/back")->shielded);
  const double before = volume("clamp/back");
  clickPoint(onFace("clamp/front", "clamp:side:front"));
  click(button("Cut through it"));
  click(named<QToolButton>("Add a circle"));
  key(Qt::Key_Return);
  EXPECT_TRUE(hasLine("shielded: Mast, Clamp, back"));
  EXPECT_EQ(window->bench().pieces()->pieces()->rowCount(), 2);
  key(Qt::Key_Return);
  EXPECT_DOUBLE_EQ(volume("clamp/back"), before);
  EXPECT_LT(volume("clamp/front"), before - 100);
}

TEST_F(BenchTest, WellTakesBodiesFromTheView) {
  makeBlock();
  click(button("Cylinder"));
  typeInto(named<QLineEdit>("Radius"), "15 mm");
  typeInto(named<QLineEdit>("Height"), "60 mm");
  typeInto(named<QLineEdit>("Place u"), "50 mm");
  typeInto(named<QLineEdit>("Place v"), "30 mm");
  key(Qt::Key_Return);
  window->desk().selection.set({{Pick::Kind::Body, "block1", 0}});
  click(button("Cut it with …"));
  // The cutter well is empty and takes picks at once.
  ASSERT_NE(window->bench().armed(), nullptr);
  EXPECT_EQ(window->bench().armed()->field().key(), "cutters");
  clickPoint(onFace("cylinder1", "cylinder1:top"));
  EXPECT_TRUE(hasLine("volume balances"));
  key(Qt::Key_Return);
  EXPECT_NEAR(volume("block1"), 240000 - 3.14159265358979 * 225 * 40, 1e-3);
  EXPECT_EQ(model().bodies.size(), 1u);
}

TEST_F(BenchTest, DraggedGaugeChangesTheFieldAndSnaps) {
  click(button("Block"));
  const auto& gauges = window->desk().trial.result()->report().result->gauges;
  const auto height = std::find_if(gauges.begin(), gauges.end(), [](const Gauge& g) { return g.field == "height"; });
  ASSERT_NE(height, gauges.end());
  const Point bead = height->from + height->along * height->value;
  const QPoint from = window->view().toWidget(bead).toPoint();
  const QPoint to = window->view().toWidget(bead + height->along * 20).toPoint();
  drag(&window->view(), from, to);
  const auto value = window->desk().trial.value("height");
  ASSERT_TRUE(value);
  EXPECT_NEAR(*value, 60, 4);
  EXPECT_NEAR(std::fmod(*value, 0.5), 0, 1e-9);
  // The field in the view says the same and takes expressions.
  QLineEdit* field = window->gauges().field("height");
  ASSERT_NE(field, nullptr);
  typeInto(field, "12 mm * 2");
  EXPECT_NEAR(*window->desk().trial.value("height"), 24, 1e-9);
}

TEST_F(BenchTest, CircleIsDrawnInTheViewWithARoundRadius) {
  makeBlock();
  click(button("Top"));
  clickPoint(onFace("block1", "block1:top"));
  click(button("Draw on it"));
  click(named<QToolButton>("Draw: circle"));
  const QPoint from = window->view().toWidget({50, 30, 40}).toPoint(),
               to = window->view().toWidget({59.7, 30.2, 40}).toPoint();
  drag(&window->view(), from, to);
  const auto& curves = window->desk().trial.step().value("curves").as<Drawing>().curves;
  ASSERT_EQ(curves.size(), 1u);
  EXPECT_EQ(curves[0].kind, "circle");
  ASSERT_EQ(curves[0].sizes.size(), 1u);
  const double radius = curves[0].sizes[0];
  EXPECT_NEAR(radius, 10, 1);
  EXPECT_NEAR(radius * 2, std::round(radius * 2), 1e-9);
}

TEST_F(BenchTest, DrawingIsSelectedOnceItIsMade) {
  makeBlock();
  click(button("Top"));
  clickPoint(onFace("block1", "block1:top"));
  click(button("Draw on it"));
  click(named<QToolButton>("Add a line"));
  key(Qt::Key_Return);
  settle();
  ASSERT_FALSE(window->desk().trial.active());
  EXPECT_EQ(window->desk().selection.step(), "drawing1");
  EXPECT_NE(button("Extrude it"), nullptr);
  // The line, not the face that was drawn on, is what the next verb cuts with.
  click(button("Split along it"));
  const auto cutters = window->desk().trial.step().value("cutters").as<std::vector<CutterPick>>();
  ASSERT_EQ(cutters.size(), 1u);
  EXPECT_EQ(cutters[0].kind, CutterPick::Kind::Drawing);
  EXPECT_EQ(cutters[0].drawing.drawing, "drawing1");
}

TEST_F(BenchTest, LongWorkIsStoppedAndNothingIsLost) {
  makeBlock();
  // A torus cut by many balls takes a while; stopping it leaves the block as it was.
  Document document = window->desk().session.document();
  for (int i = 0; i < 40; ++i)
    document =
        document.withStep(step("ball" + std::to_string(i), "sphere",
                               {{"radius", Expression("12 mm")}, {"at", point(std::to_string(2 * i), "30", "20")}}));
  std::vector<BodyId> balls;
  for (int i = 0; i < 40; ++i) balls.push_back("ball" + std::to_string(i));
  window->desk().session.apply(document, "Balls");
  settle();
  window->desk().trial.begin(step("cut", "combine", {{"stock", bodies({"block1"})}, {"cutters", bodies(balls)}}));
  QTest::qWait(60);
  window->desk().worker.stop();
  settle();
  EXPECT_TRUE(window->desk().trial.wasStopped());
  EXPECT_TRUE(hasLine("stopped"));
  EXPECT_NEAR(volume("block1"), 240000, 1e-6);
  key(Qt::Key_Escape);
  EXPECT_EQ(model().bodies.size(), 41u);
}

TEST_F(BenchTest, StepComesBackOnTheBenchAndLaterStepsAreWatched) {
  openDemo();
  window->desk().selection.setStep("bore_outline");
  key(Qt::Key_Return, Qt::ControlModifier);
  ASSERT_TRUE(window->desk().trial.active());
  typeInto(named<QLineEdit>("circle bore: radius"), "100 mm");
  EXPECT_TRUE(hasLine("later step fails")) << window->bench().before()->lines().join("\n").toStdString();
  typeInto(named<QLineEdit>("circle bore: radius"), "20 mm");
  EXPECT_FALSE(hasLine("later step fails"));
  key(Qt::Key_Return);
  EXPECT_GT(volume("clamp/front"), 83571);
}

TEST_F(BenchTest, EdgesAreRounded) {
  makeBlock();
  window->stage().setFilter({false, false, true, false});
  clickPoint({100, 0, 20});
  ASSERT_EQ(window->desk().selection.count(Pick::Kind::Edge), 1u);
  click(button("Round edges …"));
  typeInto(named<QLineEdit>("Radius"), "5 mm");
  key(Qt::Key_Return);
  EXPECT_NEAR(volume("block1"), 240000 - 40 * 25 * (1 - 3.14159265358979 / 4), 1e-3);
}

TEST_F(BenchTest, EverythingByKeysAlone) {
  // New block from Find, sizes by Tab, a drawing on its top by marking faces, a cut by Enter.
  key(Qt::Key_K, Qt::ControlModifier);
  type("block");
  key(Qt::Key_Return);
  ASSERT_TRUE(window->desk().trial.active());
  key(Qt::Key_A, Qt::ControlModifier);
  type("60");
  key(Qt::Key_Tab);
  type("60");
  key(Qt::Key_Return);
  ASSERT_NEAR(volume("block1"), 60 * 60 * 40, 1e-6);
  key(Qt::Key_3, Qt::AltModifier);
  for (int i = 0; i < 6; ++i) {
    key(Qt::Key_N);
    const auto face = app::faceReference(*window->view().hovered(), window->desk().shownPictures);
    if (face && face->name == "block1:top") break;
  }
  key(Qt::Key_Space);
  ASSERT_EQ(window->desk().selection.picks().size(), 1u);
  key(Qt::Key_C, Qt::ControlModifier | Qt::ShiftModifier);
  ASSERT_TRUE(window->desk().trial.active());
  // The numbers of curves stand in the panel of the drawing, before its list.
  key(Qt::Key_4, Qt::AltModifier);
  for (int i = 0;
       i < 8 && !(QApplication::focusWidget() && QApplication::focusWidget()->accessibleName() == "Add a circle"); ++i)
    key(Qt::Key_Backtab, Qt::ShiftModifier);
  key(Qt::Key_Space);
  key(Qt::Key_A, Qt::ControlModifier);
  type("6 mm");
  key(Qt::Key_Return);
  ASSERT_EQ(window->desk().trial.step().kind().key(), "cut");
  // Enter on a pressed word would press it again: the keyboard is in the first field.
  for (int i = 0; i < 20 && !qobject_cast<QPushButton*>(QApplication::focusWidget()); ++i) key(Qt::Key_Tab);
  key(Qt::Key_Return);
  EXPECT_NEAR(volume("block1"), 60 * 60 * 40 - 3.14159265358979 * 36 * 40, 1e-3);
}

TEST_F(BenchTest, WellThatHasNothingToFillIsNotShown) {
  makeBlock();
  const auto shows = [&](const char* title) {
    const auto labels = window->bench().findChildren<QLabel*>();
    return std::any_of(labels.begin(), labels.end(),
                       [&](const QLabel* label) { return label->isVisible() && label->text() == title; });
  };
  window->desk().session.apply(window->desk().session.document().withStep(
                                   drawing("d", test::onFace("block1", "block1:top"), {circle("c", "50", "30", "5")})),
                               "drawing");
  settle();
  window->desk().selection.setStep("d");
  settle();
  key(Qt::Key_E, Qt::ControlModifier | Qt::ShiftModifier);
  ASSERT_TRUE(window->desk().trial.active());
  EXPECT_FALSE(shows("Taken"));
  window->bench().editor("then")->first()->setFocus();
  key(Qt::Key_Right);
  EXPECT_TRUE(shows("Taken"));
  // What it is to be joined to is missing, and is picked at once.
  ASSERT_NE(window->bench().armed(), nullptr);
  EXPECT_EQ(window->bench().armed()->field().key(), "stock");
  clickPoint(onFace("block1", "block1:front"));
  key(Qt::Key_Return);
  EXPECT_NEAR(volume("block1"), 240000 + 3.14159265358979 * 25 * 10, 1e-3);
}

}  // namespace
}  // namespace kervo::test
