// What a step makes: bodies, planes or drawings, pieces, and the audit.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "geom/outline.h"
#include "geom/profile.h"
#include "geom/shape.h"
#include "model/reference.h"

namespace kervo {

/// A body that a step makes or changes.
struct MadeBody {
  BodyId id;
  Shape shape;
  /// The body whose name, colour, layer and settings it takes over; empty for a new one.
  BodyId from;
  std::string name;  ///< for a new body, or appended to the taken-over name: "front"
  std::optional<Color> color;
  std::string layer;
};

/// A separate part of a step's result, kept or dropped.
struct Piece {
  std::string name;
  BodyId body;        ///< the body it became; empty if dropped
  double volume = 0;  ///< mm³; 0 for surfaces
  double area = 0;    ///< mm²
  Point place;        ///< centre of its box, for its badge
  bool kept = true;
  Shape shape;
  BodyId from = {};  ///< the body it is a part of
};

/// What was checked about a step's result.
struct Audit {
  double volumeBefore = 0;  ///< of the bodies it touched, mm³
  double volumeAfter = 0;
  double volumeRemoved = 0;
  /// before − after − removed, for steps that cut. Within tolerance::balance of the volume before.
  double balance = 0;
  bool cuts = false;  ///< volumeRemoved and balance mean something
  bool valid = true;
  bool watertight = true;
  std::vector<BodyId> touched;
  std::vector<BodyId> spared;    ///< chosen or in reach, but not met
  std::vector<BodyId> shielded;  ///< would have been cut
  std::vector<std::string> warnings;
};

/// A length field that can be dragged in the view: its value is the distance from `from` along `along`.
struct Gauge {
  std::string field;
  Point from;
  Vector along;          ///< unit length
  double value = 0;      ///< mm
  bool centred = false;  ///< the value lies half on each side of `from`
};

/// A drawing's plane, the regions found in it, and its curves as lines to be shown.
struct DrawingResult {
  Plane plane;
  std::vector<Region> regions;
  std::vector<Polyline> lines;
};

struct StepResult {
  std::vector<BodyId> consumed;  ///< bodies that are gone, or replaced by `made`
  std::vector<MadeBody> made;
  std::optional<Plane> plane;
  std::optional<DrawingResult> drawing;
  std::vector<Piece> pieces;
  std::vector<Polyline> cutterOutline;  ///< what cuts, where it is not a body
  std::vector<Gauge> gauges;
  Audit audit;
};

}  // namespace kervo
