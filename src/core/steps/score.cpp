// Marks faces without cutting volume, shares faces between touching bodies, finds curves.
#include <algorithm>

#include "base/say.h"
#include "geom/divide/score.h"
#include "geom/surface/sheet.h"
#include "steps/registry.h"
#include "steps/shared/cutters.h"
#include "steps/shared/divided_bodies.h"

namespace kervo {

namespace {

class Score : public StepKind {
 public:
  Score()
      : StepKind({.key = "score",
                  .label = "Score",
                  .menu = KindMenu::Cut,
                  .shortcut = "Ctrl+Shift+F",
                  .help = "Mark faces without cutting volume, or let touching bodies share faces"}) {}

  void startFrom(const Selected& selected, Start& start) const override {
    const std::vector<BodyId> bodies = selected.wholeBodies();
    if (!bodies.empty()) start.set(stock_, BodyPick::only(bodies));
    if (bodies.size() > 1) start.fields[verb_.key()] = verb_.with(Verb::ShareFaces);
    if (const auto plane = selected.plane()) start.set(cut_.cutters, {CutterPick::of(*plane)});
  }
  std::optional<std::string> offered(const Selected& selected) const override {
    if (selected.bodies().empty()) return std::nullopt;
    return selected.bodies().size() > 1 ? say("Share faces …") : say("Score it …");
  }

  StepResult evaluate(StepInputs& inputs, Progress& progress) const override {
    const Stock stock = stockOf(inputs, stock_);
    StepResult result;
    result.audit.shielded = stock.shielded;
    const Verb verb = verb_.of(inputs);
    if (verb == Verb::ShareFaces) {
      share(result, inputs, stock.bodies, progress);
      return result;
    }
    Box around;
    for (const BodyId& body : stock.bodies) around.add(inputs.box(body));
    const bool curves = verb == Verb::Curves;
    const std::vector<ResolvedCutter> cutters =
        cuttersOf(inputs, cut_.cutters, reachOf(inputs, cut_, reach_), around, progress,
                  curves ? CurveCutters::Refused : CurveCutters::Allowed);
    result.cutterOutline = outlinesOf(cutters, around);
    requireFeasible(inputs, stock.bodies, faceCountOf(cutters));
    std::vector<Shape> shapes;
    for (const ResolvedCutter& cutter : cutters) {
      if (cutter.plane) shapes.push_back(planarSheet(*cutter.plane, around, inputs.id() + ":cut"));
      if (!cutter.sheet.empty()) shapes.push_back(cutter.sheet);
      if (!cutter.solid.empty()) shapes.push_back(cutter.solid);
      if (!cutter.curve.empty()) shapes.push_back(cutter.curve);
    }
    for (const BodyId& body : stock.bodies) {
      const bool isCutter = std::any_of(cutters.begin(), cutters.end(),
                                        [&](const ResolvedCutter& cutter) { return cutter.body == body; });
      if (isCutter) continue;
      curves ? addCurves(result, inputs, body, shapes, progress) : mark(result, inputs, body, shapes, progress);
    }
    if (result.made.empty())
      cut_.cutters.fail(say("the cutters meet none of the stock"), say("Move the cutters, or choose other stock"));
    return result;
  }

 private:
  enum class Verb { Mark, ShareFaces, Curves };

  static void mark(StepResult& result, StepInputs& inputs, const BodyId& body, const std::vector<Shape>& cutters,
                   Progress& progress) {
    const Shape before = inputs.shape(body);
    if (before.kind() == BodyKind::Curve) return result.audit.spared.push_back(body);
    const Shape after = scored(before, cutters, progress);
    if (after.faceCount() == before.faceCount()) return result.audit.spared.push_back(body);
    replace(result, inputs, body, before, after);
    result.audit.notes.push_back(say("\"%1\" has %2 faces, %3 before", body, after.faceCount(), before.faceCount()));
  }

  static void replace(StepResult& result, StepInputs& inputs, const BodyId& body, const Shape& before,
                      const Shape& after) {
    result.audit.touched.push_back(body);
    result.audit.volumeBefore += before.volume();
    result.audit.volumeAfter += after.volume();
    result.consumed.push_back(body);
    addKept(result, inputs, body, body, "", {after});
  }

  static void addCurves(StepResult& result, StepInputs& inputs, const BodyId& body, const std::vector<Shape>& cutters,
                        Progress& progress) {
    const Shape curves = intersectionCurves(inputs.shape(body), cutters, progress);
    if (curves.empty()) return result.audit.spared.push_back(body);
    result.audit.touched.push_back(body);
    const BodyId id = BodyId(inputs.id()).part(body);
    result.pieces.push_back(Piece::whole(say("curves on \"%1\"", body), id, curves));
    result.pieces.back().key = id;
    result.made.push_back({.id = id, .form = curves, .name = say("curves on \"%1\"", body)});
    result.audit.notes.push_back(say("%1 curves on \"%2\"", curves.edgeCount(), body));
  }

  void share(StepResult& result, StepInputs& inputs, const std::vector<BodyId>& bodies, Progress& progress) const {
    std::vector<BodyId> solids;
    std::vector<Shape> shapes;
    for (const BodyId& body : bodies) {
      if (inputs.shape(body).kind() != BodyKind::Solid) {
        result.audit.spared.push_back(body);
        continue;
      }
      solids.push_back(body);
      shapes.push_back(inputs.shape(body));
    }
    if (solids.size() < 2)
      stock_.fail(say("faces are shared by at least two solids"), say("Choose two or more that touch"));
    const SharedFaces shared = sharedOf(solids, shapes, progress);
    if (shared.count == 0)
      stock_.fail(say("none of the bodies touch face to face"), say("Move them together, or choose others"));
    if (!shared.remedy.empty()) result.audit.warnings.push_back(say("the kernel needed help: %1", shared.remedy));
    for (std::size_t i = 0; i < solids.size(); ++i) {
      if (std::find(shared.alone.begin(), shared.alone.end(), i) != shared.alone.end())
        result.audit.spared.push_back(solids[i]);
      else
        replace(result, inputs, solids[i], shapes[i], shared.solids[i]);
    }
    result.audit.notes.push_back(sayCount(shared.count, "%1 face is shared", "%1 faces are shared"));
  }

  /// With the bodies' names in the message about an overlap.
  SharedFaces sharedOf(const std::vector<BodyId>& solids, const std::vector<Shape>& shapes, Progress& progress) const {
    try {
      return withSharedFaces(shapes, progress);
    } catch (const SolidsOverlap& overlap) {
      throw SolidsOverlap(overlap, solids[overlap.first], solids[overlap.second]).within(stock_.place());
    } catch (const Error& error) {
      throw error.within(stock_.place());
    }
  }

  const ChoiceField<Verb> verb_{
      *this,
      {.key = "verb",
       .label = "Verb",
       .well = Well::Reach,
       .help = say("mark: faces become several; share faces: touching bodies get common faces, for a mesh that matches "
                   "on both sides; curves: where stock and cutter meet, as bodies"),
       .telling = true},
      {"mark", "share faces", "curves"}};
  const BodiesField stock_{*this, {.key = "stock", .label = "Stock", .well = Well::Stock}, BodyPick::everything()};
  const CutterFields cut_{*this, verb_.is(Verb::Mark, Verb::Curves), CuttersField::Curves::Taken};
  const ExtentFields reach_{*this, verb_.is(Verb::Mark, Verb::Curves)};
};

}  // namespace

const StepKind& scoreStep() {
  static const Score kind;
  return kind;
}

}  // namespace kervo
