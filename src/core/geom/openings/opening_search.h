// How openings are found. For src/core/geom/openings only.
//
// A mouth is where an opening begins: the whole of an inner border of a sheet, or a stretch of an outer border that
// lies in and ends on one and the same neighbouring surface, as a door does on the underside of its wall. From a mouth
// the sheets of the opening are collected across all edges, but never into a sheet through a mouth of its own: there
// the opening comes out, or another one begins.
#pragma once

#include <optional>
#include <set>
#include <vector>

#include "geom/faces/face_net.h"

namespace kervo {

struct Mouth {
  int sheet = 0;
  std::vector<int> edges;  ///< of the sheet, in order
  bool closed = true;
  int beside = -1;  ///< of an open one: the sheet that it ends on
};

struct FoundOpening {
  std::set<int> sheets;
  std::vector<int> mouths;  ///< numbers
  bool open = false;
  bool stepped = false;
  std::set<int> crossing = {};  ///< sheets of all round holes that run through each other with it, its own among them
};

class OpeningSearch {
 public:
  explicit OpeningSearch(const FaceNet& net);

  const std::vector<Mouth>& mouths() const { return mouths_; }
  std::vector<FoundOpening> found();

 private:
  void findMouths();
  void findNotches(const SheetBorder& border);
  std::optional<Mouth> notchOf(const SheetBorder& border, int first, int count) const;
  static bool goesOn(const BorderEdge& from, const BorderEdge& to);
  bool bendsOut(const std::vector<int>& edges) const;
  std::optional<FoundOpening> from(const Mouth& mouth) const;
  std::set<int> openSideOf(int sheet, const Mouth& mouth) const;
  bool isMouthEdge(int edge) const { return !mouthsAt_[static_cast<std::size_t>(edge)].empty(); }
  void joinSteps(std::vector<FoundOpening>& openings) const;
  void takeContents(std::vector<FoundOpening>& openings) const;
  Point middleOf(const Mouth& mouth) const;

  const FaceNet& net_;
  std::vector<Mouth> mouths_;
  std::vector<std::vector<int>> mouthsAt_;  // by edge
};

}  // namespace kervo
