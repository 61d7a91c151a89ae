// Editor of any number of lengths: one line, with ; between them.
#pragma once

#include "app/bench/field_editor.h"
#include "fields/sizes_field.h"

namespace kervo::app {

class SizesEditor : public FieldEditor {
  Q_OBJECT
 public:
  SizesEditor(const SizesField& field, Desk& desk, QWidget* parent);
  void refresh() override;
  QWidget* first() override { return line_->line(); }

 private:
  const NumberWanted& wanted_;
  ExpressionLine* line_;
};

}  // namespace kervo::app
