// Editor of a plane: a standard one, one made by a step, or a planar face.
#pragma once

#include <QComboBox>

#include "app/bench/field_editor.h"
#include "fields/plane_field.h"

namespace kervo::app {

/// Of xy, xz or yz, for people.
QString standardPlaneName(const std::string& name);
/// Of any plane, for people.
QString planeName(const PlanePick& plane, const Desk& desk);

class PlaneEditor : public FieldEditor {
  Q_OBJECT
 public:
  PlaneEditor(const Field& field, Desk& desk, QWidget* parent);
  void refresh() override;
  QWidget* first() override { return list_; }
  std::optional<PickFilter> filter() const override { return PickFilter{false, true, false, false, true}; }
  bool takesPlanes() const override { return true; }
  void take(const std::vector<Pick>& picks, bool add) override;
  void setArmed(bool armed) override;

 private:
  QComboBox* list_;
  QLabel* hint_;
  ExpressionLine* height_;  ///< of a plane at a height that is no level's
  bool typing_ = false;     ///< the height is being typed, whatever it is now
  std::vector<PlanePick> planes_;
};

}  // namespace kervo::app
