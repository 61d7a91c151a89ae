#include "app/drawing/constrain_card.h"

#include "app/look.h"
#include "base/say.h"
#include "drawing/constraint_kind.h"

namespace kervo::app {

ConstrainCard::ConstrainCard(Desk& desk, QWidget* parent)
    : WellCard(tr("Constrain"), tr("what is selected"), &Look::violet, parent), desk_(desk) {
  setShare(16);
  hint_ = new QLabel;
  hint_->setObjectName("dim");
  hint_->setWordWrap(true);
  content()->addWidget(hint_);
  words_ = new QGridLayout;
  words_->setSpacing(3);
  content()->addLayout(words_);
  content()->addStretch();
  connect(&desk_.drawing, &DrawingDesk::selectionChanged, this, &ConstrainCard::refresh);
  connect(&desk_.drawing, &DrawingDesk::changed, this, &ConstrainCard::refresh);
  refresh();
}

QToolButton* ConstrainCard::word(const QString& text, const QString& help, int cell) {
  constexpr int columns = 3;
  auto* button = new QToolButton;
  button->setObjectName("segment");
  button->setFocusPolicy(Qt::StrongFocus);
  button->setText(text);
  button->setToolTip(help);
  button->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Preferred);
  words_->addWidget(button, cell / columns, cell % columns);
  return button;
}

void ConstrainCard::refresh() {
  if (!desk_.drawing.open()) return;
  const auto& selected = desk_.drawing.selected();
  const Drawing& drawing = desk_.drawing.drawing();
  // The same words stay, and with them the keyboard.
  QStringList now{spokenList(drawing, selected)};
  const auto fitting = desk_.drawing.fitting();
  for (const ConstraintKind* kind : fitting) now << kind->name;
  bool curves = !selected.empty(), construction = curves;
  for (const std::string& id : selected) {
    const auto curve = drawing.curve(id);
    curves = curves && curve;
    construction = construction && curve && drawing.curves[*curve].construction;
  }
  const auto features = desk_.drawing.features();
  for (const DrawingDesk::Feature feature : features) now << QString::number(static_cast<int>(feature));
  now << (curves ? construction ? "bounds" : "helps" : "");
  const QString state = now.join('|');
  if (property("shows").toString() == state) return;
  setProperty("shows", state);
  setNote(selected.empty() ? tr("nothing is selected") : spokenList(drawing, selected));
  while (QLayoutItem* item = words_->takeAt(0)) {
    item->widget()->hide();
    item->widget()->deleteLater();
    delete item;
  }
  hint_->setVisible(selected.empty());
  hint_->setText(
      tr("Click curves and points in the view, Ctrl+click for several: what can hold between them is offered here."));
  if (selected.empty()) return;
  int cell = 0;
  for (const ConstraintKind* kind : fitting) {
    const QString label = QString::fromStdString(say(kind->label));
    QToolButton* button = word(label, tr("%1: %2").arg(label, spokenList(drawing, selected)), cell++);
    button->setAccessibleName(tr("Constrain: %1").arg(label));
    connect(button, &QToolButton::clicked, this, [this, kind] { add(*kind); });
  }
  for (const DrawingDesk::Feature feature : features) {
    const bool mirror = feature == DrawingDesk::Feature::Mirror;
    const bool round = feature == DrawingDesk::Feature::RoundCorner;
    QToolButton* button = word(mirror  ? tr("mirror")
                               : round ? tr("round it")
                                       : tr("chamfer it"),
                               mirror  ? tr("Copies across %1 that follow").arg(spoken(drawing, selected.back()))
                               : round ? tr("An arc that touches both lines; its radius is typed next")
                                       : tr("A line across the corner"),
                               cell++);
    connect(button, &QToolButton::clicked, this, [this, feature] { desk_.drawing.make(feature); });
  }
  if (curves)
    connect(
        word(construction ? tr("bounding") : tr("construction"),
             construction ? tr("The curves bound regions") : tr("The curves help to draw and bound nothing"), cell++),
        &QToolButton::clicked, this, [this] { desk_.drawing.switchConstruction(); });
  connect(word(tr("remove"), tr("Del in the view does the same"), cell++), &QToolButton::clicked, this,
          [this] { desk_.drawing.removeSelected(); });
}

void ConstrainCard::add(const ConstraintKind& kind) {
  const auto id = desk_.drawing.constrain(kind, desk_.drawing.selected());
  // A dimension is typed next.
  if (id && kind.dimension) emit desk_.drawing.typeWanted(*id);
}

}  // namespace kervo::app
