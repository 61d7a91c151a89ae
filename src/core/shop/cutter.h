// A simulated laser cutter: it reads what was written, never the model, and tells what would happen.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "exchange/curve_file.h"
#include "exchange/flat_picture.h"

namespace kervo {

struct CutterSettings {
  double kerf = 0.2;              ///< that the beam burns away, mm
  double feed = 20;               ///< while it cuts or marks, mm/s
  double travel = 200;            ///< from cut to cut, mm/s
  double gap = 0.01;              ///< ends nearer than this are one, mm
  std::string marked = "number";  ///< the layer that is only marked, not cut through
};

/// One cut, in the order of the file.
struct CutPath {
  FlatChain chain;
  std::string layer;
  double length = 0;  ///< mm
  bool closed = false;
  bool marked = false;          ///< not cut through
  double begins = 0, ends = 0;  ///< seconds from the start
  double twice = 0;             ///< mm of it that lie on another cut
};

/// What falls out of the sheet.
struct FreedPart {
  std::size_t path = 0;  ///< the cut that frees it
  double at = 0;         ///< seconds from the start
  double area = 0;       ///< mm², the kerf burned away and its holes left out
  bool waste = false;    ///< out of a hole
  PlanePoint place;      ///< where its outline starts
};

struct CutRun {
  std::vector<CutPath> paths;
  std::vector<FreedPart> freed;               ///< in the order in which they fall
  double cut = 0, marked = 0, travelled = 0;  ///< mm
  double seconds = 0;
  /// What a person should look at before cutting: open loops, cuts on each other, holes that are cut after their part
  /// is free.
  std::vector<std::string> findings;
};

/// Layers and curves in the order of the file. Throws Error for settings that make no sense; Stopped on request.
CutRun runCutter(const FileCurves& file, const CutterSettings& settings, Progress& progress);

/// Where the beam is after that many seconds.
PlanePoint beamAt(const CutRun& run, double seconds);

}  // namespace kervo
