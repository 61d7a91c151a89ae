#include "geom/surface/reseated_faces.h"

#include <BRepBuilderAPI_NurbsConvert.hxx>

#include "geom/kernel/shape_body.h"
#include "geom/measure/face_integrals.h"
#include "geom/surface/face_workshop.h"
#include "geom/surface/turned_seams.h"

namespace kervo {

namespace {

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
std::vector<char> turnFaces(FaceWorkshop& workshop) {
  std::vector<char> left(workshop.faces().size(), 0);
  for (std::size_t i = 0; i < left.size(); ++i) {
    FaceWorkshop::Place& place = workshop.faces()[i];
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
  FaceWorkshop workshop(shape);
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
  FaceWorkshop workshop(shape);
  std::vector<char> meet;
  for (const FaceWorkshop::Place& place : workshop.faces()) meet.push_back(bordersMeetSeam(place.face));
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
  FaceWorkshop workshop(shape);
  std::vector<int> torn;
  for (FaceWorkshop::Place& place : workshop.faces()) {
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
