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

  /// The kind of curve that is being drawn in the view; empty for none.
  QString drawnKind() const;
  /// Adds a curve from one point of the plane to another, as the kind being drawn takes them.
  void addDrawn(PlanePoint from, PlanePoint to);

 signals:
  void drawingChanged();

 private:
  struct Row {
    QWidget* widget;
    std::vector<ExpressionLine*> numbers;
    std::string kind;
  };
  void addCurve(const std::string& kind, std::vector<Expression> numbers);
  void removeCurve(std::size_t row);
  void buildRows(const std::vector<DrawnCurve>& curves);
  void changed();
  std::string freeId(const std::string& kind) const;

  QVBoxLayout* list_;
  std::vector<Row> rows_;
  std::vector<QToolButton*> tools_;
};

}  // namespace kervo::app
