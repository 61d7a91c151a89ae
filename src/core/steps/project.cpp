// Curves put onto the faces of bodies, as a curve body that follows both.
#include "base/say.h"
#include "fields/flag_field.h"
#include "geom/surface/projected.h"
#include "geom/surface/wrapped.h"
#include "model/step_inputs.h"
#include "steps/registry.h"
#include "steps/shared/axis_fields.h"
#include "steps/shared/curve_sources.h"
#include "steps/shared/curve_stock.h"

namespace kervo {

namespace {

class Project : public StepKind {
 public:
  Project()
      : StepKind(
            {.key = "project",
             .label = "Project",
             .menu = KindMenu::Surface,
             .verb = "Project curves onto faces",
             .shortcut = "Ctrl+J",
             .help = "Curves, edges and drawings laid onto faces, along a direction, along normals, or wrapped",
             .wells = {.stock = {"Curves", "what is laid onto faces"}, .reach = {"Onto", "which faces, which way"}}}) {}

  void startFrom(const Selected& selected, Start& start) const override {
    start.set(source_.edges, selected.edges());
    const std::vector<BodyId> curves = selectedCurves(selected);
    start.set(source_.curves, BodyPick::only(curves));
    if (selected.edges().empty() && curves.empty()) start.set(source_.drawing, StepPick{selected.drawing});
    std::vector<BodyId> onto = selected.wholeBodies();
    std::erase_if(onto,
                  [&](const BodyId& body) { return std::find(curves.begin(), curves.end(), body) != curves.end(); });
    start.set(onto_, BodyPick::only(onto));
    if (const auto faces = selected.faces(); !faces.empty()) start.set(face_, faces.front());
  }
  std::optional<std::string> offered(const Selected& selected) const override {
    const bool curves = !selectedCurves(selected).empty() || selected.anyOf(Picked::What::Drawing);
    return curves && selected.anyBody ? std::optional(say("Project onto faces")) : std::nullopt;
  }

  StepResult evaluate(StepInputs& inputs, Progress& progress) const override {
    const Shape curve = how_.of(inputs) == How::Wrapped ? wrappedOf(inputs) : projectedOf(inputs, progress);
    StepResult result;
    result.audit.watertight = false;
    result.audit.touched = {inputs.id()};
    const int closed = closedChainCount(curve), open = chainCount(curve) - closed;
    if (closed > 0) result.audit.notes.push_back(sayCount(closed, "%1 closed curve", "%1 closed curves"));
    if (open > 0) result.audit.notes.push_back(sayCount(open, "%1 open curve", "%1 open curves"));
    result.audit.notes.push_back(say("linked: it follows the curves and the faces"));
    result.pieces.push_back(Piece::whole(inputs.id(), inputs.id(), curve));
    result.pieces.back().key = inputs.id();
    result.made.push_back({.id = inputs.id(), .form = curve});
    return result;
  }

 private:
  enum class How { DrawingNormal, Direction, FaceNormals, Wrapped };

  const DrawingResult& drawnForSure(StepInputs& inputs, const std::string& why) const {
    const DrawingResult* drawing = source_.drawn(inputs);
    if (!drawing) source_.drawing.fail(why, say("Choose a drawing"));
    return *drawing;
  }

  Shape wrappedOf(StepInputs& inputs) const {
    const DrawingResult& drawing = drawnForSure(inputs, say("only a drawing can be wrapped, and none is chosen"));
    try {
      return wrapped(curvesOf(drawing), drawing.plane, face_.of(inputs));
    } catch (const Error& error) {
      throw error.within(face_.place());
    }
  }

  Shape projectedOf(StepInputs& inputs, Progress& progress) const {
    const std::vector<BodyId> onto = onto_.of(inputs);
    if (onto.empty()) onto_.fail(say("no body is chosen to project onto"), say("Pick solids or surfaces"));
    const Shape source = source_.forSure(inputs, say("no curve, edge or drawing is chosen"));
    std::vector<Shape> found;
    for (const BodyId& body : onto) {
      try {
        const Shape lines = onOne(inputs, source, inputs.shape(body), progress);
        if (lines.empty())
          inputs.warn(say("the curves miss \"%1\"", body));
        else
          found.push_back(lines);
      } catch (const Error& error) {
        throw error.within(say("body \"%1\"", body));
      }
    }
    if (found.empty())
      onto_.fail(say("the curves miss every body chosen"), say("Move the curves, or project another way"));
    return together(found);
  }

  Shape onOne(StepInputs& inputs, const Shape& source, const Shape& onto, Progress& progress) const {
    if (how_.of(inputs) == How::FaceNormals) return projectedByNormals(source, onto, progress);
    Vector along = how_.of(inputs) == How::DrawingNormal
                       ? drawnForSure(inputs, say("a drawing gives the direction, and none is chosen")).plane.normal
                       : along_.of(inputs).direction;
    if (reverse_.of(inputs)) along = -along;
    return projectedAlong(source, onto, along, hits_.of(inputs), progress);
  }

  const CurveSources source_{*this, {"drawing", "curves", "edges"}, {"Drawing", "Curves", "Edges"}, Well::Stock};
  const ChoiceField<How> how_{
      *this,
      {.key = "how",
       .label = "Projected",
       .well = Well::Reach,
       .help = "wrapped: laid round a cylinder or cone with lengths kept",
       .telling = true},
      {"along the drawing's normal", "along a direction", "along the faces' normals", "wrapped"}};
  const BodiesField onto_{*this,
                          {.key = "onto",
                           .label = "Onto",
                           .well = Well::Reach,
                           .when = how_.is(How::DrawingNormal, How::Direction, How::FaceNormals)},
                          BodyPick::only({})};
  const FaceField face_{*this, {.key = "face", .label = "Round", .well = Well::Reach, .when = how_.is(How::Wrapped)}};
  const AxisFields along_{*this, how_.is(How::Direction)};
  const ChoiceField<Hits> hits_{*this,
                                {.key = "hits",
                                 .label = "Side",
                                 .well = Well::Reach,
                                 .help = "all, or where a line along the direction meets the body first or last",
                                 .when = how_.is(How::DrawingNormal, How::Direction)},
                                {"all", "near", "far"},
                                Hits::Near};
  const FlagField reverse_{*this,
                           {.key = "reverse",
                            .label = "The other way",
                            .well = Well::Reach,
                            .help = "what lies behind the curves counts as ahead of them",
                            .when = how_.is(How::DrawingNormal, How::Direction)}};
};

}  // namespace

const StepKind& projectStep() {
  static const Project kind;
  return kind;
}

}  // namespace kervo
