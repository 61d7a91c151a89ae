// Editor of profiles: which drawing, and which of its regions.
#pragma once

#include <QCheckBox>
#include <QComboBox>
#include <QVBoxLayout>

#include "app/bench/field_editor.h"

namespace kervo::app {

class RegionsField : public FieldEditor {
 public:
  RegionsField(const FieldSpec& field, Desk& desk, QWidget* parent);
  void refresh() override;
  QWidget* first() override { return drawings_; }
  bool isEmpty() const override { return valueAs<RegionPick>().drawing.empty(); }

 private:
  void showRegions(const RegionPick& pick);
  bool hasDepths() const;

  QComboBox* drawings_;
  std::vector<StepId> ids_;
  QVBoxLayout* regions_;
  std::vector<std::string> names_;
  std::vector<QCheckBox*> boxes_;
  std::vector<QLineEdit*> depths_;
};

}  // namespace kervo::app
