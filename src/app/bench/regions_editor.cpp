#include "app/bench/regions_editor.h"

#include <QHBoxLayout>
#include <QLineEdit>
#include <algorithm>
#include <set>

#include "drawing/region_names.h"

namespace kervo::app {

namespace {

constexpr std::size_t mostShown = 200;

/// The regions that a drawing has, as far as the trial knows.
std::vector<Region> regionsOf(const Desk& desk, const StepId& drawing) {
  const Model& model = desk.trial.result() ? *desk.trial.result()->before : *desk.session.made()->model;
  for (const StepReport& report : model.steps)
    if (const DrawingResult* found = report.id == drawing ? report.drawing() : nullptr) return found->regions;
  return {};
}

}  // namespace

RegionsEditor::RegionsEditor(const RegionsField& field, Desk& desk, QWidget* parent)
    : FieldEditor(field, desk, parent), depth_(field.depth()) {
  drawings_ = new QComboBox;
  drawings_->setAccessibleName(tr("Drawing"));
  drawings_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
  drawings_->setMinimumContentsLength(6);
  auto* rows = new QVBoxLayout(this);
  rows->setContentsMargins(0, 0, 0, 0);
  rows->setSpacing(2);
  rows->addWidget(drawings_);
  regions_ = new QVBoxLayout;
  regions_->setSpacing(1);
  rows->addLayout(regions_);
  setFocusProxy(drawings_);
  connect(drawings_, &QComboBox::activated, this, [this](int index) {
    set(RegionPick{ids_[static_cast<std::size_t>(index)], true, {}});
  });
}

void RegionsEditor::refresh() {
  const auto& pick = valueAs<RegionPick>();
  ids_.clear();
  drawings_->clear();
  for (const auto& step : desk_.session.document().made.steps) {
    if (step->id() == desk_.trial.step().id()) break;
    if (step->kind().makes() != Makes::Drawing) continue;
    ids_.push_back(step->id());
    drawings_->addItem(stepName(desk_, *step));
  }
  const auto found = std::find(ids_.begin(), ids_.end(), pick.drawing);
  drawings_->setCurrentIndex(found == ids_.end() ? -1 : static_cast<int>(found - ids_.begin()));
  drawings_->setPlaceholderText(ids_.empty() ? tr("nothing is drawn yet") : tr("choose a drawing"));
  showRegions(pick);
}

void RegionsEditor::take(const std::vector<Pick>& picks, bool) {
  for (const Pick& pick : picks) {
    const Guide* guide = desk_.shownModel ? desk_.shownModel->guide(pick.body) : nullptr;
    if (!guide || !guide->drawing()) continue;
    set(RegionPick{guide->id.step(), true, {}});
    emit filled(this);
    return;
  }
}

bool RegionsEditor::hasDepths() const {
  // Only a step that goes a distance has one that a region can differ from.
  return depth_ && desk_.trial.matters(*depth_);
}

void RegionsEditor::showRegions(const RegionPick& pick) {
  const std::vector<Region> regions = regionsOf(desk_, pick.drawing);
  std::vector<std::string> names;
  for (std::size_t i = 0; i < regions.size() && i < mostShown; ++i) names.push_back(regions[i].name());
  if (names != names_ || boxes_.empty()) {
    for (QCheckBox* box : boxes_) {
      box->hide();
      box->deleteLater();
    }
    for (QLineEdit* depth : depths_) {
      depth->hide();
      depth->deleteLater();
    }
    while (QLayoutItem* row = regions_->takeAt(0)) delete row;
    boxes_.clear();
    depths_.clear();
    names_ = names;
    for (std::size_t i = 0; i < names_.size(); ++i) {
      auto* box =
          new QCheckBox(QStringLiteral("%1 · %2").arg(QString::fromStdString(names_[i]), areaText(regions[i].area())));
      connect(box, &QCheckBox::clicked, this, [this] {
        RegionPick now = valueAs<RegionPick>();
        now.regions.clear();
        for (std::size_t k = 0; k < boxes_.size(); ++k)
          if (boxes_[k]->isChecked()) now.regions.push_back(names_[k]);
        now.all = now.regions.size() == names_.size();
        now.regions = now.all ? std::vector<std::string>() : picksOf(now.regions, regionsOf(desk_, now.drawing));
        set(now);
      });
      auto* line = new QHBoxLayout;
      line->setSpacing(4);
      line->addWidget(box, 1);
      auto* depth = new QLineEdit;
      depth->setPlaceholderText(tr("depth"));
      depth->setToolTip(tr("A depth of its own; empty: as deep as the step says"));
      depth->setAccessibleName(tr("Depth of %1").arg(QString::fromStdString(names_[i])));
      depth->setMaximumWidth(depth->fontMetrics().horizontalAdvance("00.000 mm") + 12);
      connect(depth, &QLineEdit::textEdited, this, [this, name = names_[i]](const QString& text) {
        RegionPick now = valueAs<RegionPick>();
        if (text.trimmed().isEmpty())
          now.depths.erase(name);
        else
          now.depths[name] = Expression(text.trimmed().toStdString());
        set(now);
      });
      line->addWidget(depth);
      regions_->addLayout(line);
      boxes_.push_back(box);
      depths_.push_back(depth);
    }
  }
  std::set<std::size_t> meant;
  for (const std::string& name : pick.regions)
    for (const std::size_t i : regionsMeant(name, regions)) meant.insert(i);
  for (std::size_t i = 0; i < boxes_.size(); ++i) {
    const bool chosen = pick.all || meant.contains(i);
    boxes_[i]->setChecked(chosen);
    const auto depth = pick.depths.find(names_[i]);
    const QString text = depth == pick.depths.end() ? QString() : QString::fromStdString(depth->second.text());
    if (depths_[i]->text().trimmed() != text) depths_[i]->setText(text);
    depths_[i]->setVisible(hasDepths() && chosen && names_.size() > 1);
  }
}

}  // namespace kervo::app
