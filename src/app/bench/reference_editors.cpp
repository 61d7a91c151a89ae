#include "app/bench/reference_editors.h"

#include "app/selected.h"

namespace kervo::app {

namespace {

/// References to the first of a body's parts.
template <class Reference, class Part>
std::vector<Reference> firstOf(const BodyId& body, const std::vector<Part>& parts, std::size_t most) {
  std::vector<Reference> references;
  for (std::size_t i = 0; i < parts.size() && i < most; ++i) references.push_back(kervo::referenceTo(body, parts[i]));
  return references;
}

}  // namespace

std::optional<FaceReference> FacesEditor::referenceTo(const Pick& pick) const {
  return faceReference(pick, desk_.shownPictures);
}

QString FacesEditor::nameOf(const FaceReference& face) const {
  return faceName(desk_, face);
}

std::vector<FaceReference> FacesEditor::partsOf(const BodyId& body, const BodyPicture& picture,
                                                std::size_t most) const {
  return firstOf<FaceReference>(body, picture.faces, most);
}

std::optional<EdgeReference> EdgesEditor::referenceTo(const Pick& pick) const {
  return edgeReference(pick, desk_.shownPictures);
}

QString EdgesEditor::nameOf(const EdgeReference& edge) const {
  return edgeName(desk_, edge);
}

std::vector<EdgeReference> EdgesEditor::partsOf(const BodyId& body, const BodyPicture& picture,
                                                std::size_t most) const {
  return firstOf<EdgeReference>(body, picture.edges, most);
}

std::optional<PointReference> PointsEditor::referenceTo(const Pick& pick) const {
  return pickedPoint(pick, desk_);
}

QString PointsEditor::nameOf(const PointReference& point) const {
  if (point.isDatum()) return bodyName(desk_, point.body);
  const QString at = point.sample ? placeText(*point.sample, desk_.session.document().made.unit) : tr("corner");
  return tr("%1 of %2").arg(at, bodyName(desk_, point.body));
}

std::vector<PointReference> PointsEditor::partsOf(const BodyId& body, const BodyPicture& picture,
                                                  std::size_t most) const {
  return firstOf<PointReference>(body, picture.corners, most);
}

}  // namespace kervo::app
