// The editor of an axis that a step has made: a list of those before this step, and picks in the view.
#pragma once

#include <QComboBox>

#include "app/bench/field_editor.h"
#include "fields/axis_field.h"

namespace kervo::app {

class AxisEditor : public FieldEditor {
  Q_OBJECT
 public:
  AxisEditor(const Field& field, Desk& desk, QWidget* parent);
  void refresh() override;
  bool isEmpty() const override { return valueAs<DatumPick>().id.empty(); }
  QWidget* first() override { return list_; }
  std::optional<PickFilter> filter() const override { return PickFilter{false, false, false, false, true}; }
  bool takesAxes() const override { return true; }
  void take(const std::vector<Pick>& picks, bool add) override;

 private:
  QComboBox* list_;
  std::vector<BodyId> axes_;
};

}  // namespace kervo::app
