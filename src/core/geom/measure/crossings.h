// Where a line goes into a body and out of it.
#pragma once

#include <cstdint>
#include <memory>
#include <vector>

#include "geom/topology.h"

namespace kervo {

struct LineCrossing {
  double at = 0;               ///< mm along the line, from where it starts; below zero behind that
  bool out = false;            ///< it leaves the body there
  Face face;                   ///< of an exact body; asks for nothing of a mesh
  std::uint32_t triangle = 0;  ///< of a mesh
};

/// Where lines meet one body, exact or a mesh.
class Crossings {
 public:
  explicit Crossings(const Shape& body);
  ~Crossings();
  Crossings(const Crossings&) = delete;
  Crossings& operator=(const Crossings&) = delete;

  /// Of a line both ways from a place along `way` (of unit length), in order. Places where it only touches are left
  /// out.
  std::vector<LineCrossing> along(Point from, Vector way) const;

 private:
  struct Inside;
  std::unique_ptr<Inside> inside_;
};

/// … of one line.
std::vector<LineCrossing> crossings(const Shape& body, Point from, Vector way);

}  // namespace kervo
