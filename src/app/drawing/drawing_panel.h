// The curves of the drawing on the Bench, settled or free, the grid it is drawn on, and curves by numbers: to add one,
// and the numbers of those that are there.
#pragma once

#include <QLineEdit>
#include <QSpinBox>
#include <QTreeWidget>

#include "app/bench/field_editor.h"
#include "app/drawing/drawing_numbers.h"
#include "app/panels/panel.h"
#include "drawing/curve_kind.h"

namespace kervo::app {

class DrawingPanel : public Panel {
  Q_OBJECT
 public:
  explicit DrawingPanel(Desk& desk, QWidget* parent = nullptr);
  QTreeWidget* list() { return list_; }
  /// Puts the keyboard into the numbers of the last curve.
  void focusNumbers();

 protected:
  bool eventFilter(QObject* watched, QEvent* event) override;
  void changeEvent(QEvent* event) override;

 signals:
  /// Curves of a file are to come into the drawing.
  void fileWanted();

 private:
  void refresh();
  void showSelected();
  void addSettings();
  void showSettings();
  void setGrid();
  void addCurve(const CurveKind& kind);

  Desk& desk_;
  QLineEdit* grid_;
  QSpinBox* sides_;
  std::vector<QToolButton*> numeric_;
  QTreeWidget* list_;
  DrawingNumbers* numbers_;
  bool showing_ = false;
};

}  // namespace kervo::app
