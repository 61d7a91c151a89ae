// What becomes of the faces, edges and corners of a body when faces of it change. For src/core/geom/faces only.
#pragma once

#include <Geom_Curve.hxx>
#include <Geom_Surface.hxx>
#include <map>
#include <utility>
#include <vector>

#include "geom/faces/changed_faces.h"
#include "geom/faces/face_net.h"

namespace kervo {

/// Both only move, and alike.
bool sameMotion(const FaceChange& a, const FaceChange& b);

/// All that becomes of the parts of a body. Throws Error, while it is made, if surfaces do not meet any more, or an
/// edge would vanish or turn round.
class FacePlan {
 public:
  FacePlan(const Shape& body, const std::map<int, FaceChange>& changes);

  /// Of an edge: its curve, and where it begins and ends on it.
  struct Placed {
    Handle(Geom_Curve) curve;
    double first = 0, last = 0;
    bool asBefore = true;  ///< it lies in the surfaces' parameters as before
  };
  Handle(Geom_Surface) surfaceOf(const TopoDS_Shape& face) const {
    const auto found = surfaces_.find(face);
    return found == surfaces_.end() ? BRep_Tool::Surface(TopoDS::Face(face)) : found->second;
  }
  bool isChanged(const TopoDS_Shape& face) const { return surfaces_.contains(face); }
  /// It has a surface of another kind, or with other parameters.
  bool isReplaced(const TopoDS_Shape& face) const {
    const FaceChange* change = changeOf(number_.at(face));
    return change && change->onto;
  }
  const gp_Pnt* pointFor(const TopoDS_Shape& corner) const {
    const auto found = points_.find(corner);
    return found == points_.end() ? nullptr : &found->second;
  }
  /// Those whose curves were found again.
  std::vector<TopoDS_Edge> newEdges() const;
  const Placed* placedFor(const TopoDS_Shape& edge) const {
    const auto found = placed_.find(edge);
    return found == placed_.end() ? nullptr : &found->second;
  }

 private:
  /// An edge or a corner may be used by several faces.
  struct Around {
    std::vector<int> faces;
  };

  static void add(Around& around, int face) {
    if (std::find(around.faces.begin(), around.faces.end(), face) == around.faces.end()) around.faces.push_back(face);
  }
  const TopoDS_Face& faceAt(int number) const;
  const FaceChange* changeOf(int face) const {
    const auto found = changes_.find(face);
    return found == changes_.end() ? nullptr : &found->second;
  }
  /// Rounds beside changed faces move so that they touch these and their other neighbours as before.
  void takeRoundsAlong();
  /// What a neighbour asks of the motion of a round: its parts along some directions.
  void addWishes(int neighbour, std::vector<std::pair<Vector, double>>& rows) const;
  /// What the neighbours that a round touches ask of it, solved by the shortest motion; of neighbours that are round
  /// themselves only those that are known to move, unless all are asked.
  Vector roundMotion(int round, bool all) const;
  /// Curves that follow from one face alone: of seams, of edges between faces that move alike, of smooth edges.
  void findCurves();
  static Handle(Geom_Curve) transformed(const TopoDS_Edge& edge, const Motion& motion);
  Handle(Geom_Curve) ofOneFace(const TopoDS_Edge& edge, int face, const FaceChange& change) const;
  gp_Pnt pointOf(const TopoDS_Vertex& corner) const;
  void placeEdge(const TopoDS_Edge& edge);
  static double parameterOn(const Handle(Geom_Curve) & curve, const gp_Pnt& point);
  static bool runsAlong(const Handle(Geom_Curve) & curve, double at, const Handle(Geom_Curve) & old, double oldAt);
  static void placeClosed(Placed& placed, const Handle(Geom_Curve) & old, double from, double to, const gp_Pnt& near,
                          const gp_Pnt& start);
  static void placeOpen(Placed& placed, const Handle(Geom_Curve) & old, double from, double to, const gp_Pnt& near,
                        const gp_Pnt& start, const gp_Pnt& end);

  std::vector<Face> faces_;
  FaceNet net_;
  std::map<int, FaceChange> changes_;
  ShapeMap<int> number_;
  ShapeMap<Around> edges_, corners_;
  ShapeMap<bool> smooth_, moving_;
  ShapeMap<Handle(Geom_Surface)> surfaces_;
  ShapeMap<Handle(Geom_Curve)> known_;
  ShapeMap<gp_Pnt> points_;
  ShapeMap<Placed> placed_;
};

}  // namespace kervo
