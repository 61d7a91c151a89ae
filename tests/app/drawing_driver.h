// Tests that draw in the real window.
#pragma once

#include <QScrollArea>

#include "support/window_driver.h"

namespace kervo::test {

class DrawingTest : public WindowTest {
 protected:
  /// A block of 100 × 60 × 40, seen from above, and a drawing on its top on the Bench.
  void drawOnABlock() {
    click(button("Block"));
    key(Qt::Key_Return);
    click(button("Top"));
    clickPoint(onFace("block1", "block1:top"));
    click(button("Draw on it"));
  }
  /// Chooses what is drawn from the Bench; an empty name: nothing.
  void chooseKind(const QString& name) {
    for (QToolButton* each : window->bench().findChildren<QToolButton*>("segment")) {
      const QString stroke = each->property("stroke").toString();
      if (!stroke.isEmpty() && (stroke == name || (name.isEmpty() && each->isChecked()))) return click(each);
    }
    FAIL() << "nothing to draw with: " << name.toStdString();
  }
  /// On a block, a level line from 10 to 90 at 20, and two upright ones across it at 30 and 70.
  void drawALineThatTwoCross() {
    drawOnABlock();
    chooseKind("line");
    drag(&window->view(), seen(10, 20), seen(90, 20));
    drag(&window->view(), seen(30, 5), seen(30, 50));
    drag(&window->view(), seen(70, 5), seen(70, 50));
    chooseKind("");
  }
  QPoint seen(double u, double v) { return window->view().toWidget({u, v, 40}).toPoint(); }
  const Drawing& drawing() { return window->desk().trial.step().value("curves").as<Drawing>(); }
  const Solution& solution() {
    static Solution none;
    none.points.resize(9);
    const auto& result = window->desk().trial.result();
    if (!result) {
      ADD_FAILURE() << "nothing was tried";
      return none;
    }
    const StepReport& report = result->report();
    EXPECT_TRUE(report.drawing()) << (report.cause ? report.cause->what() : "no drawing");
    return report.drawing() ? report.drawing()->solution : none;
  }
  /// Scrolls the Bench to a line, as a person does, and writes into it.
  void writeInto(QLineEdit* line, const QString& text) {
    ASSERT_NE(line, nullptr);
    for (QWidget* parent = line; parent; parent = parent->parentWidget())
      if (auto* area = qobject_cast<QScrollArea*>(parent)) area->ensureWidgetVisible(line);
    settle();
    typeInto(line, text);
  }
  void addConstraint(const QString& kind, const QString& on) {
    auto* list = named<QComboBox>("Kind of constraint");
    list->setFocus();
    list->setCurrentIndex(list->findData(kind));
    writeInto(named<QLineEdit>("What the constraint is on"), on);
    key(Qt::Key_Return);
    settle();
  }
};

}  // namespace kervo::test
