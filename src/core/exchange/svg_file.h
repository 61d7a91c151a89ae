// SVG files: outlines of shapes, by outermost groups.
#pragma once

#include "exchange/formats.h"

namespace kervo {

const Format& svgFormat();

/// The outlines of all shapes (path, rect, circle, ellipse, line, polyline, polygon), with transforms, nested pictures,
/// symbols and uses of them; v upwards. Circles, arcs and ellipses stay exact. Text, images and what is clipped away
/// are told in a note. Throws FileError for a file that is not well-formed, or a shape that cannot be read.
FileCurves readSvg(const std::filesystem::path& path, const std::string& unit, Progress& progress);

/// Outlines on layers at true scale, in mm (svg_writer.cpp). Throws FileError.
void writeSvg(const std::filesystem::path& path, const FlatPicture& picture, Progress& progress);

}  // namespace kervo
