// Surfaces that connect the borders of two others.
#include <cmath>
#include <numbers>

#include "base/quantity.h"
#include "base/say.h"
#include "fields/choice_field.h"
#include "fields/edges_field.h"
#include "fields/flag_field.h"
#include "fields/number_field.h"
#include "geom/surface/blend.h"
#include "geom/surface/sewn.h"
#include "model/step_inputs.h"
#include "steps/registry.h"
#include "steps/shared/surface_stock.h"

namespace kervo {

namespace {

class BlendStep : public StepKind {
 public:
  BlendStep()
      : StepKind(
            {.key = "blend",
             .label = "Blend",
             .menu = KindMenu::Surface,
             .verb = "Blend surfaces",
             .help = "A surface that connects the borders of two others: touching, tangent or with their curvature",
             .wells = {.stock = {"From", "the first border"},
                       .cutter = {"To", "the other border"},
                       .reach = {"Seam", "how they line up"}}}) {}

  void startFrom(const Selected& selected, Start& start) const override {
    // The first body's edges, then those of the others.
    std::vector<EdgeReference> from, to;
    for (const EdgeReference& edge : selected.edges())
      (from.empty() || edge.body == from.front().body ? from : to).push_back(edge);
    start.set(from_.edges, from);
    start.set(to_.edges, to);
  }
  std::optional<std::string> offered(const Selected& selected) const override {
    const std::vector<EdgeReference> edges = selected.edges();
    const bool two = edges.size() > 1 && edges.front().body != edges.back().body;
    return two && selected.anyOf(Picked::What::Edge) ? std::optional(say("Blend them …")) : std::nullopt;
  }

  StepResult evaluate(StepInputs& inputs, Progress& progress) const override {
    BlendOrder order;
    const auto [fromBody, fromShape] = sideOf(inputs, from_, order.from);
    const auto [toBody, toShape] = sideOf(inputs, to_, order.to);
    order.slide = slide_.of(inputs) / 100;
    order.against = run_.of(inputs) == Run::Against;
    const Blend blend = blended(fromShape, toShape, order, inputs.id(), progress);
    inputs.finding().cutterOutline = {blend.seam};
    StepResult result;
    result.cutterOutline = {blend.seam};
    const auto bead = [&](const SideFields& fields, const BlendSide& side, Point at, Vector arm) {
      if (side.joint != Joint::Touch && length(arm) > 0)
        result.gauges.push_back(Gauge::plain(fields.fullness.key(), at, arm, side.fullness));
    };
    bead(from_, order.from, blend.seam.front(), blend.fromArm);
    bead(to_, order.to, blend.seam.back(), blend.toArm);
    if (blend.folds) inputs.warn(say("the blend turns over somewhere: less fullness, or another start, may help"));
    tell(result, say("at the first border"), order.from.joint, blend.atFrom);
    tell(result, say("at the other border"), order.to.joint, blend.atTo);
    const Sewing wanted = sew_.of(inputs);
    if (wanted == Sewing::Nothing) {
      addNew(result, inputs.id(), blend.surface);
      return result;
    }
    std::vector<Shape> all{fromShape, blend.surface};
    if (toBody != fromBody) all.insert(all.begin() + 1, toShape);
    Shape whole;
    try {
      whole = sewn(all, sewingTolerance, progress).shape;
      for (const OpenEdge& edge : openEdgesOf(whole)) inputs.finding().gap.push_back(edge.line);
      if (wanted == Sewing::Solid) whole = solidWithin(whole, progress);
    } catch (const Error& error) {
      throw error.within(sew_.place());
    }
    replaceSurface(result, fromBody, fromShape, whole);
    if (toBody != fromBody) {
      result.audit.touched.push_back(toBody);
      result.consumed.push_back(toBody);
    }
    const int open = static_cast<int>(openEdgesOf(whole).size());
    result.audit.notes.push_back(open == 0 ? say("closed") : sayCount(open, "%1 edge is open", "%1 edges are open"));
    return result;
  }

 private:
  enum class Run { Nearer, Against };
  enum class Sewing { Nothing, Surface, Solid };
  /// What a blend may be off the borders that it follows, mm, and more.
  static constexpr double sewingTolerance = 1e-3;

  /// The fields of one side.
  struct SideFields {
    SideFields(FieldTable& table, Well well, const std::string& prefix)
        : edges(table,
                {.key = prefix, .label = "Border", .well = well, .help = "edges at the open border of a surface"}),
          loop(table,
               {.key = prefix + "_loop",
                .label = "Whole loop",
                .well = well,
                .help = "all edges that go on from the first one"},
               true),
          joint(table, {.key = prefix + "_joint", .label = "Meets it", .well = well}, {"touch", "tangent", "curvature"},
                Joint::Tangent),
          fullness(table,
                   {.key = prefix + "_fullness",
                    .label = "Fullness",
                    .well = well,
                    .help = "how far it follows the surface before it turns",
                    .when = joint.is(Joint::Tangent, Joint::Curvature)},
                   "1", NumberRule::Positive) {}

    const EdgesField edges;
    const FlagField loop;
    const ChoiceField<Joint> joint;
    const PlainNumberField fullness;
  };

  std::pair<BodyId, Shape> sideOf(StepInputs& inputs, const SideFields& fields, BlendSide& side) const {
    const std::map<BodyId, std::vector<Edge>> edges = fields.edges.of(inputs);
    if (edges.size() != 1)
      fields.edges.fail(say("edges of several bodies are chosen"), say("Choose edges of one surface"));
    const auto& [body, all] = *edges.begin();
    if (inputs.shape(body).kind() != BodyKind::Surface)
      fields.edges.fail(say("\"%1\" is no surface", body), say("Lift faces off it first"));
    side = {all, fields.loop.of(inputs), fields.joint.of(inputs), fields.fullness.of(inputs)};
    return {body, inputs.shape(body)};
  }

  static void tell(StepResult& result, const std::string& where, Joint joint, const Blend::Measured& measured) {
    const auto degrees = [](double radians) { return formatNumber(radians * 180 / std::numbers::pi, 2); };
    std::string text = say("%1: %2 mm apart at most", where, formatNumber(measured.gap, 2));
    if (joint != Joint::Touch) text += say(", angle off by at most %1°", degrees(measured.angle));
    if (joint == Joint::Curvature)
      text += say(", curvature off by at most %1 %", formatNumber(100 * measured.curvature, 2));
    result.audit.notes.push_back(text);
  }

  const SideFields from_{*this, Well::Stock, "from"};
  const SideFields to_{*this, Well::Cutter, "to"};
  const PlainNumberField slide_{
      *this,
      {.key = "slide",
       .label = "Slide",
       .well = Well::Reach,
       .help = "of closed borders: by how much of its length the other one is turned, in per cent"},
      "0"};
  const ChoiceField<Run> run_{
      *this,
      {.key = "run", .label = "Run", .well = Well::Reach, .help = "against: the other way round than is nearer"},
      {"same", "against"}};
  const ChoiceField<Sewing> sew_{
      *this, {.key = "sew", .label = "Sew into", .well = Well::Reach}, {"nothing", "a surface", "a solid"}};
};

}  // namespace

const StepKind& blendStep() {
  static const BlendStep kind;
  return kind;
}

}  // namespace kervo
