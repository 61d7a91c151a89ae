#include "app/selected.h"

#include <algorithm>

#include "model/document_edits.h"
#include "model/names_for_people.h"

namespace kervo::app {

namespace {

Picked pickedGuide(const Guide& guide) {
  Picked result;
  result.body = guide.id;
  result.name = guide.name;
  result.what = guide.datum() ? Picked::What::Datum : Picked::What::Drawing;
  if (!guide.datum()) return result;
  if (const auto* plane = std::get_if<Plane>(guide.datum())) result.plane = *plane;
  if (std::holds_alternative<Point>(*guide.datum())) result.points = {PointReference::ofDatum(guide.id)};
  return result;
}

}  // namespace

Picked picked(const Pick& pick, const Desk& desk) {
  if (pick.kind == Pick::Kind::Guide)
    if (const Guide* guide = desk.shownModel ? desk.shownModel->guide(pick.body) : nullptr) return pickedGuide(*guide);
  Picked result;
  if (const auto standard = worldPlaneOf(pick.body)) {
    result.what = Picked::What::Datum;
    result.standard = *standard;
    return result;
  }
  result.body = pick.body;
  const auto found = desk.shownPictures.find(pick.body);
  if (found == desk.shownPictures.end()) return result;
  const BodyPicture& picture = *found->second;
  result.bodyKind = picture.form.kind();
  if (const auto face = faceReference(pick, desk.shownPictures)) {
    const auto index = static_cast<std::size_t>(pick.index);
    result.what = Picked::What::Face;
    result.face = *face;
    result.plane = picture.faces[index].plane();
    result.freeForm = picture.faces[index].freeForm();
    result.opening = desk.openings.known(found->second, pick.index);
    result.place = pick.place.value_or(picture.faces[index].samplePoint());
    if (result.plane) result.middle = middleOf(*face, desk.shownPictures, *result.plane).value_or(PlanePoint());
    if (desk.shownModel) result.name = faceName(*face, *desk.shownModel);
    for (const std::uint32_t edge : picture.mesh.faceEdges[index])
      if (const auto reference =
              edgeReference({Pick::Kind::Edge, pick.body, static_cast<int>(edge)}, desk.shownPictures))
        result.edges.push_back(*reference);
  } else if (const auto edge = edgeReference(pick, desk.shownPictures)) {
    result.what = Picked::What::Edge;
    result.edges = {*edge};
  } else if (const auto point = pointReference(pick, desk.shownPictures)) {
    result.what = Picked::What::Point;
    result.points = {*point};
  }
  return result;
}

std::optional<PointReference> pickedPoint(const Pick& pick, const Desk& desk) {
  const Picked result = picked(pick, desk);
  return result.points.empty() ? std::nullopt : std::optional(result.points.front());
}

namespace {

/// The selected drawing, or else the newest that no step uses. Empty if there is none.
StepId drawingToGoOnWith(const Desk& desk) {
  const Document& document = desk.session.document();
  const auto draws = [](const Step& step) { return step.kind().makes() == Makes::Drawing; };
  if (const auto step = document.find(desk.selection.step()); step && draws(*step)) return step->id();
  for (const BodyId& guide : desk.selection.guides())
    if (const auto step = document.find(guide.step()); step && draws(*step)) return step->id();
  for (auto step = document.made.steps.rbegin(); step != document.made.steps.rend(); ++step)
    if (draws(**step) && stepsThatRead(document, (*step)->id()).empty()) return (*step)->id();
  return {};
}

}  // namespace

const Selected& SelectedNow::get() {
  if (!isUpToDate()) {
    selected_ = make();
    from_ = {desk_.selection.picks(), desk_.selection.step(), desk_.session.made(), desk_.session.document(),
             desk_.openings.revision()};
  }
  return selected_;
}

bool SelectedNow::isUpToDate() const {
  if (!from_) return false;
  const Document& document = desk_.session.document();
  return from_->picks == desk_.selection.picks() && from_->step == desk_.selection.step() &&
         from_->made == desk_.session.made() && from_->document.made.sameAs(document.made) &&
         from_->document.seen == document.seen && from_->openings == desk_.openings.revision();
}

Selected SelectedNow::make() const {
  const Document& document = desk_.session.document();
  const Made& made = *desk_.session.made();
  Selected selected;
  for (const Pick& pick : desk_.selection.picks()) selected.picks.push_back(picked(pick, desk_));
  if (const auto step = document.find(desk_.selection.step())) {
    selected.step = true;
    for (const Guide& guide : made.model->guides)
      if (guide.id.step() == step->id()) selected.picks.push_back(pickedGuide(guide));
  }
  selected.drawing = drawingToGoOnWith(desk_);
  if (const auto drawing = document.find(selected.drawing)) selected.drawingName = document.nameOf(*drawing);
  selected.emptyDocument = document.made.steps.empty();
  selected.anyBody = !made.model->bodies.empty();
  selected.unit = unitNamed(document.made.unit);
  selected.level = document.seen.levels.working;
  const std::vector<BodyId> bodies = desk_.selection.bodies();
  for (const Body& body : made.model->bodies) {
    if (body.form.hasFlawedFaces()) selected.damaged.push_back(body.id);
    const bool wanted = bodies.empty() ? body.inSight() && !body.shielded
                                       : std::find(bodies.begin(), bodies.end(), body.id) != bodies.end();
    const auto picture = made.pictures.find(body.id);
    if (wanted && picture != made.pictures.end()) selected.box.add(picture->second->mesh.box);
  }
  return selected;
}

}  // namespace kervo::app
