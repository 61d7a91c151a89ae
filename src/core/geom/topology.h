// Faces and edges of a shape as values, with their names: what references resolve to.
#pragma once

#include <functional>
#include <map>
#include <memory>
#include <optional>
#include <string>
#include <utility>
#include <vector>

#include "geom/shape.h"

namespace kervo {

struct FaceBody;
struct EdgeBody;

/// One face of a shape.
class Face {
 public:
  explicit Face(std::shared_ptr<const FaceBody> body) : body_(std::move(body)) {}

  /// The names of its origins, sorted; never empty.
  const std::vector<std::string>& origins() const;
  double area() const;  ///< mm²
  /// A point strictly inside the face, and the outward unit normal there.
  Point samplePoint() const;
  Vector normal() const;
  /// The centre of area of a planar face; of others the centre of the box around them.
  Point middle() const;
  /// The box around it in a plane's coordinates (z along the normal), as exact as its edges are.
  Box boxIn(const Plane& plane) const;
  /// Its plane with the outward normal, if it is planar. The plane's origin is the foot of the world's origin, so it
  /// does not move when the face's outline changes.
  std::optional<Plane> plane() const;
  /// The axis of a cylinder, cone, torus or turned surface.
  std::optional<Axis> axis() const;
  /// "plane", "cylinder", …
  std::string surfaceName() const;
  /// On none of the surfaces that have a size of their own: a plane, cylinder, cone, sphere or torus.
  bool freeForm() const;
  /// It was checked and found not valid; a cut that meets it is refused.
  bool flawed() const;
  /// Distance of a point from the face, in mm.
  double distanceTo(Point point) const;
  /// True if both lie on one surface (planes, cylinders, cones, spheres and tori are compared; others only match
  /// themselves).
  bool onSameSurface(const Face& other) const;

  const FaceBody& body() const { return *body_; }

 private:
  std::shared_ptr<const FaceBody> body_;
};

/// One edge of a shape, between two faces (or one face and itself or nothing).
class Edge {
 public:
  explicit Edge(std::shared_ptr<const EdgeBody> body) : body_(std::move(body)) {}

  /// The origins of the faces on its two sides; the second is empty for a free edge.
  const std::vector<std::string>& firstOrigins() const;
  const std::vector<std::string>& secondOrigins() const;
  Point middle() const;
  /// The line of a straight edge, the axis of a circular one.
  std::optional<Axis> axis() const;
  double length() const;  ///< mm
  double distanceTo(Point point) const;
  /// True if both are parts of one line or circle.
  bool onSameCurve(const Edge& other) const;

  const EdgeBody& body() const { return *body_; }

 private:
  std::shared_ptr<const EdgeBody> body_;
};

/// A corner of a shape.
struct Corner {
  Point point;
  std::vector<std::string> origins;  ///< of all faces that meet there, sorted
};

/// Whether both are the face of one body.
bool isSameFace(const Face& a, const Face& b);

bool isSameEdge(const Edge& a, const Edge& b);

std::vector<Face> facesOf(const Shape& shape);
/// Those of edgesOf() around a face of the shape; none if it is not one.
std::vector<Edge> edgesAround(const Shape& shape, const Face& face);
/// Without degenerate edges and seams.
std::vector<Edge> edgesOf(const Shape& shape);
/// Where edges meet; without the ends of seams of closed faces that lie on one face only.
std::vector<Corner> cornersOf(const Shape& shape);

/// The shape with its faces named `newPrefix`1, `newPrefix`2, … in their stored order.
Shape renamed(const Shape& shape, const std::string& newPrefix);
/// … or with these numbers, one for each face. Throws Error unless there are as many, or none: then 1, 2, ….
Shape renamed(const Shape& shape, const std::string& newPrefix, const std::vector<int>& numbers);

/// Colours of single faces, by the face's number in that order, from 1. Faces without one have their body's, and are
/// not among them if they are coloured like another body.
std::map<int, Color> faceColors(const Shape& shape);
/// Throws Error for a number that is no face's.
Shape withFaceColors(const Shape& shape, const std::map<int, Color>& colors);

/// The shape with those of its faces coloured like a body that have no colour of their own.
Shape withFacesColoredLike(const Shape& shape, const BodyId& body);
/// The shape with colours in place of bodies: those that the bodies have now. A face coloured like a body for which
/// `colorOf` gives none has none.
Shape withShownColors(const Shape& shape, const std::function<std::optional<Color>(const BodyId&)>& colorOf);

}  // namespace kervo
