// Profiles carried along a path: new bodies, joined to stock, common with it, or cut out of it.
#include <algorithm>
#include <numbers>

#include "base/quantity.h"
#include "base/say.h"
#include "fields/choice_field.h"
#include "fields/regions_field.h"
#include "geom/display/outline.h"
#include "geom/surface/path_sweep.h"
#include "geom/sweep/sweep.h"
#include "steps/registry.h"
#include "steps/shared/axis_fields.h"
#include "steps/shared/curve_sources.h"
#include "steps/shared/curve_stock.h"
#include "steps/shared/profile_result.h"

namespace kervo {

namespace {

class Sweep : public StepKind {
 public:
  Sweep()
      : StepKind(
            {.key = "sweep",
             .label = "Sweep",
             .menu = KindMenu::Surface,
             .verb = "Sweep along a path",
             .help = "Regions of a drawing, or open lines, carried along a path: bodies, or channels cut into them",
             .needsBodies = false,
             .wells = {.stock = {"Becomes", "a body, or a cut"},
                       .cutter = {"Path", "what it is carried along"},
                       .reach = {"Stands", "how it is carried"}}}) {}

  void startFrom(const Selected& selected, Start& start) const override {
    std::vector<StepId> drawings;
    for (const Picked& pick : selected.picks)
      if (pick.what == Picked::What::Drawing) drawings.push_back(pick.body.step());
    start.set(profiles_, RegionPick{drawings.empty() ? selected.drawing : drawings.front()});
    if (drawings.size() > 1) start.set(path_.drawing, StepPick{drawings[1]});
    start.set(path_.curves, BodyPick::only(selectedCurves(selected)));
    start.set(path_.edges, selected.edges());
  }

  StepResult evaluate(StepInputs& inputs, Progress& progress) const override {
    const DrawingResult drawing = profiles_.drawing(inputs);
    PathSweep order;
    order.path = path_.forSure(inputs, say("no path is chosen"));
    order.standing = stands_.of(inputs);
    if (order.standing == Standing::Upright) order.up = up_.of(inputs).direction;
    if (order.standing == Standing::Guided) order.guide = guide_.forSure(inputs, say("no guide is chosen"));
    order.twist = twist_.of(inputs);
    StepResult result;
    result.cutterOutline = edgeLines(order.path);
    inputs.finding().cutterOutline = result.cutterOutline;
    std::vector<Shape> shapes;
    try {
      if (drawing.regions.empty() && !drawing.paths.empty()) {
        for (const Path& line : drawing.paths) shapes.push_back(sweptAlong(line, inputs.id().text(), order, progress));
      } else {
        for (const Region& region : joined(profiles_.of(inputs))) {
          shapes.push_back(sweptAlong(region, inputs.id().text(), order, progress));
          if (const double turn = closingTurn(order, middleOf(region)); turn != 0)
            result.audit.notes.push_back(say("turned by %1° along the path, so that it meets itself where that closes",
                                             formatNumber(turn * 180 / std::numbers::pi, 4)));
        }
      }
    } catch (const Error& error) {
      throw error.within(path_.drawing.place());
    }
    become_.add(result, inputs, shapes, progress);
    result.audit.notes.push_back(say("linked: it follows its drawing and its path"));
    return result;
  }

 private:
  const RegionsField profiles_{
      *this,
      {.key = "profiles", .label = "Profiles", .help = "Regions become solids; a drawing of open lines only surfaces"}};
  const CurveSources path_{
      *this, {"path", "path_curves", "path_edges"}, {"Path", "Path curve", "Path edges"}, Well::Cutter};
  const ChoiceField<Standing> stands_{*this,
                                      {.key = "stands",
                                       .label = "Profile",
                                       .well = Well::Reach,
                                       .help = "perpendicular: keeps its angle to the path; upright: turns about one "
                                               "direction only; guided: keeps facing a second curve",
                                       .telling = true},
                                      {"perpendicular", "upright", "guided"}};
  const AxisFields up_{*this, stands_.is(Standing::Upright), Well::Reach, AxisFields::From::Z};
  const CurveSources guide_{*this,
                            {"guide", "guide_curves", "guide_edges"},
                            {"Guide", "Guide curve", "Guide edges"},
                            Well::Reach,
                            stands_.is(Standing::Guided)};
  const AngleField twist_{
      *this,
      {.key = "twist", .label = "Twist", .well = Well::Reach, .help = "about the path, from its start to its end"},
      "0 deg"};
  const ProfileResult become_{*this, profiles_};
};

}  // namespace

const StepKind& sweepStep() {
  static const Sweep kind;
  return kind;
}

}  // namespace kervo
