#include "app/bench/axis_editor.h"
#include "app/texts.h"

#include <QVBoxLayout>
#include <algorithm>

namespace kervo::app {

AxisEditor::AxisEditor(const Field& field, Desk& desk, QWidget* parent) : FieldEditor(field, desk, parent) {
  list_ = new QComboBox;
  list_->setAccessibleName(kindText(field.label()));
  list_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
  list_->setMinimumContentsLength(6);
  auto* rows = new QVBoxLayout(this);
  rows->setContentsMargins(0, 0, 0, 0);
  rows->addWidget(list_);
  setFocusProxy(list_);
  connect(list_, &QComboBox::activated, this,
          [this](int index) { set(DatumPick{axes_[static_cast<std::size_t>(index)]}); });
}

void AxisEditor::refresh() {
  axes_.clear();
  list_->clear();
  for (const auto& step : desk_.session.document().made.steps) {
    if (step->id() == desk_.trial.step().id()) break;
    if (step->kind().makes() != Makes::Axis) continue;
    axes_.emplace_back(step->id());
    list_->addItem(stepName(desk_, *step));
  }
  list_->setPlaceholderText(axes_.empty() ? tr("there is no Axis step yet") : tr("choose an axis"));
  const auto found = std::find(axes_.begin(), axes_.end(), valueAs<DatumPick>().id);
  list_->setCurrentIndex(found == axes_.end() ? -1 : static_cast<int>(found - axes_.begin()));
}

void AxisEditor::take(const std::vector<Pick>& picks, bool) {
  for (const Pick& pick : picks) {
    if (const auto world = worldAxisOf(pick.body)) {
      // It stands in the list of which this field is the last entry: "axis_datum" is one of "axis".
      const std::string key = field().key();
      desk_.trial.setFields({{key.substr(0, key.rfind('_')), *world}}, tr("Axis"));
      emit filled(this);
      return;
    }
    const Guide* guide = desk_.shownModel ? desk_.shownModel->guide(pick.body) : nullptr;
    if (!guide || !guide->datum() || !std::holds_alternative<Axis>(*guide->datum())) continue;
    set(DatumPick{guide->id});
    emit filled(this);
    return;
  }
}

}  // namespace kervo::app
