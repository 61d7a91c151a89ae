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

/// Asks for places on a cut face. Pegs lead out of it along `way` (of unit length), into one of the other pieces.
class KeyRoom {
 public:
  /// `reach`: how deep sockets are, mm; `around`: what has to stay between the axis of a peg and all other faces.
  KeyRoom(const Shape& piece, const Face& face, const std::vector<Shape>& mates, Vector way, double reach,
          double around);
  ~KeyRoom();
  KeyRoom(const KeyRoom&) = delete;
  KeyRoom& operator=(const KeyRoom&) = delete;

  /// The place on the face over or under a point along the way, if there is room; nothing otherwise.
  std::optional<KeyPlace> at(Point point) const;
  /// All of a fine grid over the face.
  std::vector<KeyPlace> everywhere(Progress& progress) const;
  /// At most so many of these, far from each other, and no nearer than `apart` mm.
  static std::vector<KeyPlace> spread(std::vector<KeyPlace> places, std::size_t most, double apart);

 private:
  struct Inside;
  std::unique_ptr<Inside> inside_;
};

}  // namespace kervo
