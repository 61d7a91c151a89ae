// Surfaces made longer over their borders, by a length or until they reach through bodies.
#include <algorithm>

#include "base/quantity.h"
#include "base/say.h"
#include "fields/choice_field.h"
#include "fields/edges_field.h"
#include "fields/number_field.h"
#include "geom/surface/extension.h"
#include "steps/registry.h"
#include "steps/shared/surface_stock.h"

namespace kervo {

namespace {

class Extend : public StepKind {
 public:
  Extend()
      : StepKind({.key = "extend",
                  .label = "Extend",
                  .menu = KindMenu::Surface,
                  .verb = "Extend surfaces",
                  .help = "Surfaces made longer over their borders, by a length or until they reach through bodies"}) {}

  void startFrom(const Selected& selected, Start& start) const override {
    start.set(surfaces_, BodyPick::only(selectedSurfaces(selected)));
    std::vector<EdgeReference> edges;
    for (const Picked& pick : selected.picks)
      if (pick.what == Picked::What::Edge && pick.bodyKind == BodyKind::Surface)
        edges.insert(edges.end(), pick.edges.begin(), pick.edges.end());
    start.set(edges_, edges);
    if (edges.empty()) return;
    std::vector<BodyId> bodies;
    for (const EdgeReference& edge : edges)
      if (std::find(bodies.begin(), bodies.end(), edge.body) == bodies.end()) bodies.push_back(edge.body);
    start.set(surfaces_, BodyPick::only(bodies));
  }
  std::optional<std::string> offered(const Selected& selected) const override {
    return selectedSurfaces(selected).empty() ? std::nullopt : std::optional(say("Extend it …"));
  }

  StepResult evaluate(StepInputs& inputs, Progress& progress) const override {
    StepResult result;
    const std::vector<BodyId> bodies = surfacesOf(inputs, surfaces_, result.audit);
    if (bodies.empty()) surfaces_.fail(say("no surface is chosen"), say("Pick a surface, or edges at its border"));
    std::map<BodyId, std::vector<Edge>> edges;
    if (!edges_.in(inputs).empty()) edges = edges_.of(inputs);
    for (const auto& [body, all] : edges)
      if (std::find(bodies.begin(), bodies.end(), body) == bodies.end())
        edges_.fail(say("\"%1\" has an edge chosen, but is not among the surfaces", body), say("Choose it as well"));
    for (const BodyId& body : bodies) {
      if (!edges.empty() && !edges.contains(body)) continue;
      const Shape before = inputs.shape(body);
      const std::vector<Edge> at = edges.empty() ? std::vector<Edge>() : edges.at(body);
      double by = by_.of(inputs);
      const Shape after = longer(inputs, body, before, at, by, progress);
      replaceSurface(result, body, before, after);
      result.audit.notes.push_back(say("\"%1\" is %2 mm longer, its area %3 mm² larger", body, formatNumber(by, 6),
                                       formatNumber(after.area() - before.area(), 6)));
    }
    return result;
  }

 private:
  enum class Reach { By, Until };

  Shape longer(StepInputs& inputs, const BodyId& body, const Shape& surface, const std::vector<Edge>& edges, double& by,
               Progress& progress) const {
    const bool until = reach_.of(inputs) == Reach::Until;
    try {
      if (!until) return extendedAt(surface, edges, by, way_.of(inputs), inputs.id());
      Shape through = surface;
      double most = 0;
      const std::vector<BodyId> goals = until_.of(inputs);
      if (goals.empty()) until_.fail(say("nothing is chosen that it should reach through"), say("Pick solids"));
      for (const BodyId& goal : goals) {
        if (inputs.shape(goal).kind() != BodyKind::Solid)
          until_.fail(say("\"%1\" is not a solid", goal), say("Choose solids"));
        double needed = 0;
        const Shape longer =
            extendedThrough(surface, edges, inputs.shape(goal), way_.of(inputs), inputs.id(), needed, progress);
        if (needed < most) continue;
        most = needed;
        through = longer;
      }
      by = most;
      return through;
    } catch (const Error& error) {
      throw error.within(say("surface \"%1\"", body));
    }
  }

  const BodiesField surfaces_{*this, {.key = "surfaces", .label = "Surfaces", .well = Well::Stock}, BodyPick::only({})};
  const EdgesField edges_{
      *this, {.key = "edges", .label = "At edges", .well = Well::Stock, .help = "of the border; none: all round"}};
  const ChoiceField<Reach> reach_{
      *this, {.key = "reach", .label = "How far", .well = Well::Reach}, {"by", "until through"}};
  const LengthField by_{*this,
                        {.key = "by", .label = "By", .well = Well::Reach, .when = reach_.is(Reach::By)},
                        "5 mm",
                        NumberRule::Positive};
  const BodiesField until_{*this,
                           {.key = "until",
                            .label = "Through",
                            .well = Well::Reach,
                            .help = "found again whenever they change",
                            .when = reach_.is(Reach::Until)},
                           BodyPick::only({})};
  const ChoiceField<SurfaceGoesOn> way_{
      *this,
      {.key = "way",
       .label = "Goes on",
       .well = Well::Reach,
       .help = "straight: along the tangents, corners mitred; as it runs: each face's own surface, with its curvature"},
      {"straight", "as it runs"}};
};

}  // namespace

const StepKind& extendStep() {
  static const Extend kind;
  return kind;
}

}  // namespace kervo
