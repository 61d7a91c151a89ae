#include "geom/surface/repair.h"

#include <BRepBuilderAPI_Copy.hxx>
#include <BRepBuilderAPI_Sewing.hxx>
#include <ShapeBuild_ReShape.hxx>
#include <ShapeFix_Face.hxx>
#include <ShapeFix_Wire.hxx>
#include <TopoDS_Iterator.hxx>
#include <functional>

#include "base/say.h"
#include "geom/divide/checked_intersection.h"
#include "geom/tolerances.h"

namespace kervo {

namespace {

constexpr double farthestApart = 1e-2;

/// The shape as `change` makes it, its faces looked up with `imageOf`. What was found of a face stands if it is the
/// same.
Shape changedShape(const Shape& shape, const TopoDS_Shape& topology,
                   const std::function<TopoDS_Shape(const TopoDS_Shape&)>& imageOf) {
  FaceTable faces;
  for (const auto& [face, facts] : shape.body().faces) {
    const TopoDS_Shape image = imageOf(face);
    if (image.IsNull()) continue;
    FaceFacts carried{facts.origins, facts.color};
    if (image.IsSame(face)) carried = facts;
    for (TopExp_Explorer it(image, TopAbs_FACE); it.More(); it.Next()) faces.emplace(it.Current(), carried);
  }
  return makeShape(topology, std::move(faces), "face:");
}

/// Mends change what they are given; the body is to stay as it was.
Shape copied(const Shape& shape) {
  BRepBuilderAPI_Copy copy(shape.body().topology, false);
  return changedShape(shape, copy.Shape(), [&](const TopoDS_Shape& face) { return copy.ModifiedShape(face); });
}

Shape withFacesMended(const Shape& body, Progress& progress) {
  const Shape shape = examined(copied(body), progress);
  Handle(ShapeBuild_ReShape) changes = new ShapeBuild_ReShape;
  for (const auto& [face, facts] : shape.body().faces) {
    if (!facts.flawed) continue;
    progress.throwIfStopped();
    ShapeFix_Face fix(TopoDS::Face(face));
    fix.SetContext(changes);
    fix.SetMaxTolerance(farthestApart);
    fix.FixWireTool()->SetMaxTolerance(farthestApart);
    fix.Perform();
  }
  // Facts are not carried: tolerances may have changed on faces that stayed.
  const TopoDS_Shape result = changes->Apply(shape.body().topology);
  FaceTable faces;
  for (const auto& [face, facts] : shape.body().faces)
    for (TopExp_Explorer it(changes->Apply(face), TopAbs_FACE); it.More(); it.Next())
      faces.emplace(it.Current(), FaceFacts{facts.origins, facts.color});
  return makeShape(result, std::move(faces), "face:");
}

Shape withEdgesJoined(const Shape& body, Progress& progress) {
  const Shape shape = copied(body);
  BRepBuilderAPI_Sewing sewing(farthestApart);
  sewing.Load(shape.body().topology);
  Handle(KernelProgress) indicator = new KernelProgress(progress);
  sewing.Perform(indicator->Start());
  progress.throwIfStopped();
  TopoDS_Shape sewn = sewing.SewedShape();
  if (sewn.IsNull()) return body;
  if (body.kind() == BodyKind::Solid) {
    BRep_Builder builder;
    TopoDS_Solid solid;
    builder.MakeSolid(solid);
    bool any = false;
    for (TopExp_Explorer it(sewn, TopAbs_SHELL); it.More(); it.Next()) {
      builder.Add(solid, it.Current());
      any = true;
    }
    if (!any) return body;
    sewn = solid;
  }
  return changedShape(shape, sewn,
                      [&](const TopoDS_Shape& face) { return sewing.IsModified(face) ? sewing.Modified(face) : face; });
}

int freeEdges(const Shape& shape) {
  return static_cast<int>(openEdges(shape.body().topology).size());
}

/// Fewer flaws, and all else the same.
bool isBetter(const Shape& now, const std::vector<Flaw>& flawsNow, const Shape& before,
              const std::vector<Flaw>& flawsBefore) {
  if (now.empty() || now.kind() != before.kind() || flawsNow.size() >= flawsBefore.size()) return false;
  // Faces that are open along their edges by so much leave a volume open along them; their share of the area bounds it.
  const double slack = before.volumeError() + now.volumeError() + tolerance::balance * std::abs(before.volume()) +
                       (freeEdges(before) > 0 ? farthestApart * before.area() : 0);
  return now.faceCount() == before.faceCount() && std::abs(now.volume() - before.volume()) <= slack &&
         std::abs(now.area() - before.area()) <= tolerance::sameArea * before.area();
}

}  // namespace

Repaired repaired(const Shape& body, Progress& progress) {
  const std::vector<Flaw> flaws = flawsOf(body, progress);
  if (flaws.empty()) throw Error(say("the body has no flaw that could be repaired"), "", say("Leave it out"));
  Repaired result{body, 0, 0, flaws};
  for (const auto& mend : {withFacesMended, withEdgesJoined}) {
    if (result.left.empty()) break;
    try {
      const Shape shape = examined(kernelCall("the repair", [&] { return mend(result.shape, progress); }), progress);
      std::vector<Flaw> left = flawsOf(shape, progress);
      if (!isBetter(shape, left, result.shape, result.left)) continue;
      result.shape = shape;
      result.left = std::move(left);
    } catch (const Error&) {
      // The next way may do it; that nothing did is said below.
      progress.throwIfStopped();
    }
  }
  if (result.left.size() == flaws.size())
    throw Error(say("the body could not be repaired: %1", flaws.front().text()), "",
                say("Cut that place away, or repair the body in the program that made it"));
  const auto flawedFaces = [](const Shape& shape) {
    int count = 0;
    for (const auto& [face, facts] : shape.body().faces) count += facts.flawed;
    return count;
  };
  result.faces = flawedFaces(examined(body, progress)) - flawedFaces(result.shape);
  result.joinedEdges = freeEdges(body) - freeEdges(result.shape);
  return result;
}

}  // namespace kervo
