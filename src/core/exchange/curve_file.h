// Curves in files of other programs: outlines, which come in as drawings.
#pragma once

#include <filesystem>
#include <functional>
#include <optional>
#include <string>
#include <vector>

#include "base/progress.h"
#include "drawing/plane_curve.h"
#include "model/document.h"

namespace kervo {

/// Curves that a file keeps apart: a layer of a DXF file, an outermost group of an SVG file.
struct CurveLayer {
  std::string name;
  std::vector<std::shared_ptr<const PlaneCurve>> curves;  ///< mm
};

struct FileCurves {
  std::vector<CurveLayer> layers;    ///< in the order in which they come in the file
  std::string unit = "mm";           ///< what the file's coordinates were taken for
  bool unitNamed = true;             ///< by the file or by who read it; false: it is a guess
  std::vector<std::string> notes{};  ///< what of the file was left out

  /// The layer of that name, added if there is none.
  CurveLayer& layer(const std::string& name);
  std::size_t count() const;
};

/// What coordinates of a file can be in: millimetres per unit, by name. The units of Kervo, px (96 to an inch) and pt
/// (72 to an inch).
std::optional<double> curveUnit(const std::string& name);
/// Their names, in the order in which they are offered.
const std::vector<std::string>& curveUnits();

/// The files of formats that hold curves, by their extension. `unit`: what one unit of the file's coordinates is, empty
/// for what the file says. Throws FileError (unknown extension, unreadable, cut off, without curves): nothing comes in
/// half.
FileCurves readCurves(const std::filesystem::path& path, const std::string& unit, Progress& progress);

/// True if the extension is that of a format that holds curves.
bool isCurveFile(const std::filesystem::path& path);

/// A box around all of them, to a thousandth of its size.
PlaneBox boxOf(const FileCurves& curves);
/// With the middle of that at (0, 0).
FileCurves inTheMiddle(FileCurves curves);

/// A document with a drawing on the ground for each layer at its end. Ends that are nearer than `gap` (mm) become one
/// point. Every curve says that it is a snapshot of `source`.
Document withDrawings(Document document, const FileCurves& curves, const std::string& source, double gap,
                      const StepKinds& kinds);

/// More curves than this are refused: blocks and symbols that use each other can stand for billions.
inline constexpr std::size_t mostFileCurves = 500'000;
/// … and larger files.
inline constexpr std::uintmax_t mostCurveBytes = 500'000'000;

}  // namespace kervo
