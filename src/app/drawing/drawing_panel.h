// The curves of the drawing on the Bench, settled or free, and the numbers of those that are given by numbers.
#pragma once

#include <QScrollArea>
#include <QTreeWidget>

#include "app/bench/field_editor.h"
#include "app/panels/panel.h"

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

 private:
  struct Row {
    QWidget* widget;
    std::vector<ExpressionLine*> numbers;
    DrawnCurve curve;
  };
  void refresh();
  void showSelected();
  void buildNumbers(const std::vector<DrawnCurve>& curves);
  void edit(std::size_t row, std::size_t number);

  Desk& desk_;
  QTreeWidget* list_;
  QScrollArea* scroll_;
  QVBoxLayout* numbers_;
  std::vector<Row> rows_;
  bool showing_ = false;
};

}  // namespace kervo::app
