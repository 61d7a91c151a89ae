// Editor of a drawing: its curves as rows of numbers, and drawing them in the view.
#pragma once

#include <QToolButton>
#include <QVBoxLayout>

#include "app/bench/field_editor.h"
#include "fields/curves_field.h"

namespace kervo::app {

class CurvesEditor : public FieldEditor {
  Q_OBJECT
 public:
  CurvesEditor(const CurvesField& field, Desk& desk, QWidget* parent);
  void refresh() override;
  QWidget* first() override;
  bool wide() const override { return true; }

  /// The kind of curve that is being drawn in the view; null for none.
  const CurveKind* drawnKind() const { return drawn_; }
  /// Adds a curve of that kind by its numbers, mm and rad.
  void addDrawn(const std::vector<double>& numbers);

 signals:
  void drawingChanged();

 private:
  struct Row {
    QWidget* widget;
    std::vector<ExpressionLine*> numbers;
    std::string kind;
  };
  void addCurve(const CurveKind& kind, const std::vector<double>& numbers);
  /// Draws curves of a kind in the view, or none.
  void draw(const CurveKind* kind);
  void removeCurve(std::size_t row);
  void buildRows(const std::vector<DrawnCurve>& curves);
  void changed();
  std::string freeId(const std::string& kind) const;

  QVBoxLayout* list_;
  std::vector<Row> rows_;
  std::vector<QToolButton*> tools_;
  QToolButton* draw_;
  const CurveKind* drawn_ = nullptr;
};

}  // namespace kervo::app
