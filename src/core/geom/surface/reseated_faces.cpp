#include "geom/surface/reseated_faces.h"

#include <BRepBuilderAPI_Copy.hxx>
#include <BRepBuilderAPI_NurbsConvert.hxx>
#include <ShapeBuild_ReShape.hxx>
#include <ShapeUpgrade_FaceDivide.hxx>
#include <ShapeUpgrade_SplitSurfaceAngle.hxx>
#include <numbers>

#include "geom/kernel/shape_body.h"
#include "geom/measure/face_integrals.h"
#include "geom/surface/turned_seams.h"

namespace kervo {

namespace {

/// A shape's topology copied, with what is known of its faces, so that faces can be replaced in it.
class Workshop {
 public:
  explicit Workshop(const Shape& shape) {
    BRepBuilderAPI_Copy copy(shape.body().topology, false, false);
    topology_ = copy.Shape();
    int number = 0;
    for (const TopoDS_Face& face : facesOf(shape.body().topology)) {
      const FaceFacts& facts = factsOf(shape, face);
      faces_.push_back({TopoDS::Face(copy.ModifiedShape(face)), {facts.origins, facts.color}, ++number});
    }
  }

  struct Place {
    TopoDS_Face face;
    FaceFacts facts;
    int number;
  };
  std::vector<Place>& faces() { return faces_; }

  /// One face in place of another, if `check` of the new one's integrals passes.
  void replace(Place& place, const TopoDS_Face& by) {
    reshape_->Replace(place.face, by);
    replaced_.push_back(place.number);
    place.face = by;
  }

  /// Divides faces every 90°; those that cannot be stay whole.
  void divide(const std::vector<char>& which) {
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

  Reseated result(const Shape& original) {
    if (replaced_.empty()) return {original, {}};
    FaceTable table;
    const TopoDS_Shape topology = reshape_->Apply(topology_);
    for (const Place& place : faces_) table.emplace(place.face, place.facts);
    std::sort(replaced_.begin(), replaced_.end());
    replaced_.erase(std::unique(replaced_.begin(), replaced_.end()), replaced_.end());
    return {makeShape(topology, std::move(table), "face"), replaced_};
  }

 private:
  std::vector<TopoDS_Face> partsOf(const TopoDS_Face& face) {
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

  TopoDS_Shape topology_;
  std::vector<Place> faces_;
  Handle(ShapeBuild_ReShape) reshape_ = new ShapeBuild_ReShape;
  std::vector<int> replaced_;
};

bool sameIntegrals(const FaceIntegrals& a, const FaceIntegrals& b) {
  const double slack = 1e-8 + 2 * (a.looseness + b.looseness);
  const double size = std::sqrt(a.area) + length(a.reference - b.reference);
  return std::abs(a.area - b.area) <= 1e-7 * a.area + slack * size &&
         std::abs(a.fluxFrom(b.reference) - b.flux) <= (1e-7 * a.area + slack * size) * size;
}

bool isSphere(const TopoDS_Face& face) {
  return BRepAdaptor_Surface(face, false).GetType() == GeomAbs_Sphere;
}

/// Turns what can be turned; gives the faces that stay as they were although they meet their seam.
std::vector<char> turnFaces(Workshop& workshop) {
  std::vector<char> left(workshop.faces().size(), 0);
  for (std::size_t i = 0; i < left.size(); ++i) {
    Workshop::Place& place = workshop.faces()[i];
    if (!bordersMeetSeam(place.face)) continue;
    left[i] = 1;
    const auto turned = turnedClear(place.face, SeamPlace::Beside);
    if (!turned || !sameIntegrals(integrate(place.face), integrate(*turned))) continue;
    workshop.replace(place, *turned);
    left[i] = 0;
  }
  return left;
}

}  // namespace

Reseated withSeamsClear(const Shape& shape, TooLarge tooLarge) {
  const auto faces = facesOf(shape.body().topology);
  if (std::none_of(faces.begin(), faces.end(), bordersMeetSeam)) return {shape, {}};
  Workshop workshop(shape);
  std::vector<char> left = turnFaces(workshop);
  if (tooLarge == TooLarge::DivideSpheres)
    for (std::size_t i = 0; i < left.size(); ++i) left[i] = left[i] && isSphere(workshop.faces()[i].face);
  if (std::find(left.begin(), left.end(), 1) != left.end()) {
    workshop.divide(left);
    turnFaces(workshop);
  }
  return workshop.result(shape);
}

Reseated dividedClear(const Shape& shape) {
  Workshop workshop(shape);
  std::vector<char> meet;
  for (const Workshop::Place& place : workshop.faces()) meet.push_back(bordersMeetSeam(place.face));
  workshop.divide(meet);
  turnFaces(workshop);
  return workshop.result(shape);
}

Reseated asSplines(const Shape& shape) {
  const Reseated divided = dividedClear(shape);
  BRepBuilderAPI_NurbsConvert convert(divided.shape.body().topology, true);
  FaceTable table;
  std::vector<int> numbers;
  int number = 0;
  for (const TopoDS_Face& face : facesOf(divided.shape.body().topology)) {
    const FaceFacts& facts = factsOf(divided.shape, face);
    table.emplace(convert.ModifiedShape(face), FaceFacts{facts.origins, facts.color});
    numbers.push_back(++number);
  }
  return {makeShape(convert.Shape(), std::move(table), "face"), numbers};
}

Mended withTornFacesMended(const Shape& shape, const std::vector<int>& onWrongSide) {
  const auto faces = facesOf(shape.body().topology);
  if (onWrongSide.empty() && std::none_of(faces.begin(), faces.end(), borderIsTorn)) return {shape, {}, {}};
  Workshop workshop(shape);
  std::vector<int> torn;
  for (Workshop::Place& place : workshop.faces()) {
    const bool wrong = std::find(onWrongSide.begin(), onWrongSide.end(), place.number) != onWrongSide.end();
    const Patch patch = wrong ? Patch::Complement : Patch::Same;
    if (patch == Patch::Same && !borderIsTorn(place.face)) continue;
    std::optional<TopoDS_Face> turned = turnedClear(place.face, SeamPlace::Beside, patch);
    if (!turned) turned = turnedClear(place.face, SeamPlace::Across, patch);
    if (!turned || borderIsTorn(*turned)) {
      torn.push_back(place.number);
      continue;
    }
    // The complement has the other side out, so that its edges still run as they did.
    if (wrong) turned->Reverse();
    workshop.replace(place, *turned);
  }
  const Reseated result = workshop.result(shape);
  if (result.shape.volume() >= 0) return {result.shape, result.faces, torn};
  return {makeShape(result.shape.body().topology.Reversed(), result.shape.body().faces, "face"), result.faces, torn};
}

}  // namespace kervo
