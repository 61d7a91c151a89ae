// What a drawing takes along, picked in the view: edges, outlines of faces, silhouettes and sections of bodies.
#pragma once

#include <QGridLayout>
#include <QToolButton>

#include "app/bench/field_editor.h"
#include "fields/taken_field.h"

namespace kervo::app {

class TakenEditor : public FieldEditor {
  Q_OBJECT
 public:
  TakenEditor(const Field& field, Desk& desk, QWidget* parent);

  void refresh() override;
  QWidget* first() override { return words_.front(); }
  bool labelled() const override { return true; }
  std::optional<PickFilter> filter() const override;
  void take(const std::vector<Pick>& picks, bool add) override;
  void setArmed(bool armed) override;

 protected:
  void resizeEvent(QResizeEvent* event) override;

 private:
  /// In one row where there is room, else in two.
  void arrange();

  TakenAlong::What what_ = TakenAlong::What::Edge;
  std::vector<QToolButton*> words_;
  QGridLayout* rows_;
  int columns_ = 0;
};

}  // namespace kervo::app
