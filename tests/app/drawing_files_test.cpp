// Outlines of files, tangent planes, planes of the world and trims by keys in the real window.
#include <QCheckBox>
#include <QDialog>
#include <QDropEvent>
#include <QListWidget>
#include <QMimeData>
#include <QTimer>
#include <numbers>

#include "app/drawing_driver.h"

namespace kervo::test {
namespace {

constexpr double pi = std::numbers::pi;

class DrawingFiles : public DrawingTest {
 protected:
  static QString pathOf(const std::string& file) {
    return QString::fromStdString(std::string(KERVO_SOURCE_DIR) + "/tests/data/curves/" + file);
  }
  /// Brings a file in; `answer` is given the dialog when it asks.
  template <class Answer>
  void bringIn(const std::string& file, Answer&& answer) {
    answered([&] { window->files().bringIn(pathOf(file)); }, answer);
  }
  template <class Do, class Answer>
  void answered(Do&& begin, Answer&& answer) {
    bool asked = false;
    QTimer wait;
    QObject::connect(&wait, &QTimer::timeout, window.get(), [&] {
      auto* dialog = qobject_cast<QDialog*>(QApplication::activeModalWidget());
      if (!dialog || asked) return;
      asked = true;
      answer(*dialog);
    });
    wait.start(20);
    begin();
    ASSERT_TRUE(QTest::qWaitFor(
        [&] { return asked && !QApplication::activeModalWidget() && !window->files().reader().busy(); }, 20'000));
    settle();
  }
};

TEST_F(DrawingFiles, LayersThatAreWantedComeInAsDrawings) {
  bringIn("R2000.dxf", [&](QDialog& dialog) {
    auto* layers = dialog.findChild<QListWidget*>();
    ASSERT_EQ(layers->count(), 2);
    EXPECT_EQ(layers->item(0)->text(), "Cut of R2000.dxf · 10 curves");
    // Down to the second layer and Space, as without a mouse.
    layers->setFocus();
    layers->setCurrentRow(0);
    QTest::keyClick(layers, Qt::Key_Space);
    EXPECT_EQ(layers->item(0)->checkState(), Qt::Unchecked);
    QTest::keyClick(layers, Qt::Key_Return);
    if (dialog.isVisible()) dialog.accept();
  });
  ASSERT_EQ(window->desk().session.document().made.steps.size(), 1u);
  EXPECT_EQ(model().steps.front().drawing()->regions.size(), 2u);
  key(Qt::Key_Z, Qt::ControlModifier);
  EXPECT_TRUE(window->desk().session.document().made.steps.empty());
}

TEST_F(DrawingFiles, AFileOfOutlinesIsDroppedOnTheDrawing) {
  drawOnABlock();
  QMimeData dropped;
  dropped.setUrls({QUrl::fromLocalFile(pathOf("R2000.dxf"))});
  const QPointF at = window->rect().center();
  answered(
      [&] {
        QDragEnterEvent enter(at.toPoint(), Qt::CopyAction, &dropped, Qt::LeftButton, {});
        QApplication::sendEvent(window.get(), &enter);
        ASSERT_TRUE(enter.isAccepted());
        QDropEvent drop(at, Qt::CopyAction, &dropped, Qt::LeftButton, {});
        QApplication::sendEvent(window.get(), &drop);
      },
      [&](QDialog& dialog) { dialog.accept(); });
  EXPECT_GE(drawing().curves.size(), 10u);
  EXPECT_EQ(window->desk().session.document().made.steps.size(), 1u);
}

TEST_F(DrawingFiles, CurvesComeIntoTheDrawingInTheUnitThatIsChosen) {
  drawOnABlock();
  bringIn("R12.dxf", [&](QDialog& dialog) {
    // It does not say its unit: the size follows what is chosen.
    auto* unit = dialog.findChild<QComboBox*>();
    EXPECT_EQ(unit->currentText(), "mm");
    const auto shows = [&](const QString& text) {
      for (const QLabel* label : dialog.findChildren<QLabel*>())
        if (label->text() == text) return true;
      return false;
    };
    EXPECT_TRUE(shows("14.45 × 15.5 mm"));
    unit->setFocus();
    QTest::keyClicks(unit, "in");
    EXPECT_EQ(unit->currentText(), "in");
    EXPECT_TRUE(shows("367.1 × 393.7 mm"));
    auto* middle = dialog.findChild<QCheckBox*>();
    middle->setFocus();
    QTest::keyClick(middle, Qt::Key_Space);
    QTest::keyClick(&dialog, Qt::Key_Return);
  });
  ASSERT_EQ(drawing().curves.size(), 4u);
  EXPECT_EQ(drawing().curves[0].snapshotOf, "R12.dxf");
  // They are selected, and their circle has half an inch.
  EXPECT_EQ(window->desk().drawing.selected().size(), 4u);
  double area = 0;
  for (const Region& region : window->desk().trial.result()->report().drawing()->regions)
    area = std::max(area, region.area());
  EXPECT_NEAR(area, pi * 25.4 * 12.7, 1e-6);
  // One undo takes all of it away.
  key(Qt::Key_Z, Qt::ControlModifier);
  settle();
  EXPECT_TRUE(drawing().curves.empty());
}

TEST_F(DrawingTest, ACurvedFaceIsDrawnOnWhereItIsClicked) {
  click(button("Cylinder"));
  key(Qt::Key_Return);
  settle();
  click(button("Front"));
  settle();
  const app::Made& made = *window->desk().session.made();
  const Box box = made.model->bodies.front().shape().box();
  clickAt(&window->view(), window->view().toWidget({box.centre().x, box.low.y, box.centre().z}).toPoint());
  settle();
  click(button("Draw on its tangent plane"));
  settle();
  ASSERT_TRUE(window->desk().drawing.edited());
  const Plane plane = window->desk().drawing.edited()->plane;
  EXPECT_NEAR(plane.normal.y, -1, 0.02) << "it looks at who clicked";
  EXPECT_NEAR(plane.origin.z, box.centre().z, 1);
  auto* chip = window->view().findChild<QToolButton*>("viewChip");
  ASSERT_TRUE(chip && chip->isVisible());
  EXPECT_EQ(chip->text(), "Drawing on tangent to side of Cylinder  ×");
  // Something is drawn and cut into it.
  chooseKind("circle");
  const auto at = [&](double u, double v) { return window->view().toWidget(plane.at(u, v)).toPoint(); };
  drag(&window->view(), at(0, 0), at(3, 0));
  settle();
  ASSERT_EQ(window->desk().drawing.regions().size(), 1u);
  click(chip);
  settle();
  EXPECT_FALSE(window->desk().trial.active());
  EXPECT_FALSE(chip->isVisible());
  EXPECT_EQ(window->desk().session.document().made.steps.size(), 2u);
}

TEST_F(DrawingTest, KeysSplitSweepAndJoin) {
  drawOnABlock();
  chooseKind("line");
  drag(&window->view(), seen(10, 30), seen(90, 30));
  drag(&window->view(), seen(50, 10), seen(50, 50));
  settle();
  chooseKind("");
  ASSERT_EQ(drawing().curves.size(), 2u);
  window->view().setFocus();
  key(Qt::Key_S);
  settle();
  EXPECT_EQ(drawing().curves.size(), 4u);
  key(Qt::Key_T);
  EXPECT_EQ(window->desk().drawing.trim(), TrimMode::Sweep);
  clickAt(&window->view(), seen(50, 40));
  settle();
  EXPECT_EQ(drawing().curves.size(), 3u);
  key(Qt::Key_L);
  EXPECT_EQ(window->desk().drawing.trim(), TrimMode::Lengthen);
  key(Qt::Key_L);
  EXPECT_EQ(window->desk().drawing.trim(), TrimMode::None);
  // Nothing to join is said, and nothing changes.
  key(Qt::Key_J);
  settle();
  EXPECT_TRUE(window->message().text().contains("no loose ends"));
  EXPECT_EQ(drawing().curves.size(), 3u);
}

TEST_F(DrawingTest, PlanesOfTheWorldAreDrawnAndPickedWhereOneIsWanted) {
  click(button("Block"));
  key(Qt::Key_Return);
  settle();
  click(button("Split"));
  settle();
  click(button("+ another"));
  settle();
  EXPECT_EQ(window->view().scene().bodies.size(), 4u) << "three planes, and the block";
  click(button("Top"));
  settle();
  clickPoint({-30, -20, 0});
  const auto& cutters = window->desk().trial.step().value("cutters").as<std::vector<CutterPick>>();
  ASSERT_EQ(cutters.size(), 2u);
  EXPECT_EQ(cutters.back().plane, PlanePick::standard("xy"));
  key(Qt::Key_Escape);
  settle();
  for (const SceneBody& body : window->view().scene().bodies) EXPECT_FALSE(body.id.text().starts_with("world/"));
}

TEST_F(DrawingTest, AxesOfTheWorldArePickedForARevolve) {
  click(button("Draw on a plane"));
  settle();
  chooseFrom(named<QComboBox>("Plane"), "xz (front)");
  settle();
  chooseKind("rectangle");
  const Plane plane = window->desk().drawing.edited()->plane;
  const auto at = [&](double u, double v) { return window->view().toWidget(plane.at(u, v)).toPoint(); };
  drag(&window->view(), at(10, 5), at(25, 20));
  settle();
  click(button("Leave the drawing"));
  click(button("Revolve it"));
  click(button("axis"));
  chooseFrom(named<QComboBox>("Axis"), "datum");
  settle();
  auto* axis = named<QComboBox>("Datum axis");
  ASSERT_TRUE(axis);
  axis->setFocus();
  settle();
  click(button("Home"));
  clickPoint({0, 0, 40});
  EXPECT_EQ(window->desk().trial.step().value("axis").as<std::string>(), "z");
  key(Qt::Key_Return);
  settle();
  EXPECT_EQ(model().bodies.size(), 1u);
}

}  // namespace
}  // namespace kervo::test
