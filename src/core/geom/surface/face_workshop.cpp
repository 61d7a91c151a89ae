#include "geom/surface/face_workshop.h"

#include <BRepBuilderAPI_Copy.hxx>
#include <ShapeUpgrade_FaceDivide.hxx>
#include <ShapeUpgrade_SplitSurfaceAngle.hxx>
#include <algorithm>
#include <numbers>

namespace kervo {

FaceWorkshop::FaceWorkshop(const Shape& shape) {
  BRepBuilderAPI_Copy copy(shape.body().topology, false, false);
  topology_ = copy.Shape();
  int number = 0;
  for (const TopoDS_Face& face : facesOf(shape.body().topology)) {
    const FaceFacts& facts = factsOf(shape, face);
    faces_.push_back({TopoDS::Face(copy.ModifiedShape(face)), {facts.origins, facts.color}, ++number});
  }
}

void FaceWorkshop::replace(Place& place, const TopoDS_Face& by) {
  reshape_->Replace(place.face, by);
  replaced_.push_back(place.number);
  place.face = by;
}

void FaceWorkshop::divide(const std::vector<char>& which) {
  std::vector<Place> result;
  for (std::size_t i = 0; i < faces_.size(); ++i) {
    const Place& place = faces_[i];
    const std::vector<TopoDS_Face> parts = which[i] ? partsOf(place.face) : std::vector<TopoDS_Face>{};
    if (parts.size() < 2) {
      result.push_back(place);
      continue;
    }
    replaced_.push_back(place.number);
    for (const TopoDS_Face& part : parts) result.push_back({part, place.facts, place.number});
  }
  topology_ = reshape_->Apply(topology_);
  // Edges were divided in the neighbours as well.
  for (Place& place : result) place.face = TopoDS::Face(reshape_->Apply(place.face));
  faces_ = std::move(result);
  reshape_ = new ShapeBuild_ReShape;
}

Reseated FaceWorkshop::result(const Shape& original) {
  if (replaced_.empty()) return {original, {}};
  FaceTable table;
  const TopoDS_Shape topology = reshape_->Apply(topology_);
  for (const Place& place : faces_) table.emplace(place.face, place.facts);
  std::sort(replaced_.begin(), replaced_.end());
  replaced_.erase(std::unique(replaced_.begin(), replaced_.end()), replaced_.end());
  return {makeShape(topology, std::move(table), "face"), replaced_};
}

std::vector<TopoDS_Face> FaceWorkshop::partsOf(const TopoDS_Face& face) {
  Handle(ShapeUpgrade_SplitSurfaceAngle) angle = new ShapeUpgrade_SplitSurfaceAngle(std::numbers::pi / 2);
  ShapeUpgrade_FaceDivide divide;
  divide.SetContext(reshape_);
  divide.SetSplitSurfaceTool(angle);
  divide.Init(face);
  if (!divide.Perform() || divide.Result().IsNull()) return {};
  reshape_->Replace(face, divide.Result());
  std::vector<TopoDS_Face> parts;
  for (TopExp_Explorer it(divide.Result(), TopAbs_FACE); it.More(); it.Next())
    parts.push_back(TopoDS::Face(it.Current()));
  return parts;
}

}  // namespace kervo
