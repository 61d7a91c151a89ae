// What is on screen: bodies with their roles, lines, badges. A value made from a model.
#pragma once

#include <string>
#include <vector>

#include "geom/display/outline.h"
#include "model/section_cut.h"
#include "view/opened_picture.h"

namespace kervo {

class CutFaces;

/// How a body is shown: as itself, or as its part in a trial; or that it is no body.
enum class Role { Plain, Stock, Cutter, Waste, Added, Piece, Behind, Datum, Drawing };

/// What is shown on surfaces in place of their colour alone.
struct SurfacePaint {
  enum class Kind { None, Stripes, Bands };
  Kind kind = Kind::None;
  std::string title = {};                 ///< Bands: what the values are
  std::vector<std::string> borders = {};  ///< … and at what values one band ends and the next begins, rising
  bool operator==(const SurfacePaint&) const = default;
};

struct SceneBody {
  BodyId id;
  std::string name;
  std::shared_ptr<const BodyPicture> picture;
  Color color{0.72, 0.74, 0.75};
  Role role = Role::Plain;
  int tint = 0;                         ///< of a piece: its place in the row of tints
  bool pickable = true;                 ///< what goes in a trial cannot be picked
  std::size_t badge = 0;                ///< of a piece: its row in the list of pieces
  BodyId from = {};                     ///< of a piece: the body that it is a part of
  std::vector<std::size_t> cutBy = {};  ///< the sections that cut it, by their places in the scene
  /// What closed bodies leave of it: its picture is that, and its parts are called as those of the whole body.
  std::shared_ptr<const OpenedPicture> opened = {};
  std::vector<OpenedOverlap> overlaps = {};  ///< where others fill one place of its cut faces
  /// Where each vertex of its mesh stands in the bands: its place as of ValueScale; null for none.
  std::shared_ptr<const std::vector<float>> bands = {};

  bool isGuide() const { return role == Role::Datum || role == Role::Drawing; }
};

/// A line through points, drawn over the bodies.
struct SceneLine {
  enum class Style { Drawing, Cutter, Fault, Net, Level, Left };
  Polyline points;
  /// Fault: where a cutter is too short, or a face is not valid. Net: of control points. Level: what lies on the level
  /// above or below. Left: where something was.
  Style style = Style::Drawing;
};

/// A number or letter in a disc, on whichever of its places faces the eye best.
struct Badge {
  std::string text;
  struct Place {
    Point point;
    Vector outwards;    ///< unit length
    double weight = 1;  ///< area
  };
  std::vector<Place> places;
  Role role = Role::Piece;
  int tint = 0;
  std::size_t piece = 0;  ///< row in the list of pieces
  bool lit = false;
};

/// A body of the level above or below the one whose plan is shown: its edges are there as lines.
struct SceneBeside {
  std::string name;
  std::shared_ptr<const BodyPicture> picture;
};

/// A section that is on.
struct SceneSection {
  StepId id;
  std::string letter;  ///< "A"
  std::string name;
  std::shared_ptr<const SectionCut> cut;
};

struct Scene {
  std::vector<SceneBody> bodies;
  std::vector<SceneSection> sections = {};
  std::shared_ptr<const CutFaces> cuts = {};  ///< what the sections cut: filled in by the view
  std::vector<SceneLine> lines;
  std::vector<SceneBeside> beside = {};
  std::vector<Badge> badges;
  SurfacePaint paint = {};

  const SceneBody* find(const BodyId& id) const {
    for (const SceneBody& body : bodies)
      if (body.id == id && body.pickable) return &body;
    return nullptr;
  }
  Box box() const {
    Box box;
    for (const SceneBody& body : bodies) box.add(body.picture->mesh.box);
    for (const SceneLine& line : lines)
      if (line.style == SceneLine::Style::Drawing)
        for (const Point& point : line.points) box.add(point);
    return box;
  }
  std::size_t triangleCount() const {
    std::size_t count = 0;
    for (const SceneBody& body : bodies) count += body.picture->mesh.triangleCount();
    return count;
  }
};

}  // namespace kervo
