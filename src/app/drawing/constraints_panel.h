// The constraints of the drawing on the Bench as rows: what holds on what, the values of dimensions, a row to add one,
// and what was refused.
#pragma once

#include <QComboBox>
#include <QLineEdit>
#include <QPushButton>
#include <QVBoxLayout>

#include "app/bench/field_editor.h"
#include "app/panels/panel.h"
#include "drawing/drawing.h"

namespace kervo::app {

class ConstraintsPanel : public Panel {
  Q_OBJECT
 public:
  explicit ConstraintsPanel(Desk& desk, QWidget* parent = nullptr);

 protected:
  /// Enter adds what is written instead of making the step.
  bool eventFilter(QObject* object, QEvent* event) override;

 private:
  struct Row {
    QWidget* widget;
    QPushButton* words;
    QLabel* state;
    ExpressionLine* value;  ///< null for one that is no dimension
  };
  void refresh();
  void build(const Drawing& drawing);
  void showStates();
  void showRefused();
  void add();
  void edit(std::size_t row);

  Desk& desk_;
  Drawing drawing_;
  QVBoxLayout* list_;
  QComboBox* kind_;
  QLineEdit* on_;
  QLabel* problem_;
  QWidget* refused_;
  QLabel* refusedWords_;
  std::vector<Row> rows_;
};

}  // namespace kervo::app
