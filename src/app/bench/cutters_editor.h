// The editor of a step's cutters: planes, faces, bodies and drawings, in any mix.
#pragma once

#include "app/bench/pick_editors.h"
#include "fields/cutters_field.h"

namespace kervo::app {

/// A click on a planar face takes its plane, on another face that face, on a surface the whole surface; with "bodies"
/// on, a click takes the body. The list has everything else: planes, bodies, drawings, and planes built on the spot
/// from the next clicks (midway between two faces, through three corners, across an edge or a round face).
class CuttersEditor : public PickEditor {
  Q_OBJECT
 public:
  CuttersEditor(const CuttersField& field, Desk& desk, QWidget* parent);
  void refresh() override;
  std::optional<PickFilter> filter() const override;
  bool takesPlanes() const override { return built_.kind == PlanePick::Kind::Standard && !bodies_->isChecked(); }
  void take(const std::vector<Pick>& picks, bool add) override;
  bool isEmpty() const override;
  void setArmed(bool armed) override;

 private:
  void remove(int chip) override;
  QString prompt() const override;
  QString picking() const override;
  bool waitsForPicks() const override { return built_.kind != PlanePick::Kind::Standard; }
  void fill(QMenu& menu) override;
  void toggle(const CutterPick& cutter);
  QString nameOf(const CutterPick& cutter) const;
  /// Waits for what a plane of that kind is built from; Standard for no such plane.
  void build(PlanePick::Kind kind);
  /// The next part of the plane being built; the last one makes it a cutter.
  void addPart(const Pick& pick);
  /// Tells the view again what it may pick.
  void rearm();

  const bool curvesToo_;
  QToolButton* bodies_;
  PlanePick built_;  ///< being built; Standard while none is
  bool rearming_ = false;
};

}  // namespace kervo::app
