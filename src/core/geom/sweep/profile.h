// Regions of a plane: the profiles that are swept.
#pragma once

#include <memory>
#include <set>
#include <string>
#include <vector>

#include "geom/shape.h"
#include "geom/space.h"

namespace kervo {

struct RegionBody;

/// A region of a plane that curves enclose, islands left out of it.
class Region {
 public:
  explicit Region(std::shared_ptr<const RegionBody> body) : body_(std::move(body)) {}

  /// What bounds it, independent of sizes: each bounding curve's id with + where the region lies to its left and −
  /// where it lies to its right, joined by dots: "plate+.hole-" is the inside of plate without hole. Regions of equal
  /// description are numbered from left to right: "a+.b-", "a+.b-#2".
  const std::string& name() const;
  const Plane& plane() const;
  double area() const;  ///< mm²
  int islandCount() const;
  /// Its border in the plane's coordinates as lines to be shown, each closed: the outermost first, then islands.
  std::vector<std::vector<PlanePoint>> outlines() const;
  /// The names of the curves that bound it.
  std::set<std::string> curves() const;
  const RegionBody& body() const { return *body_; }

 private:
  std::shared_ptr<const RegionBody> body_;
};

/// The regions with those that share a border joined to one, the border removed.
std::vector<Region> joined(const std::vector<Region>& regions);

}  // namespace kervo
