// Editor of a drawing: its curves as rows, drawing them in the view, and its constraints.
#pragma once

#include <QToolButton>
#include <QVBoxLayout>

#include "app/bench/constraints_editor.h"
#include "drawing/curve_kind.h"
#include "drawing/drawn_by_hand.h"
#include "fields/drawing_field.h"

namespace kervo::app {

class DrawingEditor : public FieldEditor {
  Q_OBJECT
 public:
  DrawingEditor(const DrawingField& field, Desk& desk, QWidget* parent);
  void refresh() override;
  QWidget* first() override;
  bool wide() const override { return true; }

  /// What is being drawn in the view; null for nothing.
  const StrokeKind* drawnKind() const { return drawn_; }
  /// Adds what a stroke of that kind draws.
  void addDrawn(const Stroke& stroke);

 signals:
  void drawingChanged();

 private:
  struct Row {
    QWidget* widget;
    std::vector<ExpressionLine*> numbers;
    DrawnCurve curve;
  };
  void addCurve(const CurveKind& kind, const std::vector<double>& numbers);
  /// Draws things of a kind in the view, or none.
  void draw(const StrokeKind* kind);
  void removeCurve(std::size_t row);
  void buildRows(const std::vector<DrawnCurve>& curves);
  void changed();

  QVBoxLayout* list_;
  std::vector<Row> rows_;
  ConstraintsEditor* constraints_;
  std::vector<QToolButton*> tools_;
  QToolButton* draw_;
  const StrokeKind* drawn_ = nullptr;
};

}  // namespace kervo::app
