// Flat pictures drawn by cairo, for pages and images.
#pragma once

#include <cairo.h>

#include <array>
#include <memory>

#include "base/error.h"
#include "base/say.h"
#include "exchange/flat_picture.h"

namespace kervo {

/// A page that lines and fills are drawn on. For src/core/exchange only.
class CairoPage {
 public:
  /// `surface`: taken over. `perMillimetre`: its units a mm of the picture.
  CairoPage(cairo_surface_t* surface, double perMillimetre, const FlatPicture& picture)
      : height_(picture.height),
        surface_(surface, cairo_surface_destroy),
        page_(cairo_create(surface_.get()), cairo_destroy) {
    cairo_scale(page_.get(), perMillimetre, perMillimetre);
    cairo_set_line_join(page_.get(), CAIRO_LINE_JOIN_ROUND);
    cairo_set_fill_rule(page_.get(), CAIRO_FILL_RULE_EVEN_ODD);
  }

  void draw(const FlatLayer& layer) {
    for (const FlatFill& fill : layer.fills) draw(fill, layer.ink);
    ink(layer.ink);
    cairo_set_line_width(page_.get(), layer.width);
    const std::array<double, 2> dashes{layer.dash, layer.gap};
    cairo_set_dash(page_.get(), dashes.data(), layer.dash > 0 ? 2 : 0, 0);
    for (const FlatChain& chain : layer.chains) {
      follow(chain);
      cairo_stroke(page_.get());
    }
    cairo_set_dash(page_.get(), nullptr, 0, 0);
  }
  /// Throws FileError if anything could not be written.
  void finish() {
    cairo_show_page(page_.get());
    if (cairo_surface_get_type(surface_.get()) == CAIRO_SURFACE_TYPE_IMAGE)
      cairo_surface_flush(surface_.get());
    else
      cairo_surface_finish(surface_.get());
    for (const cairo_status_t status : {cairo_status(page_.get()), cairo_surface_status(surface_.get())})
      if (status != CAIRO_STATUS_SUCCESS)
        throw FileError(say("the picture could not be drawn: %1", cairo_status_to_string(status)), "",
                        say("Check the space on the disk"));
  }
  cairo_surface_t* surface() const { return surface_.get(); }

 private:
  void ink(Color color) { cairo_set_source_rgb(page_.get(), color.red, color.green, color.blue); }
  void move(PlanePoint to) { cairo_move_to(page_.get(), to.u, height_ - to.v); }
  void line(PlanePoint to) { cairo_line_to(page_.get(), to.u, height_ - to.v); }
  void follow(const FlatChain& chain) {
    const RunOfChain run = runOf(chain);
    move(run.start);
    for (const Cubic& c : cubicsOf(chain)) {
      if (c.straight)
        line(c.to);
      else
        cairo_curve_to(page_.get(), c.first.u, height_ - c.first.v, c.second.u, height_ - c.second.v, c.to.u,
                       height_ - c.to.v);
    }
    if (run.closed) cairo_close_path(page_.get());
  }
  void draw(const FlatFill& fill, Color lines) {
    for (const FlatChain& loop : fill.loops) follow(loop);
    ink(fill.color);
    cairo_fill(page_.get());
    if (fill.hatch.empty()) return;
    cairo_save(page_.get());
    for (const FlatChain& loop : fill.loops) follow(loop);
    cairo_clip(page_.get());
    ink(lines);
    cairo_set_line_width(page_.get(), 0.13);
    const PlaneBox box = boxOf(fill.loops);
    for (const HatchLines& family : fill.hatch) {
      const std::array<double, 2> dashes{family.dash, family.gap};
      cairo_set_dash(page_.get(), dashes.data(), family.dash > 0 ? 2 : 0, 0);
      for (const auto& [from, to] : hatchAcross(family, box)) {
        move(from);
        line(to);
      }
      cairo_stroke(page_.get());
    }
    cairo_restore(page_.get());
  }

  double height_;
  std::unique_ptr<cairo_surface_t, decltype(&cairo_surface_destroy)> surface_;
  std::unique_ptr<cairo_t, decltype(&cairo_destroy)> page_;
};

}  // namespace kervo
