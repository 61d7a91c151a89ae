// Editors of what is picked in the view: bodies, a face. Picked things stand as chips that can be removed.
#pragma once

#include <QHBoxLayout>
#include <QMenu>
#include <QToolButton>

#include "app/bench/field_editor.h"
#include "fields/bodies_field.h"
#include "fields/face_field.h"

namespace kervo::app {

/// Chips, and a button that takes picks while it is armed and lists everything there is for the keyboard.
class PickEditor : public FieldEditor {
  Q_OBJECT
 public:
  PickEditor(const Field& field, Desk& desk, QWidget* parent);
  QWidget* first() override { return pick_; }
  bool labelled() const override { return false; }
  void setArmed(bool armed) override;

 protected:
  void showChips(const QStringList& texts);
  /// One more button beside the two.
  void addButton(QToolButton* button);
  virtual void remove(int chip) = 0;
  /// What the button says: "pick a face".
  virtual QString prompt() const = 0;
  /// What it says while the view waits for a pick.
  virtual QString picking() const { return tr("▸ picking …"); }
  /// What was chosen from the list is to be picked in the view.
  virtual bool waitsForPicks() const { return false; }
  /// Fills the list behind the button.
  virtual void fill(QMenu& menu) = 0;

 private:
  QVBoxLayout* rows_;
  QHBoxLayout* buttons_;
  QToolButton* pick_;
  QToolButton* list_;
  std::vector<QToolButton*> chips_;
  QMenu menu_;
};

/// The bodies that are there before the step on the Bench.
std::vector<Body> bodiesBeforeStep(const Desk& desk);

class BodiesEditor : public PickEditor {
  Q_OBJECT
 public:
  using PickEditor::PickEditor;
  void refresh() override;
  std::optional<PickFilter> filter() const override;
  void take(const std::vector<Pick>& picks, bool add) override;
  bool isEmpty() const override;

 private:
  void remove(int chip) override;
  QString prompt() const override;
  void fill(QMenu& menu) override;
};

class FaceEditor : public PickEditor {
  Q_OBJECT
 public:
  using PickEditor::PickEditor;
  bool labelled() const override { return true; }
  void refresh() override;
  std::optional<PickFilter> filter() const override;
  void take(const std::vector<Pick>& picks, bool add) override;
  bool isEmpty() const override;

 private:
  void remove(int chip) override;
  QString prompt() const override;
  void fill(QMenu& menu) override;
};

}  // namespace kervo::app
