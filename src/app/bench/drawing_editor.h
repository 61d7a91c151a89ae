// Editor of a drawing: what can be drawn in the view, and the cards beside it. Curves and constraints have panels.
#pragma once

#include <QToolButton>

#include "app/bench/field_editor.h"
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

 protected:
  void changeEvent(QEvent* event) override;
  void resizeEvent(QResizeEvent* event) override;

 signals:
  /// Something is drawn in the view now.
  void viewWanted();

 private:
  void showTool();

  std::vector<QToolButton*> strokes_;
};

}  // namespace kervo::app
