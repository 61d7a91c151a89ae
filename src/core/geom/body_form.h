// The form of a body: an exact shape, or a mesh. Operations that need an exact shape refuse meshes here, and only here.
#pragma once

#include <string>
#include <variant>

#include "geom/mesh.h"
#include "geom/shape.h"

namespace kervo {

class BodyForm {
 public:
  BodyForm() = default;
  /// A shape that holds a mesh becomes that mesh.
  BodyForm(Shape shape) : form_(std::move(shape)) {
    if (const Mesh* mesh = std::get<Shape>(form_).mesh()) form_ = Mesh(*mesh);
  }
  BodyForm(Mesh mesh) : form_(std::move(mesh)) {}

  /// An instance of a part as a shape of its own, which is made when it is asked for.
  const Shape* shape() const;
  /// The shape as it is kept: an instance as an instance.
  const Shape* kept() const { return std::get_if<Shape>(&form_); }
  const Mesh* mesh() const { return std::get_if<Mesh>(&form_); }
  /// The exact shape of the body of that id. @throws Error "not for meshes yet" if it has none.
  const Shape& exact(const std::string& id) const;
  /// The shape, or one that holds the mesh.
  Shape anyShape() const { return mesh() ? Shape(*mesh()) : *shape(); }

  bool empty() const;
  BodyKind kind() const;
  // As those of the shape or mesh.
  double volume() const;
  double volumeError() const;  ///< 0 for a mesh, whose triangles are all there is
  double area() const;
  Box box() const;
  Box roughBox() const;
  bool watertight() const;
  bool hasFlawedFaces() const;  ///< of a mesh: it is not closed, or inside out

  /// The same for copies of one form, different for others; null for none.
  const void* identity() const;

 private:
  std::variant<Shape, Mesh> form_;
};

}  // namespace kervo
