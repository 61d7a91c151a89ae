#include "steps/score.h"

#include <algorithm>

#include "geom/score.h"
#include "geom/sheet.h"
#include "steps/cutters.h"
#include "steps/divided_bodies.h"
#include "steps/simple_step.h"

namespace kervo {

namespace {

std::vector<FieldSpec> scoreFields() {
  std::vector<FieldSpec> fields{
      {.key = "verb",
       .label = "Verb",
       .type = FieldType::Choice,
       .well = Well::Reach,
       .defaultText = "mark",
       .choices = {"mark", "share faces", "curves"},
       .help = "mark: faces become several; share faces: touching bodies get common faces, for a mesh that matches on "
               "both sides; curves: where stock and cutter meet, as bodies"},
      {.key = "stock", .label = "Stock", .type = FieldType::Bodies, .well = Well::Stock, .defaultText = "all"}};
  for (FieldSpec& field : cutterFields()) {
    if (field.whenField.empty()) {
      field.whenField = "verb";
      field.whenValues = {"mark", "curves"};
    }
    fields.push_back(std::move(field));
  }
  return fields;
}

class Score : public SimpleStep {
 public:
  Score() : SimpleStep("score", "Score", scoreFields()) {}

  StepResult evaluate(StepInputs& inputs, Progress& progress) const override {
    const Stock stock = stockOf(inputs, "stock");
    StepResult result;
    result.audit.shielded = stock.shielded;
    if (inputs.choice("verb") == "share faces") {
      share(result, inputs, stock.bodies, progress);
      return result;
    }
    Box around;
    for (const BodyId& body : stock.bodies) around.add(inputs.box(body));
    const bool curves = inputs.choice("verb") == "curves";
    const std::vector<ResolvedCutter> cutters = cuttersOf(inputs, "cutters", cutterReachOf(inputs), around, progress,
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
      throw Error("the cutters meet none of the stock", "field Cutter", "Move the cutters, or choose other stock");
    return result;
  }

 private:
  static void mark(StepResult& result, StepInputs& inputs, const BodyId& body, const std::vector<Shape>& cutters,
                   Progress& progress) {
    const Shape before = inputs.shape(body);
    if (before.kind() == BodyKind::Curve) return result.audit.spared.push_back(body);
    const Shape after = scored(before, cutters, progress);
    if (after.faceCount() == before.faceCount()) return result.audit.spared.push_back(body);
    replace(result, inputs, body, before, after);
    result.audit.notes.push_back("\"" + body + "\" has " + std::to_string(after.faceCount()) + " faces, " +
                                 std::to_string(before.faceCount()) + " before");
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
    result.pieces.push_back({"curves on \"" + body + "\"", id, 0, 0, curves.roughBox().centre(), true, curves, "", id});
    result.made.push_back({id, curves, "", "curves on \"" + body + "\"", std::nullopt, ""});
    result.audit.notes.push_back(std::to_string(curves.edgeCount()) + " curves on \"" + body + "\"");
  }

  static void share(StepResult& result, StepInputs& inputs, const std::vector<BodyId>& bodies, Progress& progress) {
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
      throw Error("faces are shared by at least two solids", "field Stock", "Choose two or more that touch");
    const SharedFaces shared = sharedOf(solids, shapes, progress);
    if (shared.count == 0)
      throw Error("none of the bodies touch face to face", "field Stock", "Move them together, or choose others");
    if (!shared.remedy.empty()) result.audit.warnings.push_back("the kernel needed help: " + shared.remedy);
    for (std::size_t i = 0; i < solids.size(); ++i) {
      if (std::find(shared.alone.begin(), shared.alone.end(), i) != shared.alone.end())
        result.audit.spared.push_back(solids[i]);
      else
        replace(result, inputs, solids[i], shapes[i], shared.solids[i]);
    }
    result.audit.notes.push_back(std::to_string(shared.count) + (shared.count == 1 ? " face is" : " faces are") +
                                 " shared");
  }

  /// With the bodies' names in the message about an overlap.
  static SharedFaces sharedOf(const std::vector<BodyId>& solids, const std::vector<Shape>& shapes, Progress& progress) {
    try {
      return withSharedFaces(shapes, progress);
    } catch (const Error& error) {
      std::string happened = error.happened();
      for (std::size_t i = solids.size(); i > 0; --i) {
        const std::string number = "body " + std::to_string(i) + " ";
        for (auto at = happened.find(number); at != std::string::npos; at = happened.find(number, at + 1))
          happened.replace(at, number.size(), "\"" + solids[i - 1] + "\" ");
      }
      throw Error(happened, "field Stock", error.help());
    }
  }
};

}  // namespace

const StepKind& scoreStep() {
  static const Score kind;
  return kind;
}

}  // namespace kervo
