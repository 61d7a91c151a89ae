// The editor of sections in a row.
#pragma once

#include "app/bench/pick_editors.h"
#include "fields/sections_field.h"

namespace kervo::app {

/// A click on a curve, a face, a drawing or a corner adds it at the end; the list has curves and drawings, and turns
/// the order round.
class SectionsEditor : public PickEditor {
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
  void toggle(const SectionPick& section);
  QString nameOf(const SectionPick& section) const;
};

}  // namespace kervo::app
