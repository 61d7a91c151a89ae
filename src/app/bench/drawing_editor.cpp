#include "app/bench/drawing_editor.h"

#include <QEvent>
#include <QGridLayout>

#include "app/drawing/constrain_card.h"
#include "app/drawing/regions_card.h"
#include "app/drawing/trim_card.h"
#include "app/icons.h"
#include "app/look.h"
#include "base/say.h"

namespace kervo::app {

namespace {

constexpr int columns = 4;  // of the palette

}  // namespace

DrawingEditor::DrawingEditor(const DrawingField& field, Desk& desk, QWidget* parent)
    : FieldEditor(field, desk, parent) {
  auto* all = new QVBoxLayout(this);
  all->setContentsMargins(0, 0, 0, 0);
  all->setSpacing(2);
  auto* palette = new QGridLayout;
  palette->setSpacing(2);
  int count = 0;
  QHBoxLayout* variants = nullptr;
  for (const StrokeKind& kind : strokeKinds()) {
    auto* tool = new QToolButton;
    tool->setObjectName("segment");
    tool->setCheckable(true);
    tool->setFocusPolicy(Qt::StrongFocus);
    tool->setIcon(icon(kind.name));
    const QString label = QString::fromStdString(say(kind.label));
    tool->setText(QString::fromStdString(say(kind.brief)));
    tool->setToolButtonStyle(Qt::ToolButtonIconOnly);
    tool->setProperty("variant", kind.variant);
    tool->setAccessibleName(tr("Draw: %1").arg(label));
    tool->setToolTip(kind.more ? tr("%1: click its points in the view, double-click the last").arg(label)
                               : tr("%1: click or drag in the view, or type numbers there").arg(label));
    tool->setProperty("stroke", QString(kind.name));
    tool->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    tool->setMinimumWidth(kind.variant ? 24 : 30);
    tool->setFixedHeight(QFontMetrics(fontOf()).height() + 5);
    connect(tool, &QToolButton::clicked, this, [this, &kind] {
      desk_.drawing.draw(desk_.drawing.kind() == &kind ? nullptr : &kind);
      if (desk_.drawing.kind()) emit viewWanted();
    });
    strokes_.push_back(tool);
    if (kind.variant && variants) {
      variants->addWidget(tool);
      continue;
    }
    variants = nullptr;
    if (kind.variant) {
      // Other ways to draw the one before share a cell, as pictures.
      variants = new QHBoxLayout;
      variants->setSpacing(2);
      variants->addWidget(tool);
      palette->addLayout(variants, count / columns, count % columns);
    } else {
      palette->addWidget(tool, count / columns, count % columns);
    }
    ++count;
  }
  for (int column = 0; column < columns; ++column) palette->setColumnStretch(column, 1);
  all->addLayout(palette);
  connect(&desk_.drawing, &DrawingDesk::toolChanged, this, &DrawingEditor::showTool);
  showTool();
}

std::vector<WellCard*> DrawingEditor::cards() {
  auto* trim = new TrimCard(desk_);
  connect(trim, &TrimCard::viewWanted, this, &DrawingEditor::viewWanted);
  return {new ConstrainCard(desk_), trim, new RegionsCard(desk_)};
}

void DrawingEditor::resizeEvent(QResizeEvent* event) {
  FieldEditor::resizeEvent(event);
  // Words beside the pictures where there is room for all of them.
  const bool words = width() >= columns * (QFontMetrics(fontOf()).horizontalAdvance("rectangle") + 26);
  for (QToolButton* tool : strokes_)
    tool->setToolButtonStyle(words && !tool->property("variant").toBool() ? Qt::ToolButtonTextBesideIcon
                                                                          : Qt::ToolButtonIconOnly);
}

void DrawingEditor::refresh() {
  // Curves and constraints stand in their panels.
}

void DrawingEditor::changeEvent(QEvent* event) {
  FieldEditor::changeEvent(event);
  if (event->type() != QEvent::PaletteChange) return;
  // Pictures are drawn in the look's colours.
  for (QToolButton* tool : strokes_) tool->setIcon(icon(tool->property("stroke").toString()));
}

void DrawingEditor::showTool() {
  const StrokeKind* kind = desk_.drawing.kind();
  for (QToolButton* tool : strokes_) tool->setChecked(kind && tool->property("stroke").toString() == kind->name);
}

}  // namespace kervo::app
