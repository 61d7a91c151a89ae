// PDF files: pictures at true scale, one page.
#pragma once

#include "exchange/formats.h"

namespace kervo {

const Format& pdfFormat();

/// A page as large as the picture. Throws FileError.
void writePdf(const std::filesystem::path& path, const FlatPicture& picture, Progress& progress);

}  // namespace kervo
