// The editor of a step's cutters: planes, faces, bodies and drawings, in any mix.
#pragma once

#include "app/bench/pick_fields.h"

namespace kervo::app {

/// A click on a planar face takes its plane, on another face that face, on a surface the whole surface; with "bodies"
/// on, a click takes the body. The list has everything else: planes, bodies, drawings.
class CuttersField : public PickField {
 public:
  CuttersField(const FieldSpec& field, Desk& desk, QWidget* parent);
  void refresh() override;
  std::optional<PickFilter> filter() const override;
  void take(const std::vector<Pick>& picks, bool add) override;
  bool isEmpty() const override;

 private:
  void remove(int chip) override;
  QString prompt() const override;
  void fill(QMenu& menu) override;
  void toggle(const CutterPick& cutter);
  QString nameOf(const CutterPick& cutter) const;

  QToolButton* bodies_;
};

/// What a pick in the view means as a cutter; nothing for an edge or a point.
std::optional<CutterPick> cutterPick(const Pick& pick, const Desk& desk);

}  // namespace kervo::app
