#include "exchange/png_file.h"

#include <algorithm>
#include <cmath>

#include "exchange/atomic_file.h"
#include "exchange/cairo_page.h"

namespace kervo {

const Format& pngFormat() {
  static const Format format{.name = "PNG",
                             .extensions = {".png"},
                             .mimeTypes = {"image/png"},
                             .holds = Format::Holds::Curves,
                             .carries = later("a picture on transparent ground"),
                             .writePicture = writePng};
  return format;
}

void writePng(const std::filesystem::path& path, const FlatPicture& picture, Progress& progress) {
  constexpr double usual = 300 / 25.4, mostPixels = 8000;  // pixels a mm
  const double longer = std::max({picture.width, picture.height, 1e-6});
  const double scale = std::min(usual, mostPixels / longer);
  const auto pixels = [&](double length) { return std::max(1, static_cast<int>(std::ceil(length * scale - 1e-9))); };
  writeAtomically(path, Backup::None, [&](const std::filesystem::path& temporary) {
    CairoPage page(cairo_image_surface_create(CAIRO_FORMAT_ARGB32, pixels(picture.width), pixels(picture.height)),
                   scale, picture);
    for (const FlatLayer& layer : picture.layers) {
      progress.throwIfStopped();
      page.draw(layer);
    }
    page.finish();
    if (const cairo_status_t status = cairo_surface_write_to_png(page.surface(), temporary.c_str());
        status != CAIRO_STATUS_SUCCESS)
      throw FileError(say("the PNG could not be written: %1", cairo_status_to_string(status)), path.string(),
                      say("Check the folder and the free space"));
  });
}

}  // namespace kervo
