// What cuts, resolved: the planes, surfaces and solids that a step's cutters stand for.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "base/progress.h"
#include "fields/choice_field.h"
#include "fields/cutters_field.h"
#include "geom/space.h"

namespace kervo {

/// How far planes, faces, surfaces and drawn lines go.
enum class Extent {
  Whole,     ///< planes and faces as far as their surface goes; surfaces and lines as they are
  Extended,  ///< surfaces, faces and lines longer by a length
  Finite     ///< all as they are: a face cuts only where it is
};

struct CutterReach {
  Extent extent = Extent::Whole;
  double extendBy = 0;  ///< mm
  double offset = 0;    ///< of planes along their normal, mm
  double tilt = 0;      ///< of planes about their x axis, through the middle of what is cut, radians
  double turn = 0;      ///< and then about their y axis
};

/// Whether curves may be among the cutters: they mark faces, but divide nothing.
enum class CurveCutters { Refused, Allowed };

/// One cutter. Exactly one of plane, sheet, solid and curve is there.
struct ResolvedCutter {
  std::string label;  ///< for people: "Lid", "side of Rod"
  std::optional<Plane> plane = {};
  Shape sheet = {};
  Shape solid = {};
  Shape curve = {};
  BodyId body = {};         ///< if it is one
  Vector offsetAlong = {};  ///< of a plane: the direction of its offset
};

/// The fields for what cuts, and how its planes are moved and turned. Other fields may stand before those of its
/// extent.
struct CutterFields {
  CutterFields(FieldTable& table, const When& when, CuttersField::Curves curves);

  const CuttersField cutters;
  const LengthField offset;
  const AngleField tilt, turn;
};

struct ExtentFields {
  ExtentFields(FieldTable& table, const When& when);

  const ChoiceField<Extent> extent;
  const LengthField extend;
};

CutterReach reachOf(const Inputs& inputs, const CutterFields& cutters, const ExtentFields& extent);

/// The cutters picked in a field. `around`: what has to be reached through. Throws Error for one that cannot cut.
std::vector<ResolvedCutter> cuttersOf(Inputs& inputs, const CuttersField& field, const CutterReach& reach,
                                      const Box& around, Progress& progress,
                                      CurveCutters curves = CurveCutters::Refused);
/// … of some of its picks.
std::vector<ResolvedCutter> cuttersOf(Inputs& inputs, const CuttersField& field, const std::vector<CutterPick>& picks,
                                      const CutterReach& reach, const Box& around, Progress& progress,
                                      CurveCutters curves);

/// The plane as it cuts: moved, tilted and turned. `middle`: of what is cut.
Plane placed(const Plane& plane, const CutterReach& reach, Point middle);

/// The faces of all cutters together.
double faceCountOf(const std::vector<ResolvedCutter>& cutters);
std::vector<Plane> planesOf(const std::vector<ResolvedCutter>& cutters);

/// Lines that show the cutters in the view.
std::vector<Polyline> outlinesOf(const std::vector<ResolvedCutter>& cutters, const Box& around);

}  // namespace kervo
