// Editors of single values: numbers, choices, flags, texts, places, brought-in bodies.
#pragma once

#include <QButtonGroup>
#include <QCheckBox>
#include <QComboBox>
#include <vector>

#include "app/bench/field_editor.h"

namespace kervo::app {

class NumberField : public FieldEditor {
 public:
  NumberField(const FieldSpec& field, Desk& desk, QWidget* parent);
  void refresh() override;
  QWidget* first() override { return line_->line(); }

 private:
  ExpressionLine* line_;
};

/// Words side by side for up to three choices, a list for more.
class ChoiceField : public FieldEditor {
 public:
  ChoiceField(const FieldSpec& field, Desk& desk, QWidget* parent);
  void refresh() override;
  QWidget* first() override;

 private:
  QButtonGroup* words_ = nullptr;
  QComboBox* list_ = nullptr;
};

class FlagField : public FieldEditor {
 public:
  FlagField(const FieldSpec& field, Desk& desk, QWidget* parent);
  void refresh() override;
  QWidget* first() override { return box_; }

 private:
  QCheckBox* box_;
};

class TextField : public FieldEditor {
 public:
  TextField(const FieldSpec& field, Desk& desk, QWidget* parent);
  void refresh() override;
  QWidget* first() override { return line_; }

 private:
  QLineEdit* line_;
};

/// Three expressions: along the plane's two axes and above it.
class PlacementField : public FieldEditor {
 public:
  PlacementField(const FieldSpec& field, Desk& desk, QWidget* parent);
  void refresh() override;
  QWidget* first() override { return lines_.front()->line(); }

 private:
  std::vector<ExpressionLine*> lines_;
};

/// Bodies from a file are listed, not edited.
class BroughtField : public FieldEditor {
 public:
  BroughtField(const FieldSpec& field, Desk& desk, QWidget* parent);
  void refresh() override;
  QWidget* first() override { return text_; }

 private:
  QLabel* text_;
};

}  // namespace kervo::app
