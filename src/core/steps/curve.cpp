// Curves of a drawing and edges of bodies as a curve body, which follows them.
#include "base/say.h"
#include "fields/edges_field.h"
#include "fields/step_field.h"
#include "geom/curves/curve_body.h"
#include "model/step_inputs.h"
#include "steps/registry.h"

namespace kervo {

namespace {

class Curve : public StepKind {
 public:
  Curve()
      : StepKind({.key = "curve",
                  .label = "Curve",
                  .menu = KindMenu::Surface,
                  .verb = "Lift edges and drawings as curves",
                  .help = "Edges of bodies or a drawing as a curve of its own, which follows them",
                  .needsBodies = false}) {}

  void startFrom(const Selected& selected, Start& start) const override {
    start.set(edges_, selected.edges());
    if (selected.edges().empty()) start.set(drawing_, StepPick{selected.drawing});
  }
  std::optional<std::string> offered(const Selected& selected) const override {
    const bool fits = selected.anyOf(Picked::What::Edge) || selected.anyOf(Picked::What::Drawing);
    return fits ? std::optional(say("Lift as a curve")) : std::nullopt;
  }

  StepResult evaluate(StepInputs& inputs, Progress&) const override {
    std::vector<Edge> edges;
    if (!edges_.in(inputs).empty())
      for (const auto& [body, all] : edges_.of(inputs)) edges.insert(edges.end(), all.begin(), all.end());
    std::vector<SpaceCurve> curves;
    if (const StepId& step = drawing_.in(inputs).step; !step.empty()) {
      const DrawingResult* drawing = inputs.drawing(step);
      if (!drawing)
        drawing_.fail(say("there is no drawing from a step \"%1\" before this one", step),
                      say("Choose a step that draws"));
      for (const NamedCurve& curve : drawing->curves) curves.push_back(curve.curve);
    }
    if (edges.empty() && curves.empty())
      edges_.fail(say("no edge and no drawing is chosen"), say("Pick edges, or choose a drawing with curves"));
    const Shape curve = curveBody(curves, edges);
    StepResult result;
    result.audit.watertight = false;
    result.audit.touched = {inputs.id()};
    result.audit.notes.push_back(say("linked: the curve follows what it was lifted from"));
    result.pieces.push_back(Piece::whole(inputs.id(), inputs.id(), curve));
    result.pieces.back().key = inputs.id();
    result.made.push_back({.id = inputs.id(), .form = curve});
    return result;
  }

 private:
  const EdgesField edges_{*this, {.key = "edges", .label = "Edges", .well = Well::Stock}};
  const StepField drawing_{
      *this,
      {.key = "drawing", .label = "Drawing", .well = Well::Stock, .help = "All its curves that bound something"}};
};

}  // namespace

const StepKind& curveStep() {
  static const Curve kind;
  return kind;
}

}  // namespace kervo
