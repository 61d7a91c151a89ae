#include "steps/combine.h"

#include <algorithm>

#include "steps/divided_bodies.h"
#include "steps/simple_step.h"

namespace kervo {

namespace {

class Combine : public SimpleStep {
 public:
  Combine()
      : SimpleStep("combine", "Combine",
                   {{.key = "verb",
                     .label = "Verb",
                     .type = FieldType::Choice,
                     .well = Well::Reach,
                     .defaultText = "subtract",
                     .choices = {"subtract", "union", "intersect"}},
                    {.key = "stock", .label = "Stock", .type = FieldType::Bodies, .well = Well::Stock},
                    {.key = "cutters", .label = "Cutters", .type = FieldType::Bodies, .well = Well::Cutter},
                    {.key = "keep_cutters",
                     .label = "Keep cutters",
                     .type = FieldType::Flag,
                     .well = Well::Cutter,
                     .defaultText = "false"}}) {}

  StepResult evaluate(StepInputs& inputs, Progress& progress) const override {
    const Stock stock = stockOf(inputs, "stock");
    const BodyPick& pick = inputs.value<BodyPick>("cutters");
    std::vector<BodyId> cutters;
    for (const BodyId& body : inputs.picked(pick, "cutters")) {
      const bool isStock = std::find(stock.bodies.begin(), stock.bodies.end(), body) != stock.bodies.end();
      if (isStock && !pick.all)
        throw Error("\"" + body + "\" is stock and cutter at once", "field Cutters", "Remove it from one of the two");
      if (!isStock) cutters.push_back(body);
    }
    const std::string& verb = inputs.choice("verb");
    if (cutters.empty() && !(verb == "union" && stock.bodies.size() > 1))
      throw Error("no cutter is chosen", "field Cutters", "Pick the bodies that cut");

    StepResult result;
    for (const BodyId& body : stock.shielded) result.audit.shielded.push_back(body);
    if (verb == "subtract")
      subtract(result, inputs, stock.bodies, cutters, progress);
    else if (verb == "union")
      join(result, inputs, stock.bodies, cutters, progress);
    else
      common(result, inputs, stock.bodies, cutters, progress);
    if (!inputs.flag("keep_cutters")) useUp(result, inputs, cutters);
    return result;
  }

 private:
  static std::vector<Shape> shapes(StepInputs& inputs, const std::vector<BodyId>& bodies) {
    std::vector<Shape> result;
    for (const BodyId& body : bodies) result.push_back(inputs.shape(body));
    return result;
  }

  static void subtract(StepResult& result, StepInputs& inputs, const std::vector<BodyId>& stock,
                       const std::vector<BodyId>& cutters, Progress& progress) {
    const std::vector<Shape> tools = shapes(inputs, cutters);
    for (const BodyId& body : stock) {
      const Division cut = divide(inputs.shape(body), tools, progress);
      if (cut.inside.empty())
        result.audit.spared.push_back(body);
      else
        addDivided(result, inputs, body, cut);
    }
    if (result.audit.touched.empty())
      throw Error("no cutter meets the stock", "field Cutters", "Move the cutters, or choose others");
  }

  static void join(StepResult& result, StepInputs& inputs, const std::vector<BodyId>& stock,
                   const std::vector<BodyId>& cutters, Progress& progress) {
    std::vector<BodyId> all = stock;
    all.insert(all.end(), cutters.begin(), cutters.end());
    const std::vector<Shape> parts = shapes(inputs, all);
    const Union joined = unite(parts, progress);
    const Shape& united = joined.shape;
    if (!joined.remedy.empty()) inputs.warn("the kernel needed help with the union: " + joined.remedy);
    double before = 0;
    for (const Shape& part : parts) before += part.volume();
    result.audit.touched = all;
    result.audit.volumeBefore = before;
    result.audit.volumeAfter = united.volume();
    result.consumed = stock;
    const std::vector<Shape> pieces = united.pieces();
    if (pieces.size() > 1)
      inputs.warn("not all of the bodies touch: the union is in " + std::to_string(pieces.size()) + " pieces");
    addKept(result, inputs, stock.front(), stock.front(), "", pieces);
  }

  static void common(StepResult& result, StepInputs& inputs, const std::vector<BodyId>& stock,
                     const std::vector<BodyId>& cutters, Progress& progress) {
    const std::vector<Shape> tools = shapes(inputs, cutters);
    for (const BodyId& body : stock) {
      const Shape whole = inputs.shape(body);
      std::vector<Shape> all{whole};
      all.insert(all.end(), tools.begin(), tools.end());
      const Shape shared = intersect(all, progress);
      result.consumed.push_back(body);
      result.audit.touched.push_back(body);
      result.audit.volumeBefore += whole.volume();
      result.audit.volumeAfter += shared.volume();
      if (shared.empty())
        inputs.warn("\"" + body + "\" has nothing in common with the cutters: nothing of it stays");
      else
        addKept(result, inputs, body, body, "", shared.pieces());
    }
    if (result.made.empty())
      throw Error("the bodies have nothing in common", "field Cutters", "Move the cutters, or choose others");
  }

  static void useUp(StepResult& result, StepInputs& inputs, const std::vector<BodyId>& cutters) {
    for (const BodyId& body : cutters) {
      if (inputs.shielded(body)) {
        inputs.warn("the cutter \"" + body + "\" is shielded and is not used up");
        continue;
      }
      result.consumed.push_back(body);
    }
  }
};

}  // namespace

const StepKind& combineStep() {
  static const Combine kind;
  return kind;
}

}  // namespace kervo
