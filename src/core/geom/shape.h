// Shape: an exact solid or surface as an immutable value, whose faces carry the names of their origins.
//
// Where steps take meshes as well, a shape may hold a mesh instead (BodyKind::Mesh): it has no faces and edges then.
// What needs them is never given one: StepInputs::shape() refuses meshes but for kinds that take them.
//
// Inside, every face carries what is known about it: origins, colour, area, volume flux, box, and whether it was found
// sound. Faces that an operation does not touch keep all of that, so measuring and checking a result costs as much as
// what changed.
#pragma once

#include <memory>
#include <optional>
#include <string>
#include <variant>
#include <vector>

#include "base/ids.h"
#include "geom/color.h"
#include "geom/mesh.h"
#include "geom/space.h"

namespace kervo {

struct ShapeBody;

/// What a body is made of. An open shell is a surface, never a solid.
enum class BodyKind { Solid, Surface, Curve, Mesh };
const char* nameOf(BodyKind kind);

/// A face's own colour, or the body that it is coloured like.
using FaceColor = std::variant<Color, BodyId>;

/// A solid, surface or curve. Cheap to copy: copies share the same immutable content. Safe to read from any thread.
class Shape {
 public:
  Shape() = default;
  explicit Shape(std::shared_ptr<const ShapeBody> body) : body_(std::move(body)) {}
  /// The empty shape for an empty mesh.
  explicit Shape(Mesh mesh);

  /// True for the shape that holds nothing, e.g. the intersection of bodies that do not meet.
  bool empty() const { return !body_; }
  BodyKind kind() const;
  /// The mesh that it holds instead of faces, or null.
  const Mesh* mesh() const;
  /// A solid, or a mesh that closes: it has an inside.
  bool hasInside() const { return kind() == BodyKind::Solid || (mesh() && mesh()->watertight()); }

  /// Volume in mm³; 0 for a surface. Exact for planar faces, to 1e-9 relative otherwise.
  double volume() const;
  /// How far off the volume may be at most, in mm³, because edges and corners lie beside the surfaces they bound: the
  /// distance times the area, summed over the faces. 1e-9 of the volume and less for exact bodies; 0 for a surface.
  double volumeError() const;
  /// Area of all faces in mm².
  double area() const;
  /// The smallest axis-parallel box around it, in mm.
  Box box() const;
  /// A box around it that may be larger than the smallest one, but is known without computing.
  Box roughBox() const;
  int faceCount() const;
  int edgeCount() const;
  int solidCount() const;
  /// True if every edge joins exactly two faces (or triangles), in opposite directions.
  bool watertight() const;
  /// Checks every face and the way they join; false for a body the kernel cannot be trusted with. True for a mesh,
  /// whose crossings are looked for where it is cut.
  bool valid() const;

  /// True if one of its faces was found not valid before (examined()); checks nothing itself.
  bool hasFlawedFaces() const;

  /// Its separate solids (or connected surfaces), each a shape with its names.
  std::vector<Shape> pieces() const;

  const ShapeBody& body() const { return *body_; }

 private:
  std::shared_ptr<const ShapeBody> body_;
};

/// True if no two of the shapes have an edge in common, so that operations on them may run side by side.
bool shareNothing(const std::vector<Shape>& shapes);

}  // namespace kervo
