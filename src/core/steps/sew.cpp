// Surfaces sewn together, to a solid if they close.
#include "base/quantity.h"
#include "base/say.h"
#include "fields/choice_field.h"
#include "fields/flag_field.h"
#include "fields/number_field.h"
#include "geom/surface/sewn.h"
#include "steps/registry.h"
#include "steps/shared/surface_stock.h"

namespace kervo {

namespace {

class Sew : public StepKind {
 public:
  Sew()
      : StepKind({.key = "sew",
                  .label = "Sew",
                  .menu = KindMenu::Surface,
                  .verb = "Sew surfaces",
                  .shortcut = "Ctrl+Shift+W",
                  .help = "Surfaces as one where their borders meet; a solid, if they close"}) {}

  void startFrom(const Selected& selected, Start& start) const override {
    start.set(surfaces_, BodyPick::only(selectedSurfaces(selected)));
  }
  std::optional<std::string> offered(const Selected& selected) const override {
    return selectedSurfaces(selected).size() > 1 ? std::optional(say("Sew them")) : std::nullopt;
  }

  StepResult evaluate(StepInputs& inputs, Progress& progress) const override {
    StepResult result;
    const std::vector<BodyId> bodies = surfacesOf(inputs, surfaces_, result.audit);
    if (bodies.empty()) surfaces_.fail(say("no surface is chosen"), say("Pick surfaces whose borders meet"));
    std::vector<Shape> shapes;
    shapes.reserve(bodies.size());
    for (const BodyId& body : bodies) shapes.push_back(inputs.shape(body));
    if (closing_.of(inputs)) return closed(std::move(result), inputs, bodies, shapes, progress);
    Sewn made = sewnOf(inputs, shapes, progress);
    const std::vector<OpenEdge> open = openEdgesOf(made.shape);
    for (const OpenEdge& edge : open) inputs.finding().gap.push_back(edge.line);
    const Gives gives = gives_.of(inputs);
    Shape shape = made.shape;
    if (gives == Gives::Solid || (gives == Gives::SolidIfClosed && open.empty())) {
      try {
        shape = solidWithin(made.shape, progress);
      } catch (const Error& error) {
        if (gives == Gives::Solid) throw error.within(gives_.place());
        inputs.warn(error.happened());
      }
    }
    tell(inputs, result, made, open);
    replaceSurface(result, bodies.front(), shapes.front(), shape);
    for (std::size_t i = 1; i < bodies.size(); ++i) {
      result.audit.touched.push_back(bodies[i]);
      result.consumed.push_back(bodies[i]);
    }
    return result;
  }

 private:
  enum class Gives { SolidIfClosed, Surface, Solid };

  Sewn sewnOf(StepInputs& inputs, const std::vector<Shape>& shapes, Progress& progress) const {
    try {
      Sewn made = sewn(shapes, tolerance_.of(inputs), progress);
      if (cap_.of(inputs)) made.shape = capped(made.shape, inputs.id(), progress);
      return made;
    } catch (const Error& error) {
      throw error.within(tolerance_.place());
    }
  }

  /// A solid of the faces that close; what is left over stays as it was.
  StepResult closed(StepResult result, StepInputs& inputs, const std::vector<BodyId>& bodies,
                    const std::vector<Shape>& shapes, Progress& progress) const {
    try {
      const ClosingPart part = closingPartOf(shapes, tolerance_.of(inputs), progress);
      const Shape solid = gives_.of(inputs) == Gives::Surface ? part.surface : solidWithin(part.surface, progress);
      addNew(result, inputs.id(), solid);
      int left = 0;
      for (std::size_t i = 0; i < bodies.size(); ++i) {
        const std::optional<Shape>& rest = part.left[i];
        left += rest ? rest->faceCount() : shapes[i].faceCount();
        if (!rest) continue;
        if (!rest->empty()) {
          replaceSurface(result, bodies[i], shapes[i], *rest);
          continue;
        }
        result.audit.touched.push_back(bodies[i]);
        result.consumed.push_back(bodies[i]);
      }
      result.audit.watertight = solid.kind() == BodyKind::Solid;
      result.audit.notes.push_back(left == 0 ? say("all faces close")
                                             : sayCount(left, "%1 face closes nothing and is left over",
                                                        "%1 faces close nothing and are left over"));
      return result;
    } catch (const Error& error) {
      throw error.within(closing_.place());
    }
  }

  /// What was closed, and what stays open.
  static void tell(StepInputs& inputs, StepResult& result, const Sewn& made, const std::vector<OpenEdge>& open) {
    constexpr double worthTelling = 1e-3;
    const int parts = static_cast<int>(made.shape.pieces().size());
    if (parts > 1) inputs.warn(say("the surfaces do not all meet: %1 separate ones stay", parts));
    if (made.widestClosed > worthTelling)
      result.audit.warnings.push_back(say("gaps of up to %1 mm were closed: its edges are only as exact as that",
                                          formatNumber(made.widestClosed, 3)));
    if (open.empty()) {
      result.audit.notes.push_back(say("no edge is open: it closes"));
      return;
    }
    const double gap = open.front().gap;
    const std::string count = sayCount(static_cast<int>(open.size()), "%1 edge is open", "%1 edges are open");
    result.audit.notes.push_back(
        gap > 0 ? say("%1; from one to the next it is up to %2 mm", count, formatNumber(gap, 4)) : count);
  }

  const BodiesField surfaces_{*this, {.key = "surfaces", .label = "Surfaces", .well = Well::Stock}, BodyPick::only({})};
  const LengthField tolerance_{*this,
                               {.key = "tolerance",
                                .label = "Tolerance",
                                .well = Well::Reach,
                                .help = "borders that are no further apart are sewn together"},
                               "0.01 mm",
                               NumberRule::Positive};
  const FlagField closing_{*this,
                           {.key = "closing",
                            .label = "Only what closes",
                            .well = Well::Reach,
                            .help = "finds the faces that close by itself, and leaves the others as they are"}};
  const FlagField cap_{*this,
                       {.key = "cap",
                        .label = "Close planar holes",
                        .well = Well::Reach,
                        .help = "open loops that lie in a plane get a face"}};
  const ChoiceField<Gives> gives_{
      *this,
      {.key = "gives", .label = "Gives", .well = Well::Reach, .help = "a solid: or it says why there is none"},
      {"a solid if it closes", "a surface", "a solid"}};
};

}  // namespace

const StepKind& sewStep() {
  static const Sew kind;
  return kind;
}

}  // namespace kervo
