#include "app/bench/pick_editors.h"
#include "app/texts.h"

#include <algorithm>

namespace kervo::app {

namespace {

constexpr int mostChips = 12;
/// Longer names are shortened in the middle, so that a card needs no scroll bar.
constexpr int chipCharacters = 23;

}  // namespace

std::vector<Body> bodiesBeforeStep(const Desk& desk) {
  return desk.trial.result() ? desk.trial.result()->before->bodies : desk.session.made()->model->bodies;
}

PickEditor::PickEditor(const Field& field, Desk& desk, QWidget* parent) : FieldEditor(field, desk, parent) {
  rows_ = new QVBoxLayout(this);
  rows_->setContentsMargins(0, 0, 0, 0);
  rows_->setSpacing(3);
  pick_ = new QToolButton;
  pick_->setObjectName("link");
  pick_->setFocusPolicy(Qt::StrongFocus);
  pick_->setAccessibleName(tr("%1: pick in the view").arg(kindText(field.label())));
  list_ = new QToolButton;
  list_->setText(tr("list …"));
  list_->setFocusPolicy(Qt::StrongFocus);
  list_->setPopupMode(QToolButton::InstantPopup);
  list_->setMenu(&menu_);
  list_->setAccessibleName(tr("%1: choose from a list").arg(kindText(field.label())));
  buttons_ = new QHBoxLayout;
  buttons_->setSpacing(2);
  buttons_->addWidget(pick_);
  buttons_->addWidget(list_);
  buttons_->addStretch();
  rows_->addLayout(buttons_);
  setFocusProxy(pick_);
  connect(pick_, &QToolButton::clicked, this, [this] { emit pickWanted(this); });
  connect(&menu_, &QMenu::triggered, this, [this] {
    // What was chosen is to be seen at work.
    if (armed_ && !waitsForPicks()) emit armWanted(this);
  });
  connect(&menu_, &QMenu::aboutToShow, this, [this] {
    menu_.clear();
    fill(menu_);
  });
}

void PickEditor::addButton(QToolButton* button) {
  buttons_->insertWidget(buttons_->count() - 1, button);
}

void PickEditor::setArmed(bool armed) {
  FieldEditor::setArmed(armed);
  // Of a step that was just made nothing is asked any more.
  if (desk_.trial.active()) pick_->setText(armed ? picking() : prompt());
}

void PickEditor::showChips(const QStringList& texts) {
  for (QToolButton* chip : chips_) {
    // A chip may be what is just being clicked.
    chip->hide();
    chip->deleteLater();
  }
  chips_.clear();
  const auto shown = std::min<qsizetype>(texts.size(), mostChips);
  for (qsizetype i = 0; i < shown; ++i) {
    auto* chip = new QToolButton;
    chip->setObjectName(field_.well() == Well::Cutter ? "cutterChip" : "chip");
    chip->setFocusPolicy(Qt::StrongFocus);
    const int room = chipCharacters * chip->fontMetrics().averageCharWidth();
    chip->setText(chip->fontMetrics().elidedText(texts[i], Qt::ElideMiddle, room) + QStringLiteral("  ×"));
    chip->setAccessibleName(tr("Remove %1").arg(texts[i]));
    chip->setToolTip(tr("Click to take %1 out").arg(texts[i]));
    connect(chip, &QToolButton::clicked, this, [this, i] { remove(static_cast<int>(i)); });
    rows_->insertWidget(static_cast<int>(i), chip);
    chips_.push_back(chip);
  }
  pick_->setText(armed_                 ? picking()
                 : texts.size() > shown ? tr("and %1 more, %2").arg(texts.size() - shown).arg(prompt())
                                        : prompt());
}

std::optional<PickFilter> BodiesEditor::filter() const {
  return PickFilter{true, true, false, false, false};
}

bool BodiesEditor::isEmpty() const {
  const auto& pick = valueAs<BodyPick>();
  return !pick.all && pick.bodies.empty();
}

void BodiesEditor::refresh() {
  const auto& pick = valueAs<BodyPick>();
  QStringList names;
  if (pick.all) names << (field_.well() == Well::Stock ? tr("all it touches") : tr("all bodies"));
  for (const BodyId& body : pick.bodies) names << bodyName(desk_, body);
  showChips(names);
}

QString BodiesEditor::prompt() const {
  return tr("+ pick bodies");
}

void BodiesEditor::take(const std::vector<Pick>& picks, bool) {
  BodyPick pick = valueAs<BodyPick>();
  pick.all = false;
  for (const Pick& each : picks) {
    const auto found = std::find(pick.bodies.begin(), pick.bodies.end(), each.body);
    if (found == pick.bodies.end())
      pick.bodies.push_back(each.body);
    else if (picks.size() == 1)
      pick.bodies.erase(found);
  }
  set(pick);
}

void BodiesEditor::remove(int chip) {
  BodyPick pick = valueAs<BodyPick>();
  if (pick.all)
    pick.all = false;
  else
    pick.bodies.erase(pick.bodies.begin() + chip);
  set(pick);
  emit armWanted(this);
}

void BodiesEditor::fill(QMenu& menu) {
  const auto& pick = valueAs<BodyPick>();
  QAction* all = menu.addAction(field_.well() == Well::Stock ? tr("All it touches") : tr("All bodies"));
  all->setCheckable(true);
  all->setChecked(pick.all);
  connect(all, &QAction::triggered, this, [this](bool on) { set(BodyPick{on, {}}); });
  menu.addSeparator();
  for (const Body& body : bodiesBeforeStep(desk_)) {
    QAction* action =
        menu.addAction(QString::fromStdString(body.name) + (body.shielded ? tr(" (shielded)") : QString()));
    action->setCheckable(true);
    action->setChecked(std::find(pick.bodies.begin(), pick.bodies.end(), body.id) != pick.bodies.end());
    connect(action, &QAction::triggered, this, [this, id = body.id] { take({{Pick::Kind::Body, id, 0}}, true); });
  }
}

std::optional<PickFilter> FaceEditor::filter() const {
  return PickFilter{false, true, false, false, false};
}

bool FaceEditor::isEmpty() const {
  return valueAs<FaceReference>().empty();
}

void FaceEditor::refresh() {
  const auto& face = valueAs<FaceReference>();
  showChips(face.empty() ? QStringList() : QStringList{faceName(desk_, face)});
}

QString FaceEditor::prompt() const {
  return isEmpty() ? tr("pick a face") : tr("another face");
}

void FaceEditor::take(const std::vector<Pick>& picks, bool) {
  for (const Pick& pick : picks)
    if (const auto reference = faceReference(pick, desk_.shownPictures)) {
      set(*reference);
      emit filled(this);
      return;
    }
}

void FaceEditor::remove(int) {
  set(FaceReference{});
  emit armWanted(this);
}

void FaceEditor::fill(QMenu& menu) {
  // Faces by name, for the keyboard; those of large bodies are found in the view.
  constexpr std::size_t most = 40;
  if (!desk_.trial.result()) return;
  for (const auto& [id, picture] : desk_.trial.result()->picturesBefore) {
    QMenu* faces = menu.addMenu(bodyName(desk_, id));
    for (std::size_t i = 0; i < picture->faces.size() && i < most; ++i) {
      QAction* action = faces->addAction(faceName(desk_, referenceTo(id, picture->faces[i])));
      connect(action, &QAction::triggered, this,
              [this, id = id, picture = picture, i] { set(referenceTo(id, picture->faces[i])); });
    }
  }
}

}  // namespace kervo::app
