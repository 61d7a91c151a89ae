#include "app/bench/step_editor.h"

#include <QVBoxLayout>
#include <algorithm>

#include "app/texts.h"

namespace kervo::app {

StepEditor::StepEditor(const Field& field, Desk& desk, QWidget* parent) : FieldEditor(field, desk, parent) {
  list_ = new QComboBox;
  list_->setAccessibleName(kindText(field.label()));
  list_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
  list_->setMinimumContentsLength(6);
  auto* rows = new QVBoxLayout(this);
  rows->setContentsMargins(0, 0, 0, 0);
  rows->addWidget(list_);
  setFocusProxy(list_);
  connect(list_, &QComboBox::activated, this,
          [this](int index) { set(StepPick{steps_[static_cast<std::size_t>(index)]}); });
}

void StepEditor::refresh() {
  steps_ = {StepId()};
  list_->clear();
  list_->addItem(tr("none"));
  for (const auto& step : desk_.session.document().made.steps) {
    if (step->id() == desk_.trial.step().id()) break;
    if (step->kind().makes() != Makes::Bodies) continue;
    steps_.push_back(step->id());
    list_->addItem(stepName(desk_, *step));
  }
  const auto found = std::find(steps_.begin(), steps_.end(), valueAs<StepPick>().step);
  list_->setCurrentIndex(found == steps_.end() ? -1 : static_cast<int>(found - steps_.begin()));
}

}  // namespace kervo::app
