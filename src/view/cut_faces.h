// Bodies that sections cut open: what of them is not seen, and their cut faces. Needs no display.
#pragma once

#include <memory>
#include <optional>
#include <vector>

#include "geom/display/mesh_section.h"
#include "view/opened_picture.h"
#include "view/scene.h"

namespace kervo {

/// Where a body is not seen.
struct Hidden {
  std::vector<Plane> halfSpaces;      ///< what lies on their normals' side
  std::vector<Clip::Region> regions;  ///< with more walls than one

  bool empty() const { return halfSpaces.empty() && regions.empty(); }
  bool at(Point point) const;
};

/// By all sections that cut the body; `but`: without those walls.
Hidden hiddenOf(const Scene& scene, const SceneBody& body, const std::vector<const Plane*>& but = {});

/// The face at which a wall of a section cuts a body. Others may cut it again.
struct CutFace {
  std::size_t section = 0;  ///< in the scene
  std::size_t body = 0;     ///< in the scene
  int number = 0;           ///< tells it from others of its body: what picks say
  CutWall wall;
  std::shared_ptr<const MeshSection> outline;
  bool filled = true;  ///< what the outline bounds is inside of the body
  Hidden hidden;       ///< by other walls
};

/// What a picked cut face says: the section's place in the scene, and the wall's among that section's walls.
std::pair<std::size_t, std::size_t> wallOf(const Pick& pick);

/// What a part of the picture that is drawn of a body is picked as: the part of the whole body, a cut face, or nothing
/// for an edge or corner that only the cut has.
std::optional<Pick> pickOfDrawn(Pick::Kind kind, int number, const SceneBody& body);
/// Of a cut face that a closed body made: its number in the picture of what is left. Nothing for any other pick.
std::optional<std::size_t> openedFaceOf(const Pick& pick);
/// The parts of that picture which a pick means: of a face that was cut through, several.
std::vector<std::size_t> drawnParts(const Pick& pick, const SceneBody& body);

/// Where two walls meet inside of a body, or two bodies fill one place of a wall.
struct CutMark {
  std::size_t section = 0, body = 0;
  std::vector<Polyline> lines = {};
  std::vector<Point> triangles = {};  ///< three corners each
  Hidden hidden;
};

/// Found again only for what changed.
class CutFaces {
 public:
  void update(const Scene& scene);

  const std::vector<CutFace>& faces() const { return faces_; }
  /// The place among them of a face that was picked.
  std::optional<std::size_t> find(const Scene& scene, const Pick& pick) const;
  const std::vector<CutMark>& meetings() const { return meetings_; }
  const std::vector<CutMark>& overlaps() const { return overlaps_; }
  /// The triangles of a face, in its plane's coordinates. Found when they are first asked for.
  const std::vector<PlanePoint>& trianglesOf(const CutFace& face) const;
  /// A face that a closed body's face cut, of a body and by a section of the scene.
  struct Opening {
    std::size_t section = 0, body = 0, face = 0;
    Plane plane;  ///< for the lines of a hatch: that of a planar face, otherwise across it
    Hidden hidden;
  };
  const std::vector<Opening>& openings() const { return openings_; }
  /// Closed bodies that no section can fill, as their meshes have gaps there.
  const std::vector<BodyId>& unsound() const { return unsound_; }

  /// The first cut face on a line of sight, and how far along it.
  struct Met {
    std::size_t face;
    Point point;
  };
  std::optional<Met> along(Point from, Vector direction) const;

 private:
  struct Known {
    std::shared_ptr<const BodyPicture> picture;
    Plane plane;
    std::shared_ptr<const MeshSection> outline;
    std::shared_ptr<std::optional<std::vector<PlanePoint>>> triangles;
  };
  const Known& sectionOf(const std::shared_ptr<const BodyPicture>& picture, const Plane& plane);
  void addOpenings(const Scene& scene, std::size_t body);
  void addMeetings(const Scene& scene, std::size_t body);
  void addOverlaps();
  void addOpenedOverlaps(const Scene& scene);

  std::vector<Known> known_, before_;
  std::vector<CutFace> faces_;
  std::vector<CutMark> meetings_, overlaps_;
  std::vector<Opening> openings_;
  std::vector<BodyId> unsound_;
};

}  // namespace kervo
