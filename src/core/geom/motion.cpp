#include "geom/motion.h"

#include <BRepBuilderAPI_Transform.hxx>
#include <cmath>

#include "base/quantity.h"
#include "base/say.h"
#include "geom/kernel/transform.h"

namespace kervo {

namespace {

std::array<Vector, 3> columnsOf(const std::array<Vector, 3>& m) {
  return {Vector{m[0].x, m[1].x, m[2].x}, Vector{m[0].y, m[1].y, m[2].y}, Vector{m[0].z, m[1].z, m[2].z}};
}

}  // namespace

Motion Motion::by(Vector way) {
  Motion motion;
  motion.moving_ = way;
  return motion;
}

Motion Motion::turn(Point on, Vector axis, double angleRadians) {
  // Rodrigues' rotation formula.
  const Vector k = normalized(axis);
  const double c = std::cos(angleRadians), s = std::sin(angleRadians), o = 1 - c;
  Motion motion;
  motion.rows_ = {Vector{c + k.x * k.x * o, k.x * k.y * o - k.z * s, k.x * k.z * o + k.y * s},
                  Vector{k.y * k.x * o + k.z * s, c + k.y * k.y * o, k.y * k.z * o - k.x * s},
                  Vector{k.z * k.x * o - k.y * s, k.z * k.y * o + k.x * s, c + k.z * k.z * o}};
  motion.moving_ = on - motion.turned(on);
  return motion;
}

Motion Motion::mirror(const Plane& plane) {
  // Householder: I − 2 n nᵀ.
  const Vector n = plane.normal;
  Motion motion;
  motion.rows_ = {Vector{1 - 2 * n.x * n.x, -2 * n.x * n.y, -2 * n.x * n.z},
                  Vector{-2 * n.y * n.x, 1 - 2 * n.y * n.y, -2 * n.y * n.z},
                  Vector{-2 * n.z * n.x, -2 * n.z * n.y, 1 - 2 * n.z * n.z}};
  motion.moving_ = n * (2 * dot(plane.origin, n));
  return motion;
}

Motion Motion::scale(Point from, double factor) {
  if (!(factor > 0) || !std::isfinite(factor))
    throw Error(say("the scale is %1", formatNumber(factor)), "", say("Type a factor greater than zero"));
  Motion motion;
  motion.rows_ = {Vector{factor, 0, 0}, Vector{0, factor, 0}, Vector{0, 0, factor}};
  motion.moving_ = from * (1 - factor);
  return motion;
}

Motion Motion::onto(const Plane& from, const Plane& to) {
  // M = to·fromᵀ, both with their axes as columns.
  Motion motion;
  const std::array<Vector, 3> a = columnsOf({from.x, from.y, from.normal}), b = columnsOf({to.x, to.y, to.normal});
  for (std::size_t i = 0; i < 3; ++i) motion.rows_[i] = {dot(b[i], a[0]), dot(b[i], a[1]), dot(b[i], a[2])};
  motion.moving_ = to.origin - motion.turned(from.origin);
  return motion;
}

Vector Motion::turned(Vector v) const {
  return {dot(rows_[0], v), dot(rows_[1], v), dot(rows_[2], v)};
}

Point Motion::operator()(Point p) const {
  return turned(p) + moving_;
}

Motion Motion::then(const Motion& next) const {
  Motion motion;
  const std::array<Vector, 3> columns = columnsOf(rows_);
  for (std::size_t i = 0; i < 3; ++i)
    motion.rows_[i] = {dot(next.rows_[i], columns[0]), dot(next.rows_[i], columns[1]), dot(next.rows_[i], columns[2])};
  motion.moving_ = next(moving_);
  return motion;
}

double Motion::factor() const {
  return std::cbrt(dot(rows_[0], cross(rows_[1], rows_[2])));
}

bool Motion::identity() const {
  return rows_ == Motion().rows_ && moving_ == Vector{};
}

namespace {

Mesh movedMesh(const Mesh& mesh, const Motion& motion) {
  std::vector<Point> points = mesh.points();
  for (Point& point : points) point = motion(point);
  std::vector<Mesh::Triangle> triangles = mesh.triangles();
  if (motion.factor() < 0)
    for (Mesh::Triangle& triangle : triangles) std::swap(triangle[1], triangle[2]);
  Mesh::Extra extra = mesh.extra();
  extra.tolerance *= std::abs(motion.factor());
  return {std::move(points), std::move(triangles), std::move(extra)};
}

}  // namespace

Shape moved(const Shape& shape, const Motion& motion, const std::string& prefix) {
  if (shape.empty() || (motion.identity() && prefix.empty())) return shape;
  return kernelCall("moving a body", [&] {
    const Vector t = motion.moving();
    for (const double size : {t.x, t.y, t.z, shape.roughBox().diagonal() * std::abs(motion.factor())})
      if (!std::isfinite(size) || std::abs(size) > tolerance::largestSize)
        throw Error(say("the body would lie or reach beyond %1 mm", formatNumber(tolerance::largestSize)));
    const double before = shape.roughBox().diagonal(), after = before * std::abs(motion.factor());
    if (after < tolerance::smallestBody && after < before)
      throw Error(say("the body would be only %1 mm across", formatNumber(after)), "",
                  say("The smallest body is %1 mm", formatNumber(tolerance::smallestBody)));
    if (const Mesh* mesh = shape.mesh()) return Shape(movedMesh(*mesh, motion));
    const gp_Trsf move = toTrsf(motion);
    // A copy, not a location: the kernel's booleans are quicker and safer on shapes without locations.
    BRepBuilderAPI_Transform transform(shape.body().topology, move, true);
    FaceTable table;
    for (const auto& [face, facts] : shape.body().faces) {
      FaceFacts carried{facts.origins, facts.color, facts.sound};
      carried.flawed = facts.flawed;
      if (!prefix.empty()) {
        auto names = std::make_shared<std::vector<std::string>>(*facts.origins);
        for (std::string& name : *names) name = prefix + ":" + name;
        carried.origins = std::move(names);
      }
      table.emplace(transform.ModifiedShape(face), std::move(carried));
    }
    return makeShape(transform.Shape(), std::move(table), "face:");
  });
}

}  // namespace kervo
