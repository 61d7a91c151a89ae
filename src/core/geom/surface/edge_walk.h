// Edges one after another as one curve, followed by its length. For src/core/geom/surface only.
#pragma once

#include <Geom_BSplineCurve.hxx>
#include <TopoDS_Edge.hxx>
#include <vector>

#include "geom/space.h"
#include "geom/surface/border.h"

namespace kervo {

/// A chain of edges, each with a face that it bounds, or a null face. Places are shares of its length, from 0 to 1.
class EdgeWalk {
 public:
  /// In any order and direction; the chain runs as the first edge does. Throws Error if they do not make one chain.
  explicit EdgeWalk(const std::vector<Border>& edges);

  bool closed() const { return closed_; }
  double length() const { return length_; }
  /// Where edges meet, from 0 to 1, both included.
  const std::vector<double>& breaks() const { return breaks_; }

  /// At which side of a place: where edges meet, before is on the one that ends there.
  enum class Side { Before, After };
  struct Place {
    const Border* border;
    double parameter;
    bool forward;  ///< the edge is followed in the direction of its parameter
  };
  Place at(double share, Side side) const;
  Point pointAt(double share) const;
  /// The curve from one place to another as a spline with parameters from 0 to 1; null if edges meet in between.
  Handle(Geom_BSplineCurve) stretch(double from, double to) const;
  /// The share of the place nearest to a point.
  double nearest(Point point) const;

  /// Run the other way round.
  EdgeWalk reversed() const;
  /// Of a closed one: begun at another share.
  EdgeWalk startedAt(double share) const;

 private:
  EdgeWalk() = default;
  struct Part {
    Border border;
    bool forward = true;
    double length = 0;
    double from = 0, to = 0;  ///< parameters where this part begins and ends, in the direction of the walk
  };
  void finish();

  std::vector<Part> parts_;
  std::vector<double> breaks_;
  double length_ = 0;
  bool closed_ = false;
};

/// Divides a rational spline into short spans: half a circle in one is more than integrals over a surface of it are
/// exact for.
void refineForIntegrals(const Handle(Geom_BSplineCurve) & spline);

/// The walk that runs beside another one: a closed one begun at the nearest place, and the way round that is nearer, or
/// the other way if `against`.
EdgeWalk alignedWith(const EdgeWalk& first, const EdgeWalk& other, bool against);

/// Several walks followed at once. Where all have as many edges, edge by edge; otherwise by shares of their lengths.
class MatchedWalks {
 public:
  explicit MatchedWalks(std::vector<EdgeWalk> walks);

  const EdgeWalk& walk(std::size_t number) const { return walks_[number]; }
  std::size_t count() const { return walks_.size(); }
  /// Where edges of any of them meet, from 0 to 1.
  const std::vector<double>& breaks() const { return breaks_; }
  /// The share of one of them at a common place.
  double shareOf(std::size_t number, double place) const;

 private:
  std::vector<EdgeWalk> walks_;
  std::vector<double> breaks_;
  bool byEdges_ = false;
};

/// The borders that go on from these along the open border of their surface, all round if it is closed.
std::vector<Border> wholeLoop(const std::vector<Border>& all, const Border& from);

}  // namespace kervo
