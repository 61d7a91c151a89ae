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
    DrawnConstraint of;
    QWidget* widget;
    QPushButton* words;
    QLabel* state;
    ExpressionLine* value;  ///< null for one that is no dimension
  };
  void refresh();
  /// The constraints that have rows: all, or of very many those on what is selected and those that cannot hold.
  std::vector<std::size_t> listed() const;
  void build(const std::vector<std::size_t>& listed);
  void addRow(const DrawnConstraint& constraint);
  void showStates();
  void showRefused();
  void add();
  void edit(const std::string& id);

  Desk& desk_;
  Drawing drawing_;
  QLabel* rest_;  ///< says that there are more
  QVBoxLayout* list_;
  QComboBox* kind_;
  QLineEdit* on_;
  QLabel* problem_;
  QWidget* refused_;
  QLabel* refusedWords_;
  std::vector<Row> rows_;
};

}  // namespace kervo::app
