#include "geom/faces/carried_faces.h"

namespace kervo {

Shape carriedAlong(const TopoDS_Shape& topology, const FaceTable& table, const BRepTools_History& history) {
  FaceTable merging;
  for (const auto& [face, facts] : table) {
    std::vector<TopoDS_Shape> images;
    for (const TopoDS_Shape& image : history.Modified(face)) images.push_back(image);
    if (images.empty() && !history.IsRemoved(face)) images.push_back(face);
    for (const TopoDS_Shape& image : images) {
      const FaceFacts kept = image.IsSame(face) ? facts : FaceFacts{facts.origins, facts.color, false};
      const auto [place, isNew] = merging.emplace(image, kept);
      if (!isNew) place->second.origins = merged(place->second.origins, facts.origins);
    }
  }
  return makeShape(topology, std::move(merging), "face:");
}

}  // namespace kervo
