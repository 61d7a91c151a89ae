// The one checked boolean: every operation that cuts or joins bodies goes through divide(), unite() or what is built on
// them. A result is right, or there is an Error; a wrong body never comes out.
#pragma once

#include <string>
#include <vector>

#include "base/progress.h"
#include "geom/shape.h"

namespace kervo {

/// What a division was checked by.
struct Balance {
  double before = 0;   ///< measure of the stock: mm³ for solids, mm² for surfaces
  double outside = 0;  ///< of what lies outside the cutters
  double inside = 0;   ///< of what lies inside
  double residual() const { return before - outside - inside; }
};

/// A stock divided by cutters: the part outside all of them and the part inside any of them. Either may be empty.
struct Division {
  Shape outside;
  Shape inside;
  Balance balance;
  std::string remedy;  ///< empty, or what had to be done to get a sound result, e.g. "moved the cutter by 1.7e-05 mm"
  double meshed = 0;   ///< mm within which exact bodies were made meshes, because others are; 0: none was
};

/// Whether the edges between faces of one surface go when bodies are joined.
enum class Seams { Remove, Keep };

/// Solids joined to one body.
struct Union {
  Shape shape;
  std::string remedy;  ///< as in Division
  /// Edges between faces of one surface were to be removed and could not: the kernel fails at that beside tori.
  bool seamsStay = false;
  double meshed = 0;  ///< as in Division
};

/// Divides `stock` (a solid, a surface or a closed mesh) by solids or closed meshes. With a mesh among them the result
/// is one. Outside and inside are found from one intersection; both
/// must be valid, with tight edges, lie where they should, and their volumes add up to the stock's (and those of each
/// cutter to the cutter's) to 1e-6. If not, it tries again with the bodies in reversed order, with their round
/// faces as surfaces of revolution, with a larger tolerance, then with the cutters moved a little. Cutters that do not
/// meet the stock leave it as it was (the same Shape) with an empty inside. Throws Error if no attempt passes, or a
/// cutter is not a solid; Stopped on request.
Division divide(const Shape& stock, const std::vector<Shape>& cutters, Progress& progress);

/// The parts into which surfaces divide a solid; just the solid if they do not reach through it. Checked like divide().
std::vector<Shape> splitBySurfaces(const Shape& solid, const std::vector<Shape>& surfaces, Progress& progress);

/// The union of solids, seams between faces of one surface removed unless they are to be kept, or cannot be removed
/// (Union::seamsStay). Checked against the sum
/// of all regions. The result may be in several pieces. Throws as divide() does.
Union unite(const std::vector<Shape>& solids, Seams seams, Progress& progress);
inline Union unite(const std::vector<Shape>& solids, Progress& progress) {
  return unite(solids, Seams::Remove, progress);
}

/// What lies in every one of the solids; may be empty. Throws as divide() does.
Shape intersect(const std::vector<Shape>& solids, Progress& progress);

}  // namespace kervo
