// Surfaces and bodies each divided by all the others; the parts that stay are clicked, and sewn if wanted.
#include <algorithm>
#include <map>

#include "base/say.h"
#include "fields/choice_field.h"
#include "fields/number_field.h"
#include "geom/divide/partition.h"
#include "geom/divide/score.h"
#include "geom/surface/projected.h"
#include "geom/surface/sewn.h"
#include "steps/registry.h"
#include "steps/shared/divided_bodies.h"
#include "steps/shared/surface_stock.h"

namespace kervo {

namespace {

class Intersect : public StepKind {
 public:
  Intersect()
      : StepKind({.key = "intersect",
                  .label = "Intersect",
                  .menu = KindMenu::Surface,
                  .verb = "Intersect surfaces and bodies",
                  .shortcut = "Ctrl+Shift+I",
                  .help = "Surfaces and bodies each divided by all the others, or the curves in which they meet"}) {}

  void startFrom(const Selected& selected, Start& start) const override {
    start.set(bodies_, BodyPick::only(selected.wholeBodies()));
  }
  std::optional<std::string> offered(const Selected& selected) const override {
    const bool any = !selectedSurfaces(selected).empty();
    return any && selected.wholeBodies().size() > 1 ? std::optional(say("Intersect them …")) : std::nullopt;
  }

  StepResult evaluate(StepInputs& inputs, Progress& progress) const override {
    const Stock stock = stockOf(inputs, bodies_);
    if (stock.bodies.size() < 2)
      bodies_.fail(say("one body has nothing to be divided by"), say("Pick two or more that cross"));
    StepResult result;
    result.audit.shielded = stock.shielded;
    requireNoCurves(inputs, stock.bodies);
    if (gives_.of(inputs) == Gives::Curves)
      giveCurves(result, inputs, stock.bodies, progress);
    else
      giveParts(result, inputs, stock.bodies, progress);
    return result;
  }

 private:
  enum class Gives { Parts, Curves };
  enum class Sewing { Nothing, Surface, Solid };

  void requireNoCurves(StepInputs& inputs, const std::vector<BodyId>& bodies) const {
    for (const BodyId& body : bodies)
      if (inputs.shape(body).kind() == BodyKind::Curve)
        bodies_.fail(say("\"%1\" is a curve", body), say("Trim surfaces with it, or split curves"));
  }

  void giveCurves(StepResult& result, StepInputs& inputs, const std::vector<BodyId>& bodies, Progress& progress) const {
    std::vector<Shape> all;
    for (std::size_t i = 0; i + 1 < bodies.size(); ++i) {
      std::vector<Shape> others;
      for (std::size_t k = i + 1; k < bodies.size(); ++k) others.push_back(inputs.shape(bodies[k]));
      const Shape curves = intersectionCurves(inputs.shape(bodies[i]), others, progress);
      if (!curves.empty()) all.push_back(curves);
    }
    if (all.empty()) bodies_.fail(say("none of them meet"), say("Move them, or extend surfaces"));
    addNew(result, inputs.id(), together(all));
  }

  void giveParts(StepResult& result, StepInputs& inputs, const std::vector<BodyId>& bodies, Progress& progress) const {
    std::vector<BodyId> sheets, solids;
    std::vector<Shape> sheetShapes, solidShapes;
    double faces = 0;
    for (const BodyId& body : bodies) {
      const Shape shape = inputs.shape(body);
      faces += shape.faceCount();
      const bool solid = shape.kind() == BodyKind::Solid;
      (solid ? solids : sheets).push_back(body);
      (solid ? solidShapes : sheetShapes).push_back(shape);
    }
    requireFeasible(inputs, bodies, faces);
    result.audit.watertight = false;
    if (!sheets.empty()) {
      const auto all = partitionOfSurfaces(sheetShapes, solidShapes, progress);
      for (std::size_t i = 0; i < sheets.size(); ++i) add(result, inputs, sheets[i], sheetShapes[i], all[i].parts);
    }
    if (!solids.empty()) {
      const Partition all = partition(solidShapes, sheetShapes, progress);
      for (std::size_t i = 0; i < solids.size(); ++i) {
        std::vector<Part> own;
        for (const Part& part : all.parts)
          if (part.isIn(i)) own.push_back(part);
        add(result, inputs, solids[i], solidShapes[i], own);
      }
    }
    if (result.made.empty()) bodies_.fail(say("none of them divide each other"), say("Move them, or extend surfaces"));
    settlePieces(result, inputs, pieces_.in(inputs));
    sewWhatStays(result, inputs, progress);
  }

  static std::string nameOf(const Part& part) {
    std::string name;
    for (const SheetSide side : part.sides)
      if (side == SheetSide::Front || side == SheetSide::Back)
        name += (name.empty() ? "" : "-") + std::string(side == SheetSide::Front ? "front" : "back");
    return name.empty() ? "part" : name;
  }

  static void add(StepResult& result, StepInputs& inputs, const BodyId& body, const Shape& whole,
                  const std::vector<Part>& parts) {
    if (parts.size() < 2) {
      result.audit.spared.push_back(body);
      return;
    }
    result.audit.touched.push_back(body);
    result.audit.cuts = result.audit.cuts || whole.kind() == BodyKind::Solid;
    result.audit.volumeBefore += whole.volume();
    result.consumed.push_back(body);
    std::map<std::string, std::vector<Shape>> byName;
    for (const Part& part : parts) byName[nameOf(part)].push_back(part.shape);
    for (const auto& [name, shapes] : byName) {
      for (const Shape& shape : shapes) result.audit.volumeAfter += shape.volume();
      addKept(result, inputs, body, body.part(name), name, shapes);
    }
  }

  void sewWhatStays(StepResult& result, StepInputs& inputs, Progress& progress) const {
    const Sewing wanted = sew_.of(inputs);
    if (wanted == Sewing::Nothing) return;
    std::vector<Shape> surfaces;
    std::set<BodyId> sewnBodies;
    for (const Output& output : result.made) {
      const auto* form = std::get_if<BodyForm>(&output.form);
      const Shape* shape = form ? form->shape() : nullptr;
      if (!shape || shape->kind() != BodyKind::Surface) continue;
      surfaces.push_back(*shape);
      sewnBodies.insert(output.id);
    }
    if (surfaces.empty()) sew_.fail(say("no surface stays that could be sewn"), say("Let parts of surfaces stay"));
    Shape whole;
    try {
      whole = sewn(surfaces, tolerance_.of(inputs), progress).shape;
      for (const OpenEdge& edge : openEdgesOf(whole)) inputs.finding().gap.push_back(edge.line);
      if (wanted == Sewing::Solid) whole = solidWithin(whole, progress);
    } catch (const Error& error) {
      throw error.within(sew_.place());
    }
    std::erase_if(result.made, [&](const Output& output) { return sewnBodies.contains(output.id); });
    for (Piece& piece : result.pieces)
      if (sewnBodies.contains(piece.body)) piece.body = inputs.id();
    result.audit.volumeAfter += whole.volume();
    result.made.push_back({.id = inputs.id(), .form = whole});
    const std::size_t open = openEdgesOf(whole).size();
    result.audit.watertight = wanted == Sewing::Solid;
    result.audit.notes.push_back(open == 0 ? say("what stays closes")
                                           : sayCount(static_cast<int>(open), "%1 edge is open", "%1 edges are open"));
  }

  const BodiesField bodies_{*this, {.key = "bodies", .label = "Bodies", .well = Well::Stock}, BodyPick::only({})};
  const ChoiceField<Gives> gives_{*this, {.key = "gives", .label = "Gives", .well = Well::Reach}, {"parts", "curves"}};
  const ChoiceField<Sewing> sew_{*this,
                                 {.key = "sew",
                                  .label = "Sew into",
                                  .well = Well::Reach,
                                  .help = "what stays of surfaces",
                                  .when = gives_.is(Gives::Parts)},
                                 {"nothing", "a surface", "a solid"}};
  const LengthField tolerance_{
      *this,
      {.key = "tolerance", .label = "Tolerance", .well = Well::Reach, .when = sew_.is(Sewing::Surface, Sewing::Solid)},
      "0.01 mm",
      NumberRule::Positive};
  const PiecesField pieces_{*this};
};

}  // namespace

const StepKind& intersectStep() {
  static const Intersect kind;
  return kind;
}

}  // namespace kervo
