// Dimensions where they are measured, and signs of constraints where they hold: laid out in the view, and painted.
#pragma once

#include <QRectF>
#include <QString>
#include <string>
#include <vector>

#include "drawing/solve.h"
#include "view/tools/tool.h"

namespace kervo {

/// A region that curves of a drawing enclose.
struct RegionShape {
  std::string name;
  double area = 0;                                ///< mm²
  std::vector<std::vector<PlanePoint>> outlines;  ///< the outermost, then islands
  bool taken = false;                             ///< is to be cut with
};

/// A drawing that is edited, where it is, and what of it is selected.
struct EditedDrawing {
  Plane plane;
  Drawing drawing;
  DrawingValues values;
  Solution solution;
  std::vector<std::string> selected = {};  ///< ids of points, curves and constraints
  std::vector<RegionShape> regions = {};   ///< that are enclosed at present
};

/// The part that a curve belongs to: itself where it was drawn or taken along, what it was made by where it is a copy.
std::string partOf(const EditedDrawing& edited, const std::string& curve);

struct DrawingMark {
  enum class State { Holds, AlreadyTrue, Reference, Contradicts };
  std::string constraint;  ///< its id
  bool dimension = false;
  QString text;                      ///< the sign, or what stands on the dimension
  QRectF rect;                       ///< in the view, of sign or text
  std::vector<QLineF> lines = {};    ///< of a dimension: from jaw to jaw
  std::vector<QLineF> leaders = {};  ///< thin, from what is measured to it
  State state = State::Holds;
};

/// All of a drawing whose points are where `solution` has them. None covers another as far as there is room.
std::vector<DrawingMark> marksOf(const EditedDrawing& edited, const Solution& solution, ToolSpace& space);

/// `hot`: the constraint under the pointer.
void paint(QPainter& painter, const std::vector<DrawingMark>& marks, const EditedDrawing& edited,
           const std::string& hot, const ViewLook& look);

}  // namespace kervo
