// What the view shows of the desk: the model, or the step on the Bench as it is tried or as its fields are picked.
#pragma once

#include <QObject>

#include "app/bench/bench.h"
#include "app/desk.h"
#include "app/gauge_fields.h"
#include "app/view_panes.h"

namespace kervo::app {

class Stage : public QObject {
  Q_OBJECT
 public:
  /// `view` stands in the panes, or is not shown at all.
  Stage(Desk& desk, Bench& bench, Viewport& view, ViewPanes& panes, GaugeFields& gauges);

  void refresh();
  /// Something else in place of the model, while nothing is tried; nothing: the model again.
  void showInstead(std::optional<Scene> scene);
  /// What can be picked while no field says so.
  void setFilter(PickFilter filter);
  PickFilter filter() const { return filter_; }

 signals:
  void filterChanged();

 private:
  /// What closed bodies cut open in panes that have sections of their own is made as well.
  void wantSections();
  /// Shows it in all panes, each with its sections.
  void showScene(const Scene& scene, const Openings& openings);
  /// For the view that takes the input, and all that show the same.
  template <class Call>
  void everywhere(Call&& call);
  /// What takes bodies out of sight now.
  std::vector<StepReport> sectionsSeen() const;
  /// The drawing on the Bench, its grid and what the mouse draws.
  void showDrawing();
  /// Straight at the drawing's plane when it comes onto the Bench, and back when it leaves.
  void turnToDrawing();
  void takePicks(const std::vector<Pick>& picks, bool add);
  void gaugeMoved(const std::string& field, double value);
  /// " · in window 2, through, 4 sides", for a face that is known to lie in an opening.
  QString openingOf(const Pick& pick) const;
  /// The openings of bodies of which faces are selected are looked for.
  void wantOpenings();

  Desk& desk_;
  Bench& bench_;
  Viewport& view_;
  ViewPanes& panes_;
  GaugeFields& gaugeFields_;
  PickFilter filter_;
  std::vector<SectionSet> sectionSets_;
  std::optional<Scene> instead_;
  /// The drawing at whose plane the view looks, and that plane.
  std::optional<std::pair<StepId, Plane>> turnedTo_;
  std::pair<StepId, std::vector<Gauge>> gauges_;  ///< the newest ones, and whose
};

}  // namespace kervo::app
