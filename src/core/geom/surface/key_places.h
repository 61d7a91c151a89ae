// Where pegs that line two pieces up again have room.
#pragma once

#include <memory>
#include <optional>
#include <vector>

#include "base/progress.h"
#include "geom/topology.h"

namespace kervo {

/// A place on a cut face, and the piece across from it.
struct KeyPlace {
  Point at;          ///< on the face
  std::size_t mate;  ///< number of the piece that it leads into
  double gap = 0;    ///< mm from the face to that piece: a kerf
};

/// The place of a flat cut face that is farthest from its border.
struct RoomyPlace {
  Plane plane;      ///< its origin there, its normal out of the piece
  double room = 0;  ///< mm to the border
};

/// Asks for places on a cut face. Pegs lead out of it along `way` (of unit length), into one of the other pieces.
///
/// Places are looked for among the triangles of the bodies. Where all of them are exact those that are taken are then
/// proven with the faces themselves; meshes are their triangles.
class KeyRoom {
 public:
  /// `reach`: how deep sockets are, mm; `around`: what has to stay between the axis of a peg and all other faces.
  KeyRoom(const Shape& piece, const Face& face, const std::vector<Shape>& mates, Vector way, double reach,
          double around, Progress& progress);
  /// All of the piece, which may be a mesh as its mates may, that lies in a plane and looks along its normal.
  KeyRoom(const Shape& piece, const Plane& cut, const std::vector<Shape>& mates, double reach, double around,
          Progress& progress);
  ~KeyRoom();
  KeyRoom(const KeyRoom&) = delete;
  KeyRoom& operator=(const KeyRoom&) = delete;

  /// Nothing of the piece lies there.
  bool empty() const;
  /// The place on the face over or under a point along the way, if there is room; nothing otherwise.
  std::optional<KeyPlace> at(Point point) const;
  /// At most so many of a fine grid over the face, far from each other, and no nearer than `apart` mm.
  std::vector<KeyPlace> spread(std::size_t most, double apart, Progress& progress) const;
  /// For numbers and labels, to a hundredth of the face's size.
  std::optional<RoomyPlace> widest() const;
  /// On a circle round the middle of the face, at equal distances; `turn` (radians) from the face's own axis. Points
  /// may lie off the face.
  std::vector<Point> ring(std::size_t count, double diameter, double turn) const;
  /// In rows that far apart both ways, one point in the middle of the face.
  std::vector<Point> grid(double apart) const;
  /// At equal distances along the outermost border, `inside` mm from it.
  std::vector<Point> along(std::size_t count, double inside) const;

 private:
  struct Inside;
  std::unique_ptr<Inside> inside_;
};

}  // namespace kervo
