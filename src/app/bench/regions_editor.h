// Editor of profiles: which drawing, and which of its regions.
#pragma once

#include <QCheckBox>
#include <QComboBox>
#include <QVBoxLayout>

#include "app/bench/field_editor.h"
#include "fields/regions_field.h"

namespace kervo::app {

class RegionsEditor : public FieldEditor {
  Q_OBJECT
 public:
  RegionsEditor(const RegionsField& field, Desk& desk, QWidget* parent);
  void refresh() override;
  QWidget* first() override { return drawings_; }
  bool labelled() const override { return false; }
  bool isEmpty() const override { return valueAs<RegionPick>().drawing.empty(); }
  std::optional<PickFilter> filter() const override { return PickFilter{false, false, false, false, true}; }
  void take(const std::vector<Pick>& picks, bool add) override;

 private:
  void showRegions(const RegionPick& pick);
  bool hasDepths() const;

  const NumberField* depth_;  ///< from which a region may differ; null if from none
  QComboBox* drawings_;
  std::vector<StepId> ids_;
  QVBoxLayout* regions_;
  std::vector<std::string> names_;
  std::vector<QCheckBox*> boxes_;
  std::vector<QLineEdit*> depths_;
};

}  // namespace kervo::app
