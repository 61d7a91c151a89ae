// Editors of lists of faces and of points.
#pragma once

#include "app/bench/pick_editors.h"
#include "fields/faces_field.h"
#include "fields/points_field.h"

namespace kervo::app {

class FacesEditor : public PickEditor {
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

class PointsEditor : public PickEditor {
 public:
  using PickEditor::PickEditor;
  void refresh() override;
  std::optional<PickFilter> filter() const override;
  void take(const std::vector<Pick>& picks, bool add) override;
  bool isEmpty() const override;

 private:
  void toggle(const PointReference& point);
  void remove(int chip) override;
  QString prompt() const override;
  void fill(QMenu& menu) override;
};

}  // namespace kervo::app
