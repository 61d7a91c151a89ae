// A choice among hatches, shown as they look.
#pragma once

#include <QButtonGroup>

#include "app/bench/field_editor.h"
#include "fields/choice_field.h"

namespace kervo::app {

class HatchEditor : public FieldEditor {
  Q_OBJECT
 public:
  HatchEditor(const WordField& field, Desk& desk, QWidget* parent);
  /// Whether the words of a field are the hatches.
  static bool fits(const WordField& field);
  void refresh() override;
  QWidget* first() override;
  bool labelled() const override { return false; }

 protected:
  void changeEvent(QEvent* event) override;

 private:
  void paintAll();

  const std::vector<std::string>& keys_;
  QButtonGroup* swatches_;
};

}  // namespace kervo::app
