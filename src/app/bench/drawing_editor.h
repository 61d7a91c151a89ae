// Editor of a drawing: what can be drawn in the view and on which grid, curves by numbers, and the cards beside it.
#pragma once

#include <QLineEdit>
#include <QSpinBox>
#include <QToolButton>

#include "app/bench/field_editor.h"
#include "drawing/curve_kind.h"
#include "drawing/drawn_by_hand.h"
#include "fields/drawing_field.h"

namespace kervo::app {

class DrawingEditor : public FieldEditor {
  Q_OBJECT
 public:
  DrawingEditor(const DrawingField& field, Desk& desk, QWidget* parent);
  void refresh() override;
  QWidget* first() override { return strokes_.front(); }
  bool wide() const override { return true; }
  bool labelled() const override { return false; }
  std::vector<WellCard*> cards() override;

 signals:
  /// The first number of a curve that was added is to be typed.
  void numbersWanted();
  /// Something is drawn in the view now.
  void viewWanted();

 private:
  void showTool();
  void setGrid();
  void addCurve(const CurveKind& kind);

  const DrawingField& drawing_;
  std::vector<QToolButton*> strokes_;
  QSpinBox* sides_;
  QLineEdit* grid_;
};

}  // namespace kervo::app
