// The editor of another step: a list of those before this one that changed bodies.
#pragma once

#include <QComboBox>

#include "app/bench/field_editor.h"
#include "fields/step_field.h"

namespace kervo::app {

class StepEditor : public FieldEditor {
  Q_OBJECT
 public:
  StepEditor(const Field& field, Desk& desk, QWidget* parent);
  void refresh() override;
  bool isEmpty() const override { return valueAs<StepPick>().step.empty(); }
  QWidget* first() override { return list_; }

 private:
  QComboBox* list_;
  std::vector<StepId> steps_;
};

}  // namespace kervo::app
