#include "exchange/pdf_file.h"

#include <cairo-pdf.h>

#include "base/say.h"
#include "exchange/atomic_file.h"
#include "exchange/cairo_page.h"

namespace kervo {

namespace {

constexpr double pointsPerMillimetre = 72 / 25.4;

}  // namespace

const Format& pdfFormat() {
  static const Format format{.name = "PDF",
                             .extensions = {".pdf"},
                             .mimeTypes = {"application/pdf"},
                             .holds = Format::Holds::Curves,
                             .carries = later("outlines and fills on a page"),
                             .writePicture = writePdf};
  return format;
}

void writePdf(const std::filesystem::path& path, const FlatPicture& picture, Progress& progress) {
  writeAtomically(path, Backup::None, [&](const std::filesystem::path& temporary) {
    cairo_surface_t* surface = cairo_pdf_surface_create(temporary.c_str(), picture.width * pointsPerMillimetre,
                                                        picture.height * pointsPerMillimetre);
    if (!picture.title.empty())
      cairo_pdf_surface_set_metadata(surface, CAIRO_PDF_METADATA_TITLE, picture.title.c_str());
    CairoPage page(surface, pointsPerMillimetre, picture);
    for (const FlatLayer& layer : picture.layers) {
      progress.throwIfStopped();
      page.draw(layer);
    }
    page.finish();
  });
}

}  // namespace kervo
