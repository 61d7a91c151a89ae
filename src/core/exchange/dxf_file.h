// DXF files: outlines on layers (ASCII, R12 to R2018).
#pragma once

#include "exchange/formats.h"

namespace kervo {

const Format& dxfFormat();

/// Lines, arcs, circles, ellipses, splines and polylines of the model space, in blocks too, seen along z. Text,
/// hatches, dimensions and layers that are off are left out, with a note. Throws FileError for a file that is binary,
/// cut off or has a malformed number.
FileCurves readDxf(const std::filesystem::path& path, const std::string& unit, Progress& progress);

/// Outlines on layers at true scale, in mm (dxf_writer.cpp). Throws FileError.
void writeDxf(const std::filesystem::path& path, const FlatPicture& picture, Progress& progress);

}  // namespace kervo
