// Faces that fill closed loops of edges and curves, or regions of a drawing.
#include <numbers>

#include "base/quantity.h"
#include "base/say.h"
#include "fields/choice_field.h"
#include "fields/edges_field.h"
#include "fields/flag_field.h"
#include "fields/points_field.h"
#include "fields/reference_parts.h"
#include "fields/regions_field.h"
#include "geom/surface/patch.h"
#include "model/step_inputs.h"
#include "steps/registry.h"
#include "steps/shared/curve_stock.h"
#include "steps/shared/profile_result.h"
#include "steps/shared/surface_stock.h"

namespace kervo {

namespace {

class PatchStep : public StepKind {
 public:
  PatchStep()
      : StepKind({.key = "patch",
                  .label = "Patch",
                  .menu = KindMenu::Surface,
                  .verb = "Patch a loop of edges",
                  .help = "A face that fills a closed loop of edges or curves, touching or tangent, through points if "
                          "wanted; or "
                          "planar ones of a drawing"}) {}

  void startFrom(const Selected& selected, Start& start) const override {
    start.set(edges_, selected.edges());
    start.set(curves_, BodyPick::only(selectedCurves(selected)));
    if (selected.anyOf(Picked::What::Drawing)) start.set(regions_, RegionPick{selected.drawing});
    start.set(points_, selected.points());
  }

  StepResult evaluate(StepInputs& inputs, Progress& progress) const override {
    if (!regions_.in(inputs).drawing.empty()) return planar(inputs);
    PatchOrder order;
    if (!curves_.in(inputs).bodies.empty())
      for (const BodyId& body : curvesOf(inputs, curves_)) {
        const Shape shape = inputs.shape(body);
        for (const Edge& edge : edgesOf(shape)) order.edges.emplace_back(edge, shape);
      }
    if (order.edges.empty() || !edges_.in(inputs).empty()) addEdges(inputs, order);
    order.tangent = joint_.of(inputs) == Meets::Tangent;
    for (const PointReference& point : points_.in(inputs)) order.through.push_back(pointFor(inputs, point, points_));
    Patch patch;
    try {
      patch = patched(order, inputs.id(), progress);
    } catch (const Error& error) {
      throw error.within(edges_.place());
    }
    StepResult result;
    addNew(result, inputs.id(), patch.surface);
    std::string text = say("%1 mm off its edges at most", formatNumber(patch.gap, 2));
    if (order.tangent) text += say(", angle off by at most %1°", formatNumber(patch.angle * 180 / std::numbers::pi, 2));
    result.audit.notes.push_back(text);
    return result;
  }

 private:
  enum class Meets { Touch, Tangent };

  void addEdges(StepInputs& inputs, PatchOrder& order) const {
    for (const auto& [body, edges] : edges_.of(inputs)) {
      const Shape shape = inputs.shape(body);
      std::vector<Edge> all = edges;
      if (loop_.of(inputs) && shape.kind() == BodyKind::Surface) all = loopOf(shape, edges);
      for (const Edge& edge : all) order.edges.emplace_back(edge, shape);
    }
  }

  StepResult planar(StepInputs& inputs) const {
    if (!edges_.in(inputs).empty() || !curves_.in(inputs).bodies.empty())
      regions_.fail(say("edges or curves are chosen as well as a drawing"), say("Choose the one or the other"));
    StepResult result;
    std::vector<Shape> shapes;
    for (const Region& region : regions_.of(inputs)) shapes.push_back(planarPatch(region, inputs.id()));
    if (shapes.empty()) regions_.fail(say("the drawing encloses nothing"), say("Close its lines"));
    addNewBodies(result, inputs, shapes);
    result.audit.watertight = false;
    result.audit.notes.push_back(say("linked: it follows its drawing"));
    return result;
  }

  const EdgesField edges_{*this, {.key = "edges", .label = "Edges", .well = Well::Stock}};
  const BodiesField curves_{*this, {.key = "curves", .label = "Curves", .well = Well::Stock}, BodyPick::only({})};
  const RegionsField regions_{
      *this,
      {.key = "regions", .label = "Regions", .well = Well::Stock, .help = "of a drawing: each becomes a planar face"}};
  const FlagField loop_{*this,
                        {.key = "loop",
                         .label = "Whole loop",
                         .well = Well::Stock,
                         .help = "of a surface's open border: all edges that go on from the first one"},
                        true};
  const ChoiceField<Meets> joint_{
      *this, {.key = "joint", .label = "Meets them", .well = Well::Reach}, {"touch", "tangent"}};
  const PointsField points_{
      *this, {.key = "points", .label = "Through", .well = Well::Reach, .help = "corners or points inside of it"}};
};

}  // namespace

const StepKind& patchStep() {
  static const PatchStep kind;
  return kind;
}

}  // namespace kervo
