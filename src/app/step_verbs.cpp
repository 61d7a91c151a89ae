#include "app/step_verbs.h"

#include <cmath>

#include "app/bench/cutters_field.h"
#include "model/document_edits.h"
#include "model/names_for_people.h"
#include "steps/registry.h"

namespace kervo::app {

namespace {

Step newStep(const Desk& desk, const std::string& kind, std::map<std::string, FieldValue> fields) {
  return Step(desk.session.document().freeId(kind), *allStepKinds().find(kind), std::move(fields));
}

/// The plane that the selection means, if any: a planar face or a plane's step.
std::optional<PlanePick> selectedPlane(const Desk& desk) {
  if (const auto step = desk.session.document().find(desk.selection.step()); step && step->kind().key() == "plane")
    return PlanePick{PlanePick::Kind::OfStep, step->id(), {}};
  for (const Pick& pick : desk.selection.picks()) {
    const auto face = faceReference(pick, desk.shownPictures);
    if (!face) continue;
    const auto& faces = desk.shownPictures.at(pick.body)->faces;
    if (faces[static_cast<std::size_t>(pick.index)].plane()) return PlanePick{PlanePick::Kind::OnFace, "", *face};
  }
  return std::nullopt;
}

Box selectedBox(const Desk& desk) {
  Box box;
  const auto& made = *desk.session.made();
  for (const auto& [id, picture] : made.pictures) {
    const auto bodies = desk.selection.bodies();
    const Body* body = made.model->find(id);
    const bool wanted = bodies.empty() ? body && body->visible && !body->shielded
                                       : std::find(bodies.begin(), bodies.end(), id) != bodies.end();
    if (wanted) box.add(picture->mesh.box);
  }
  return box;
}

/// Bodies that were selected as such; a face or edge only says where.
std::vector<BodyId> wholeBodies(const Desk& desk) {
  std::vector<BodyId> result;
  for (const Pick& pick : desk.selection.picks())
    if (pick.kind == Pick::Kind::Body) result.push_back(pick.body);
  return result;
}

Expression inUnit(const Desk& desk, double millimetres) {
  const Unit unit = unitNamed(desk.session.document().made.unit);
  return Expression(formatNumber(std::round(millimetres / unit.factor * 1e6) / 1e6) + " " + std::string(unit.name));
}

}  // namespace

void startSolid(Desk& desk, const std::string& kind) {
  std::map<std::string, FieldValue> fields;
  if (const auto plane = selectedPlane(desk)) {
    fields["plane"] = *plane;
    // In the middle of the face: its plane's own origin may be far away.
    for (const Pick& pick : desk.selection.picks()) {
      const auto picture = desk.shownPictures.find(pick.body);
      const auto reference = faceReference(pick, desk.shownPictures);
      if (!reference) continue;
      const auto face = picture->second->faces[static_cast<std::size_t>(pick.index)].plane();
      const auto middle = face ? middleOf(*reference, desk.shownPictures, *face) : std::nullopt;
      if (middle)
        fields["at"] = std::vector<Expression>{inUnit(desk, middle->u), inUnit(desk, middle->v), inUnit(desk, 0)};
      break;
    }
  }
  desk.trial.begin(newStep(desk, kind, std::move(fields)));
}

void startPlane(Desk& desk) {
  std::map<std::string, FieldValue> fields;
  if (const auto plane = selectedPlane(desk)) fields["from"] = *plane;
  desk.trial.begin(newStep(desk, "plane", std::move(fields)));
}

void startDrawing(Desk& desk, AfterDrawing after) {
  std::map<std::string, FieldValue> fields;
  std::string name;
  if (const auto plane = selectedPlane(desk)) {
    fields["plane"] = *plane;
    if (plane->kind == PlanePick::Kind::OnFace)
      name = "Drawing on " + faceName(plane->face, *desk.session.made()->model);
  }
  const Step step = newStep(desk, "drawing", std::move(fields));
  const auto then = [&desk, after, id = step.id()] {
    desk.selection.setStep(id);
    if (after == AfterDrawing::Cut) startCut(desk);
  };
  desk.trial.begin(step, then, name);
}

StepId drawingToCutWith(const Desk& desk) {
  const Document& document = desk.session.document();
  if (const auto step = document.find(desk.selection.step()); step && step->kind().key() == "drawing")
    return step->id();
  for (auto step = document.made.steps.rbegin(); step != document.made.steps.rend(); ++step)
    if ((*step)->kind().key() == "drawing" && stepsThatRead(document, (*step)->id()).empty()) return (*step)->id();
  return {};
}

void startCut(Desk& desk) {
  std::map<std::string, FieldValue> fields;
  fields["profiles"] = RegionPick{drawingToCutWith(desk), true, {}};
  if (const auto bodies = wholeBodies(desk); !bodies.empty()) fields["stock"] = BodyPick{false, bodies};
  desk.trial.begin(newStep(desk, "cut", std::move(fields)));
}

void startSplit(Desk& desk) {
  std::map<std::string, FieldValue> fields;
  // What is selected lands in the well that it fits: solids are cut, surfaces, faces, planes and drawings cut.
  std::vector<CutterPick> cutters;
  std::vector<BodyId> stock;
  for (const Pick& pick : desk.selection.picks()) {
    const auto cutter = cutterPick(pick, desk);
    if (!cutter) continue;
    const bool solid =
        cutter->kind == CutterPick::Kind::Body && desk.shownPictures.at(pick.body)->shape.kind() == BodyKind::Solid;
    if (solid)
      stock.push_back(pick.body);
    else
      cutters.push_back(*cutter);
  }
  if (const auto step = desk.session.document().find(desk.selection.step())) {
    if (step->kind().key() == "plane")
      cutters.push_back(CutterPick::of(PlanePick{PlanePick::Kind::OfStep, step->id(), {}}));
    if (step->kind().key() == "drawing") cutters.push_back(CutterPick::of(RegionPick{step->id(), true, {}}));
  }
  if (!stock.empty()) fields["stock"] = BodyPick{false, stock};
  if (!cutters.empty()) {
    fields["cutters"] = cutters;
  } else if (const Box box = selectedBox(desk); !box.empty()) {
    // Across the longest side, in the middle.
    const Vector size = box.high - box.low;
    const Point middle = box.centre();
    const bool x = size.x >= size.y && size.x >= size.z, y = !x && size.y >= size.z;
    fields["cutters"] = std::vector{CutterPick::of(PlanePick{PlanePick::Kind::Standard,
                                                             x   ? "yz"
                                                             : y ? "xz"
                                                                 : "xy",
                                                             {}})};
    // A round number near the middle: a hundredth of the size, downwards to a power of ten.
    const double step = std::pow(10, std::floor(std::log10(std::max({size.x, size.y, size.z}) / 50)));
    fields["offset"] = inUnit(desk, std::round((x ? middle.x : y ? -middle.y : middle.z) / step) * step);
  }
  desk.trial.begin(newStep(desk, "split", std::move(fields)));
}

void startCombine(Desk& desk) {
  std::map<std::string, FieldValue> fields;
  const auto bodies = desk.selection.bodies();
  if (!bodies.empty()) fields["stock"] = BodyPick{false, {bodies.front()}};
  if (bodies.size() > 1) fields["cutters"] = BodyPick{false, {bodies.begin() + 1, bodies.end()}};
  desk.trial.begin(newStep(desk, "combine", std::move(fields)));
}

void startExtrude(Desk& desk) {
  desk.trial.begin(newStep(desk, "extrude", {{"profiles", RegionPick{drawingToCutWith(desk), true, {}}}}));
}

void startLift(Desk& desk) {
  std::vector<FaceReference> faces;
  for (const Pick& pick : desk.selection.picks())
    if (const auto face = faceReference(pick, desk.shownPictures)) faces.push_back(*face);
  desk.trial.begin(newStep(desk, "lift", {{"faces", faces}}));
}

void startPlace(Desk& desk) {
  std::map<std::string, FieldValue> fields{{"bodies", BodyPick{false, desk.selection.bodies()}}};
  // Its own face, should the body be aligned.
  const auto& picks = desk.selection.picks();
  if (picks.size() == 1)
    if (const auto face = faceReference(picks.front(), desk.shownPictures)) fields["face"] = *face;
  desk.trial.begin(newStep(desk, "place", std::move(fields)));
}

void startPattern(Desk& desk) {
  desk.trial.begin(newStep(desk, "pattern", {{"bodies", BodyPick{false, desk.selection.bodies()}}}));
}

void startScore(Desk& desk) {
  std::map<std::string, FieldValue> fields;
  const auto bodies = wholeBodies(desk);
  if (!bodies.empty()) fields["stock"] = BodyPick{false, bodies};
  if (bodies.size() > 1) fields["verb"] = std::string("share faces");
  if (const auto plane = selectedPlane(desk)) fields["cutters"] = std::vector{CutterPick::of(*plane)};
  desk.trial.begin(newStep(desk, "score", std::move(fields)));
}

void startGroup(Desk& desk) {
  desk.trial.begin(newStep(desk, "group", {{"bodies", BodyPick{false, desk.selection.bodies()}}}));
}

void startRepair(Desk& desk) {
  std::vector<BodyId> bodies = desk.selection.bodies();
  if (bodies.empty())
    for (const Body& body : desk.session.made()->model->bodies)
      if (body.shape.hasFlawedFaces()) bodies.push_back(body.id);
  desk.trial.begin(newStep(desk, "repair", {{"bodies", BodyPick{false, bodies}}}));
}

void toggleGroup(Desk& desk, const StepId& id) {
  const auto step = desk.session.document().find(id);
  if (!step) return;
  const bool open = !step->on();
  desk.session.edit(
      open ? QObject::tr("Close the group") : QObject::tr("Open the group"), [&](const Document& document) {
        if (!open) return document.withReplaced(step->switched(false));
        const Document closed = document.withReplaced(step->switched(true));
        // Members may have been changed by steps that now stand behind it.
        return stepsThatRead(document, id).empty() ? withStepMoved(closed, id, closed.made.steps.size()) : closed;
      });
}

void toggleHoleMaker(Desk& desk) {
  const auto bodies = desk.selection.bodies();
  if (bodies.empty()) return;
  const Body* first = desk.session.made()->model->find(bodies.front());
  const bool makes = !(first && first->holeMaker);
  desk.session.edit(makes ? QObject::tr("Hole-maker") : QObject::tr("Make it solid again"),
                    [&](const Document& document) {
                      Document result = document;
                      for (const BodyId& body : bodies) {
                        BodyTreatment treatment = result.treatmentOf(body);
                        treatment.holeMaker = makes;
                        result = result.withBody(body, treatment);
                      }
                      return result;
                    });
}

void startRound(Desk& desk) {
  std::vector<EdgeReference> edges;
  const auto add = [&](const Pick& pick) {
    const auto reference = edgeReference(pick, desk.shownPictures);
    if (reference && std::find(edges.begin(), edges.end(), *reference) == edges.end()) edges.push_back(*reference);
  };
  for (const Pick& pick : desk.selection.picks()) {
    add(pick);
    const auto picture = desk.shownPictures.find(pick.body);
    if (pick.kind != Pick::Kind::Face || picture == desk.shownPictures.end()) continue;
    for (const std::uint32_t edge : picture->second->mesh.faceEdges[static_cast<std::size_t>(pick.index)])
      add({Pick::Kind::Edge, pick.body, static_cast<int>(edge)});
  }
  desk.trial.begin(newStep(desk, "round", {{"edges", edges}}));
}

}  // namespace kervo::app
