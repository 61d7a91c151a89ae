#include "app/drawing/constrain_card.h"

#include <algorithm>

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
  auto* button = new QToolButton;
  button->setObjectName("segment");
  button->setFocusPolicy(Qt::StrongFocus);
  button->setText(text);
  button->setToolTip(help);
  button->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
  words_->addWidget(button, cell, 0);
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
    bool helps = curve && drawing.curves[*curve].construction;
    const TakenAlong* taken = desk_.drawing.takenOf(id);
    if (taken) helps = taken->construction;
    const auto made = std::find_if(drawing.copies.begin(), drawing.copies.end(),
                                   [&](const DrawnCopies& each) { return each.id == id; });
    if (made != drawing.copies.end()) helps = made->construction;
    curves = curves && (curve || taken || made != drawing.copies.end());
    construction = construction && helps;
  }
  const auto features = desk_.drawing.features();
  for (const DrawingDesk::Feature feature : features) now << QString::number(static_cast<int>(feature));
  const auto copies = desk_.drawing.fittingCopies();
  for (const CopyKind* kind : copies) now << kind->name();
  const bool linked = std::any_of(selected.begin(), selected.end(),
                                  [&](const std::string& id) { return desk_.drawing.takenOf(id) != nullptr; });
  now << (linked ? "linked" : "");
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
    button->setAccessibleName(button->text());
    connect(button, &QToolButton::clicked, this, [this, feature] { desk_.drawing.make(feature); });
  }
  for (const CopyKind* kind : copies) {
    // Lines and circles are mirrored as curves of their own, held by constraints.
    const bool mirror = kind->about() == CopyKind::About::Line;
    if (mirror && std::find(features.begin(), features.end(), DrawingDesk::Feature::Mirror) != features.end()) continue;
    if (mirror && selected.size() < 2) continue;
    const QString label = QString::fromStdString(say(kind->label()));
    QToolButton* button =
        word(label.toLower() + QStringLiteral(" …"), QString::fromStdString(say(kind->help())), cell++);
    button->setAccessibleName(label);
    connect(button, &QToolButton::clicked, this, [this, kind] { desk_.drawing.addCopies(*kind); });
  }
  if (linked)
    connect(word(tr("snapshot"), tr("Draws it instead: it follows the body no longer"), cell++), &QToolButton::clicked,
            this, [this] { desk_.drawing.makeSnapshot(); });
  if (curves)
    connect(
        word(construction ? tr("bounding") : tr("construction"),
             construction ? tr("The curves bound regions") : tr("The curves help to draw and bound nothing"), cell++),
        &QToolButton::clicked, this, [this] { desk_.drawing.switchConstruction(); });
  connect(word(tr("remove"), tr("Del in the view does the same"), cell++), &QToolButton::clicked, this,
          [this] { desk_.drawing.removeSelected(); });
  layOut();
}

void ConstrainCard::layOut() {
  // As many beside each other as there is room for.
  std::vector<QWidget*> all;
  int widest = 1;
  while (QLayoutItem* item = words_->takeAt(0)) {
    all.push_back(item->widget());
    widest = std::max(widest, item->widget()->sizeHint().width());
    delete item;
  }
  constexpr int most = 3;
  // They may get a little narrower than they want to be.
  constexpr int give = 18;
  const int columns = std::clamp((width() - 20) / (widest - give + words_->spacing()), 1, most);
  for (std::size_t i = 0; i < all.size(); ++i)
    words_->addWidget(all[i], static_cast<int>(i) / columns, static_cast<int>(i) % columns);
}

void ConstrainCard::add(const ConstraintKind& kind) {
  const auto id = desk_.drawing.constrain(kind, desk_.drawing.selected());
  // A dimension is typed next.
  if (id && kind.dimension) emit desk_.drawing.typeWanted(*id);
}

}  // namespace kervo::app
