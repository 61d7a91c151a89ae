#include "app/drawing/drawing_chip.h"

#include "app/bench/plane_editor.h"
#include "app/look.h"

namespace kervo::app {

DrawingChip::DrawingChip(Desk& desk, QWidget* view) : QToolButton(view), desk_(desk) {
  constexpr int margin = 12;
  setObjectName("viewChip");
  // Esc does the same in the view.
  setFocusPolicy(Qt::NoFocus);
  setToolTip(tr("Leave the drawing; it is kept"));
  move(margin, margin);
  hide();
  connect(this, &QToolButton::clicked, this, [this] {
    if (desk_.drawing.open()) desk_.trial.makeIt();
  });
  for (const auto signal : {&Trial::opened, &Trial::closed, &Trial::edited, &Trial::tried})
    connect(&desk_.trial, signal, this, &DrawingChip::refresh);
}

void DrawingChip::refresh() {
  setVisible(desk_.drawing.open());
  if (!desk_.drawing.open()) return;
  const auto& plane = desk_.trial.step().value(desk_.drawing.field().plane()).as<PlanePick>();
  const QString text = tr("Drawing on %1  ×").arg(planeName(plane, desk_));
  if (text == this->text()) return;
  setText(text);
  setAccessibleName(toolTip());
  adjustSize();
}

}  // namespace kervo::app
