// IFC4 files (ISO 16739-1:2018): building models.
#pragma once

#include "exchange/formats.h"

namespace kervo {

const Format& ifcFormat();

/// Reads storeys as levels, and the elements of a building as meshes with their openings, names and colours, each on
/// its storey's layer. What cannot be read is noted. Throws FileError.
FileContents readIfc(const std::filesystem::path& path, const ReadWishes& wishes, Progress& progress);

/// Writes levels as storeys and bodies as elements on them, with names, colours, layers, volumes and areas. Openings
/// that go through a solid become openings of the element, which is written without them. Geometry is triangles, exact
/// for bodies of flat faces. Identifiers follow from names and places, so that a second export has the same ones.
/// Throws FileError.
void writeIfc(const std::filesystem::path& path, const std::vector<FileBody>& bodies, const WriteWishes& wishes,
              Progress& progress);

}  // namespace kervo
