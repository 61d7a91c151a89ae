// The constraints of a drawing as rows: what holds on what, the values of dimensions, and a row to add one.
#pragma once

#include <QComboBox>
#include <QLineEdit>
#include <QVBoxLayout>
#include <functional>

#include "app/bench/field_editor.h"
#include "drawing/drawing.h"

namespace kervo::app {

class ConstraintsEditor : public QWidget {
  Q_OBJECT
 public:
  ConstraintsEditor(Desk& desk, QWidget* parent = nullptr);
  /// Shows the constraints of a drawing, and what the step on the Bench found out about them.
  void show(const Drawing& drawing);

 protected:
  /// Enter adds what is written instead of making the step.
  bool eventFilter(QObject* object, QEvent* event) override;

 signals:
  void edited(const kervo::Drawing& drawing);

 private:
  struct Row {
    QWidget* widget;
    QLabel* state;
    ExpressionLine* value;  ///< null for one that is no dimension
  };
  void build(const Drawing& drawing);
  void showStates();
  void add();
  void changed();

  Desk& desk_;
  Drawing drawing_;
  QLabel* summary_;
  QVBoxLayout* list_;
  QComboBox* kind_;
  QLineEdit* on_;
  QLabel* problem_;
  std::vector<Row> rows_;
};

}  // namespace kervo::app
