// Keys between pieces: pegs on the cut faces of some, sockets for them in others.
#pragma once

#include <map>
#include <optional>
#include <string>
#include <vector>

#include "base/progress.h"
#include "geom/surface/key_places.h"
#include "geom/topology.h"
#include "model/step_result.h"
#include "steps/shared/key_solids.h"

namespace kervo {

/// Where pegs stand on a face.
enum class KeyPlacing {
  Spread,   ///< far from each other
  Ring,     ///< on a circle round the middle
  Grid,     ///< in rows
  Outline,  ///< along the border
  Points    ///< at places of one's own
};

/// Lengths in mm.
struct KeyWishes {
  KeyForm form;
  double depth = 0;      ///< by which pegs reach into the piece across
  double clearance = 0;  ///< on each side of a peg
  double endRoom = 0;    ///< by which sockets are deeper
  double wall = 0;       ///< that stays around them in both pieces
  std::size_t most = 2;  ///< on each face
  KeyPlacing placing = KeyPlacing::Spread;
  double size = 0;            ///< the ring's diameter, from row to row, or from the border
  double turn = 0;            ///< of a ring, or of dovetails: radians
  std::vector<Point> points;  ///< of one's own
  bool pins = false;          ///< loose ones, with sockets in both pieces
  bool unique = true;         ///< one is narrower, where they would fit turned round as well
};

class KeyWork {
 public:
  /// `name`: of new faces, `name`:peg1, `name`:socket1 …
  KeyWork(std::vector<Shape> pieces, KeyWishes wishes, std::string name);

  /// Pegs on a face of a piece, into those of the others that are across from it. How many there was room for.
  std::size_t add(std::size_t piece, const Face& face, const std::vector<std::size_t>& mates, Progress& progress) {
    return add(piece, face, mates, face.normal(), wishes_.most, progress);
  }
  /// … along `way` (of unit length), and at most so many.
  std::size_t add(std::size_t piece, const Face& face, const std::vector<std::size_t>& mates, Vector way,
                  std::size_t most, Progress& progress);

  /// Pegs on all of a piece, which may be a mesh as the others may, that lies in a plane and looks along its normal.
  /// Nothing if none of it does.
  std::optional<std::size_t> add(std::size_t piece, const Plane& cut, const std::vector<std::size_t>& mates,
                                 std::size_t most, Progress& progress);

  struct Finished {
    std::vector<Shape> pieces;
    double meshed = 0;  ///< mm within which pegs were made meshes, because pieces are; 0: none was
  };
  /// The pieces with pegs joined and sockets cut. Throws Error, with the number of the piece in its place, if one would
  /// break.
  Finished finished(Progress& progress) const;

  const std::vector<Shape>& pieces() const { return pieces_; }
  const std::vector<Shape>& pins() const { return pins_; }
  /// Of a piece; none if nothing is cut into it.
  std::vector<Shape> socketsIn(std::size_t piece) const;
  bool touches(std::size_t piece) const { return pegs_.contains(piece) || sockets_.contains(piece); }
  std::size_t count() const { return count_; }
  /// Places that were wanted and have no room.
  std::size_t without() const { return without_; }
  /// The width of the pegs that are narrower; 0 if none is.
  double narrower() const { return narrower_; }
  /// Where the first peg goes in, and its way.
  const std::optional<std::pair<Point, Vector>>& firstEntry() const { return firstEntry_; }

 private:
  double aroundOf() const;
  std::size_t addIn(const KeyRoom& room, std::size_t piece, const std::vector<std::size_t>& mates, Vector way,
                    std::size_t most, Progress& progress);
  std::vector<KeyPlace> placesOn(const KeyRoom& room, std::size_t most, double around, Progress& progress);
  std::size_t addRails(std::size_t piece, const Face& face, const std::vector<std::size_t>& mates, Progress& progress);
  void addOne(std::size_t piece, std::size_t mate, const KeyForm& form, Point at, Vector way, double gap,
              Progress& progress);

  std::vector<Shape> pieces_;
  KeyWishes wishes_;
  std::string name_;
  std::map<std::size_t, std::vector<Shape>> pegs_, sockets_;
  std::vector<Shape> pins_;
  std::size_t count_ = 0, without_ = 0;
  double narrower_ = 0;
  std::optional<std::pair<Point, Vector>> firstEntry_;
};

/// Pairs of bodies that have something in common.
std::size_t overlapsAmong(const std::vector<Shape>& shapes, Progress& progress);

}  // namespace kervo
