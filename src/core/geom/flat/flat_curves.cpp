#include "geom/flat/flat_curves.h"

#include <BRepAlgoAPI_Section.hxx>
#include <BRepBndLib.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <algorithm>

#include "base/say.h"
#include "geom/kernel/flatten.h"
#include "geom/kernel/space_loops.h"
#include "geom/kernel/topology_body.h"
#include "geom/planes.h"

namespace kervo {

namespace {

void addOnce(std::vector<NamedCurve>& curves, NamedCurve curve) {
  const auto same = [&](const NamedCurve& each) { return sameFlatCurve(each.curve, curve.curve); };
  if (std::none_of(curves.begin(), curves.end(), same)) curves.push_back(std::move(curve));
}

/// A face of the plane that is larger than the shape.
TopoDS_Face faceAcross(const Shape& shape, const Plane& plane) {
  const Box box = boxIn(plane, shape.roughBox());
  const double room = 1 + box.diagonal() / 10;
  return BRepBuilderAPI_MakeFace(gp_Pln(toAxes(plane)), box.low.x - room, box.high.x + room, box.low.y - room,
                                 box.high.y + room)
      .Face();
}

/// Whether a face of the shape lies in the plane.
bool liesIn(const Face& face, const Plane& plane) {
  const auto own = face.plane();
  return own && length(cross(own->normal, plane.normal)) < tolerance::sameDirection &&
         std::abs(plane.signedDistance(face.samplePoint())) < tolerance::samePlace;
}

}  // namespace

bool sameFlatCurve(const SpaceCurve& a, const SpaceCurve& b) {
  if (a.form().index() != b.form().index() || a.closed() != b.closed()) return false;
  const auto near = [](Point p, Point q) { return distance(p, q) < tolerance::samePlace; };
  const bool ends =
      (near(a.at(0), b.at(0)) && near(a.at(1), b.at(1))) || (near(a.at(0), b.at(1)) && near(a.at(1), b.at(0)));
  if (!a.closed()) return ends && near(a.at(0.5), b.at(0.5));
  if (const auto* circle = std::get_if<CircularArc>(&a.form())) {
    const auto& other = std::get<CircularArc>(b.form());
    return near(circle->axes.origin, other.axes.origin) &&
           std::abs(circle->radius - other.radius) < tolerance::samePlace;
  }
  return ends && near(a.at(0.5), b.at(0.5)) && (near(a.at(0.25), b.at(0.25)) || near(a.at(0.25), b.at(0.75)));
}

std::optional<SpaceCurve> flattened(const Edge& edge, const Plane& plane) {
  return kernelCall("flattening an edge", [&] { return flatCurveOf(edge.body().edge, plane); });
}

std::vector<NamedCurve> flatOutline(const Shape& shape, const Face& face, const Plane& plane) {
  return kernelCall("flattening a face", [&] {
    std::vector<NamedCurve> curves;
    for (const Edge& edge : edgesAround(shape, face)) {
      const auto& beside = edge.firstOrigins() == face.origins() ? edge.secondOrigins() : edge.firstOrigins();
      if (auto flat = flatCurveOf(edge.body().edge, plane))
        addOnce(curves, {beside.empty() ? std::string() : beside.front(), std::move(*flat)});
    }
    return withMetEnds(std::move(curves), looseness(shape.body().topology));
  });
}

std::vector<std::vector<SpaceCurve>> flatLoops(const Face& face, const Plane& plane) {
  return kernelCall("following outlines", [&] {
    const TopoDS_Face forward = TopoDS::Face(face.body().face.Oriented(TopAbs_FORWARD));
    const auto loops = loopsInSpace(forward);
    if (!loops) throw Error(say("the outline of a face cannot be followed"), "", say("Repair the body first"));
    std::vector<std::vector<SpaceCurve>> result;
    std::vector<double> sizes;
    for (const EdgeLoop& loop : *loops) {
      Bnd_Box box;
      std::vector<NamedCurve> named;
      for (const TopoDS_Edge& edge : loop) {
        if (auto curve = flatCurveOf(edge, plane)) named.push_back({{}, std::move(*curve)});
        BRepBndLib::Add(edge, box, false);
      }
      if (named.empty()) continue;
      // Edges end only near their corners.
      std::vector<SpaceCurve> curves;
      for (NamedCurve& each : withMetEnds(std::move(named), looseness(forward)))
        curves.push_back(std::move(each.curve));
      // What others lie in is larger than they are.
      const auto at = std::lower_bound(sizes.begin(), sizes.end(), -box.SquareExtent());
      result.insert(result.begin() + (at - sizes.begin()), std::move(curves));
      sizes.insert(at, -box.SquareExtent());
    }
    return result;
  });
}

std::vector<NamedCurve> flatSection(const Shape& shape, const Plane& plane, Progress& progress) {
  std::vector<NamedCurve> curves;
  if (shape.empty()) return curves;
  for (const Face& face : facesOf(shape))
    if (liesIn(face, plane))
      for (NamedCurve& curve : flatOutline(shape, face, plane)) addOnce(curves, std::move(curve));
  if (!crosses(plane, shape.roughBox())) return curves;
  kernelCall("cutting a body with a plane", [&] {
    Handle(KernelProgress) indicator = new KernelProgress(progress);
    BRepAlgoAPI_Section section(shape.body().topology, faceAcross(shape, plane), false);
    section.SetNonDestructive(true);
    section.Approximation(true);
    section.ComputePCurveOn1(false);
    section.ComputePCurveOn2(false);
    section.Build(indicator->Start());
    progress.throwIfStopped();
    if (section.HasErrors())
      throw Error(say("the section of the body with the plane could not be found"), "",
                  say("Check the body, or move the plane slightly"));
    for (TopExp_Explorer it(section.Shape(), TopAbs_EDGE); it.More(); it.Next()) {
      const TopoDS_Edge& edge = TopoDS::Edge(it.Current());
      TopoDS_Shape face;
      std::string name;
      if (section.HasAncestorFaceOn1(edge, face)) name = factsOf(shape, face).origins->front();
      if (auto flat = flatCurveOf(edge, plane)) addOnce(curves, {std::move(name), std::move(*flat)});
    }
    curves = withMetEnds(std::move(curves), std::max(looseness(shape.body().topology), looseness(section.Shape())));
  });
  return curves;
}

}  // namespace kervo
