// Whether a file holds what was written: it is read back before it takes its place.
//
// STEP loses borders that meet the seam of a sphere, so such faces are put on turned spheres first
// (geom/surface/turned_seams.h, geom/surface/reseated_faces.h); what still differs is turned, divided, written as
// splines, or refused.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "exchange/body_file.h"

namespace kervo {

/// What of a body a format keeps, and is therefore compared.
enum class Keeps { ShapesOnly, Looks };

/// A body of which something else is read than was written.
struct Difference {
  std::size_t body;      ///< its place in the list that was written
  std::string what;      ///< e.g. "its volume is 26818 mm³ there instead of 22263 mm³"
  bool inShape = false;  ///< another way of writing its shape may help
};

/// Compares bodies with what was read: their number, kinds, volumes and areas, and with Keeps::Looks names, layers and
/// the area in each colour. A body of several solids comes back as one body each. A volume may differ by 1e-6 of itself
/// and by the body's own error bound. Gives all differences in order, an empty list for none.
std::vector<Difference> differences(const std::vector<FileBody>& written, const std::vector<FileBody>& read,
                                    Keeps keeps);

/// The error for a file that would differ.
FileError unfaithful(const FileBody& body, const Difference& difference, const std::filesystem::path& path);

}  // namespace kervo
