// Openings: holes, windows, pockets, doors, notches and slots of a solid, each known as one thing from its faces alone,
// whoever made the body.
#pragma once

#include <optional>
#include <vector>

#include "geom/topology.h"

namespace kervo {

/// What the outline of an opening is.
enum class OpeningForm {
  Round,      ///< its sides go round one axis
  Rectangle,  ///< four flat sides (three if it is open), perhaps with rounds between them
  Slot,       ///< two flat sides that end in half rounds
  Polygon,    ///< other flat sides
  Free
};

struct Opening {
  std::vector<int> faces;  ///< numbers in facesOf(shape), rising; with those of blind holes in its sides
  std::vector<int> walls;  ///< numbers of the faces that its mouths are in, the main one first
  OpeningForm form = OpeningForm::Free;
  bool through = false;       ///< it comes out elsewhere
  bool open = false;          ///< not closed all round, as a door or a slot
  std::vector<int> crossing;  ///< faces of all round holes that run through each other with it, its own too; or none
  bool stepped = false;       ///< its width changes along its way: a counterbore, a rebate
  /// On its main mouth: the origin in its middle, the normal out of the wall, y up the wall. Of a wall that lies flat,
  /// x is along a side of the opening.
  Plane frame;
  double width = 0, height = 0;  ///< of the main mouth along x and y, mm
  double depth = 0;              ///< from the main mouth to the last of its faces, mm
  double diameter = 0;           ///< of the narrowest round part of a round one, mm
  int sides = 0;                 ///< faces along its outline, without rounds and chamfers at the mouth
};

/// All openings of a solid, by the number of their first face. Of a slot that opens into a pocket both are there, and
/// the pocket with the slot. None for a shape that is no solid. Throws Error for a body that cannot be read.
std::vector<Opening> openingsOf(const Shape& solid);

/// The smallest of them that has the face; nothing if none has.
std::optional<Opening> openingWith(const std::vector<Opening>& openings, int face);

/// The numbers of those that are like one of them in form and sizes, itself among them.
std::vector<int> allAlike(const std::vector<Opening>& openings, const Opening& opening);

}  // namespace kervo
