#include "geom/instance.h"

#include <TopLoc_Location.hxx>
#include <cmath>
#include <gp_Ax3.hxx>

#include "base/error.h"
#include "base/say.h"
#include "geom/kernel/call.h"
#include "geom/kernel/convert.h"
#include "geom/kernel/shape_body.h"
#include "geom/tolerances.h"

namespace kervo {

namespace {

TopLoc_Location locationOf(const Plane& place) {
  gp_Trsf transform;
  transform.SetDisplacement(gp_Ax3(), toAxes(place));
  return {transform};
}

Box moved(const Box& box, const Motion& motion) {
  Box result;
  if (box.empty()) return result;
  for (const double x : {box.low.x, box.high.x})
    for (const double y : {box.low.y, box.high.y})
      for (const double z : {box.low.z, box.high.z}) result.add(motion(Point{x, y, z}));
  return result;
}

/// What is known of a face, under a motion that neither mirrors nor scales.
FaceFacts moved(FaceFacts facts, const Motion& motion) {
  facts.integrals.vectorArea = motion.turned(facts.integrals.vectorArea);
  facts.integrals.reference = motion(facts.integrals.reference);
  facts.box = moved(facts.box, motion);
  return facts;
}

Shape under(const Shape& shape, const TopLoc_Location& location, const Motion& motion) {
  return kernelCall("placing a part", [&] {
    const TopoDS_Shape topology = shape.body().topology.Located(location);
    const std::vector<TopoDS_Face> before = facesOf(shape.body().topology), after = facesOf(topology);
    FaceTable faces;
    faces.reserve(before.size());
    for (std::size_t i = 0; i < before.size(); ++i)
      faces.emplace(after[i], moved(shape.body().faces.at(before[i]), motion));
    return makeShape(topology, std::move(faces), "face:");
  });
}

}  // namespace

Shape placed(const Shape& part, const Plane& place) {
  if (part.empty()) return part;
  if (part.mesh()) throw Error(say("a mesh cannot be an instance"));
  const Shape standing = plain(part);
  return under(standing, locationOf(place), Motion::onto(Plane{}, place));
}

std::optional<Plane> placeOf(const TopoDS_Shape& topology) {
  if (topology.Location().IsIdentity()) return std::nullopt;
  const gp_Trsf transform = topology.Location().Transformation();
  if (transform.IsNegative() || std::abs(transform.ScaleFactor() - 1) > tolerance::relative) return std::nullopt;
  const gp_Mat turn = transform.VectorialPart();
  const Vector x = normalized(fromVec(gp_Vec(turn.Column(1)))), y = normalized(fromVec(gp_Vec(turn.Column(2))));
  return Plane{fromPnt(gp_Pnt(transform.TranslationPart())), x, y, cross(x, y)};
}

std::optional<Plane> placeOf(const Shape& shape) {
  return shape.empty() || shape.mesh() ? std::nullopt : placeOf(shape.body().topology);
}

Shape partOf(const Shape& instance) {
  const std::optional<Plane> place = placeOf(instance);
  return place ? under(instance, TopLoc_Location(), Motion::onto(*place, Plane{})) : instance;
}

const void* identityOfPart(const Shape& shape) {
  return shape.empty() || shape.mesh() ? nullptr : shape.body().topology.TShape().get();
}

Motion fromOneToOther(const Shape& one, const Shape& other) {
  return Motion::onto(placeOf(one).value_or(Plane{}), placeOf(other).value_or(Plane{}));
}

const Shape* plain(const Shape* shape) {
  const std::optional<Plane> place = placeOf(*shape);
  if (!place) return shape;
  const ShapeBody& body = shape->body();
  std::call_once(body.plainOnce, [&] { body.plain = kervo::moved(partOf(*shape), Motion::onto(Plane{}, *place)); });
  return &body.plain;
}

}  // namespace kervo
