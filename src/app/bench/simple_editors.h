// Editors of single values: numbers, choices, flags, texts, places, brought-in bodies.
#pragma once

#include <QButtonGroup>
#include <QCheckBox>
#include <QComboBox>
#include <vector>

#include "app/bench/field_editor.h"
#include "fields/brought_field.h"
#include "fields/choice_field.h"
#include "fields/coordinates_field.h"
#include "fields/flag_field.h"
#include "fields/number_field.h"

namespace kervo::app {

class NumberEditor : public FieldEditor {
 public:
  NumberEditor(const NumberField& field, Desk& desk, QWidget* parent);
  void refresh() override;
  QWidget* first() override { return line_->line(); }

 private:
  const NumberField& number_;
  ExpressionLine* line_;
};

/// Words side by side for up to three choices, a list for more.
class ChoiceEditor : public FieldEditor {
 public:
  ChoiceEditor(const WordField& field, Desk& desk, QWidget* parent);
  void refresh() override;
  QWidget* first() override;

 private:
  const std::vector<std::string>& choices_;
  QButtonGroup* words_ = nullptr;
  QComboBox* list_ = nullptr;
};

class FlagEditor : public FieldEditor {
 public:
  FlagEditor(const Field& field, Desk& desk, QWidget* parent);
  void refresh() override;
  QWidget* first() override { return box_; }
  bool labelled() const override { return false; }

 private:
  QCheckBox* box_;
};

class TextEditor : public FieldEditor {
 public:
  TextEditor(const Field& field, Desk& desk, QWidget* parent);
  void refresh() override;
  QWidget* first() override { return line_; }

 private:
  QLineEdit* line_;
};

/// Three expressions side by side.
class CoordinatesEditor : public FieldEditor {
 public:
  CoordinatesEditor(const CoordinatesField& field, Desk& desk, QWidget* parent);
  void refresh() override;
  QWidget* first() override { return lines_.front()->line(); }

 private:
  std::vector<ExpressionLine*> lines_;
};

/// Bodies from a file are listed, not edited.
class BroughtEditor : public FieldEditor {
  Q_OBJECT
 public:
  BroughtEditor(const Field& field, Desk& desk, QWidget* parent);
  void refresh() override;
  QWidget* first() override { return text_; }

 private:
  QLabel* text_;
};

}  // namespace kervo::app
