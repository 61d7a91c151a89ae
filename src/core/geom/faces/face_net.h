// The faces of a solid as sheets with borders that are walked in order: what openings are found in. For src/core/geom
// only.
#pragma once

#include <TopoDS_Edge.hxx>
#include <TopoDS_Face.hxx>
#include <cstddef>
#include <vector>

#include "geom/kernel/shape_body.h"
#include "geom/topology.h"

namespace kervo {

/// How two sheets meet at an edge, seen from outside: the material's corner sticks out, or lies in.
enum class EdgeBend { Convex, Flat, Concave };

/// A stretch of a sheet's border. Seen from outside, the sheet lies to its left.
struct BorderEdge {
  TopoDS_Edge edge;  ///< as in its face
  int face = 0;      ///< whose edge it is
  int sheet = 0;     ///< that the face belongs to
  int beyond = -1;   ///< the sheet on the other side; −1 for a free edge
  int twin = -1;     ///< the border edge over there
  EdgeBend bend = EdgeBend::Flat;
  bool smooth = false;   ///< the sheets touch
  double turn = 0;       ///< how far it turns to the left, in the sheet, from its start to its end
  double turnAtEnd = 0;  ///< … at the corner with the next one
};

/// A closed border of a sheet: border edges, by number, one after another.
struct SheetBorder {
  int sheet = 0;
  std::vector<int> edges;
  /// The sheet lies all round it, as round a hole. The rims of a tube are not inner borders; the rim of a ball is one
  /// where less than half of the ball is missing.
  bool inner = false;
};

/// A sheet is a face, with those that go on from it on the same surface.
class FaceNet {
 public:
  explicit FaceNet(const Shape& shape);

  const std::vector<Face>& faces() const { return faces_; }
  int sheetOf(int face) const { return sheetOf_[static_cast<std::size_t>(face)]; }
  std::size_t sheetCount() const { return sheets_.size(); }
  /// The numbers of its faces.
  const std::vector<int>& facesOfSheet(int sheet) const { return sheets_[static_cast<std::size_t>(sheet)]; }
  const std::vector<BorderEdge>& edges() const { return edges_; }
  const BorderEdge& edge(int number) const { return edges_[static_cast<std::size_t>(number)]; }
  const std::vector<SheetBorder>& borders() const { return borders_; }
  /// The numbers of a sheet's borders.
  const std::vector<int>& bordersOf(int sheet) const { return bordersOf_[static_cast<std::size_t>(sheet)]; }

  bool onSameSurface(int sheet, int other) const;
  /// The surface of a sheet's first face.
  const Face& faceOf(int sheet) const { return faces_[static_cast<std::size_t>(facesOfSheet(sheet).front())]; }

 private:
  struct Use;
  void findSheets(const std::vector<Use>& uses, const ShapeMap<std::vector<int>>& usesOf);
  void findBorders(const ShapeMap<std::vector<int>>& usesOf, const std::vector<Use>& uses);
  bool runsRoundHole(const SheetBorder& border) const;

  std::vector<Face> faces_;
  std::vector<int> sheetOf_;
  std::vector<std::vector<int>> sheets_;
  std::vector<BorderEdge> edges_;
  std::vector<SheetBorder> borders_;
  std::vector<std::vector<int>> bordersOf_;
};

/// Places along an edge in the direction of its orientation, both ends among them; more where it is not straight.
std::vector<gp_Pnt> placesAlong(const TopoDS_Edge& edge);

}  // namespace kervo
