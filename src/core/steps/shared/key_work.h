// Keys between pieces: pegs on the cut faces of some, sockets for them in others.
#pragma once

#include <map>
#include <optional>
#include <string>
#include <vector>

#include "base/progress.h"
#include "geom/topology.h"
#include "model/step_result.h"
#include "steps/shared/key_solids.h"

namespace kervo {

/// Lengths in mm.
struct KeyWishes {
  KeyForm form;
  double depth = 0;      ///< by which pegs reach into the piece across
  double clearance = 0;  ///< on each side of a peg
  double endRoom = 0;    ///< by which sockets are deeper
  double wall = 0;       ///< that stays around them in both pieces
  std::size_t most = 2;  ///< on each face
  bool pins = false;     ///< loose ones, with sockets in both pieces
  bool unique = true;    ///< one is narrower, where they would fit turned round as well
};

class KeyWork {
 public:
  /// `name`: of new faces, `name`:peg1, `name`:socket1 …
  KeyWork(std::vector<Shape> pieces, KeyWishes wishes, std::string name);

  /// Pegs on a face of a piece, into those of the others that are across from it. How many there was room for.
  std::size_t add(std::size_t piece, const Face& face, const std::vector<std::size_t>& mates, Progress& progress);

  /// The pieces with pegs joined and sockets cut. Throws Error, with the number of the piece in its place, if one would
  /// break.
  std::vector<Shape> finished(Progress& progress) const;

  const std::vector<Shape>& pieces() const { return pieces_; }
  const std::vector<Shape>& pins() const { return pins_; }
  /// Of a piece; none if nothing is cut into it.
  std::vector<Shape> socketsIn(std::size_t piece) const;
  bool touches(std::size_t piece) const { return pegs_.contains(piece) || sockets_.contains(piece); }
  std::size_t count() const { return count_; }
  /// The width of the pegs that are narrower; 0 if none is.
  double narrower() const { return narrower_; }
  /// Where the first peg goes in, and its way.
  const std::optional<std::pair<Point, Vector>>& firstEntry() const { return firstEntry_; }

 private:
  void addOne(std::size_t piece, std::size_t mate, const KeyForm& form, Point at, Vector way, double gap,
              Progress& progress);

  std::vector<Shape> pieces_;
  KeyWishes wishes_;
  std::string name_;
  std::map<std::size_t, std::vector<Shape>> pegs_, sockets_;
  std::vector<Shape> pins_;
  std::size_t count_ = 0;
  double narrower_ = 0;
  std::optional<std::pair<Point, Vector>> firstEntry_;
};

/// Pairs of bodies that have something in common.
std::size_t overlapsAmong(const std::vector<Shape>& shapes, Progress& progress);

}  // namespace kervo
