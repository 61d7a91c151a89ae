#include "drawing/text_outline.h"

#include <ft2build.h>
#include FT_FREETYPE_H
#include FT_OUTLINE_H
#include FT_TRUETYPE_TABLES_H
#include <hb-ot.h>
#include <hb.h>

#include <memory>
#include <mutex>

#include "base/error.h"
#include "base/say.h"
#include "drawing/text_font.h"

namespace kervo {

namespace {

/// The font, read once. FreeType's faces are used by one thread at a time.
class Font {
 public:
  static Font& get() {
    static Font font;
    return font;
  }

  struct Letter {
    std::uint32_t glyph, cluster;
    PlanePoint at;  ///< in font units
  };

  std::vector<Letter> shaped(const std::string& text) const {
    const std::unique_ptr<hb_buffer_t, void (*)(hb_buffer_t*)> buffer(hb_buffer_create(), hb_buffer_destroy);
    hb_buffer_add_utf8(buffer.get(), text.data(), static_cast<int>(text.size()), 0, static_cast<int>(text.size()));
    hb_buffer_guess_segment_properties(buffer.get());
    hb_shape(shaper_, buffer.get(), nullptr, 0);
    unsigned count = 0;
    const hb_glyph_info_t* glyphs = hb_buffer_get_glyph_infos(buffer.get(), &count);
    const hb_glyph_position_t* places = hb_buffer_get_glyph_positions(buffer.get(), &count);
    std::vector<Letter> letters;
    PlanePoint pen;
    for (unsigned i = 0; i < count; ++i) {
      letters.push_back(
          {glyphs[i].codepoint, glyphs[i].cluster,
           pen + PlanePoint{static_cast<double>(places[i].x_offset), static_cast<double>(places[i].y_offset)}});
      pen = pen + PlanePoint{static_cast<double>(places[i].x_advance), static_cast<double>(places[i].y_advance)};
    }
    return letters;
  }

  /// The outline of a glyph, in font units. While the lock is held.
  const FT_Outline& outline(std::uint32_t glyph) const {
    if (FT_Load_Glyph(face_, glyph, FT_LOAD_NO_SCALE) != 0)
      throw Error(say("a letter of the font cannot be read"), "", say("Use other letters"));
    return face_->glyph->outline;
  }
  double capitals() const { return capitals_; }
  std::mutex& lock() { return lock_; }

 private:
  Font() {
    const std::span<const unsigned char> file = textFont();
    if (FT_Init_FreeType(&library_) != 0 ||
        FT_New_Memory_Face(library_, file.data(), static_cast<FT_Long>(file.size()), 0, &face_) != 0)
      throw Error(say("the font of drawn text cannot be read"), "", say("Install the program again"));
    const auto* table = static_cast<const TT_OS2*>(FT_Get_Sfnt_Table(face_, FT_SFNT_OS2));
    capitals_ = table && table->sCapHeight > 0 ? table->sCapHeight : 0.7 * face_->units_per_EM;
    hb_blob_t* blob = hb_blob_create(reinterpret_cast<const char*>(file.data()), static_cast<unsigned>(file.size()),
                                     HB_MEMORY_MODE_READONLY, nullptr, nullptr);
    hb_face_t* face = hb_face_create(blob, 0);
    shaper_ = hb_font_create(face);
    hb_ot_font_set_funcs(shaper_);
    hb_face_destroy(face);
    hb_blob_destroy(blob);
  }

  FT_Library library_ = nullptr;
  FT_Face face_ = nullptr;
  hb_font_t* shaper_ = nullptr;
  double capitals_ = 1;
  std::mutex lock_;
};

/// Takes the pieces of a glyph's outline.
class Pen {
 public:
  Pen(double scale, PlanePoint at, const PlaneMotion& motion) : scale_(scale), at_(at), motion_(motion) {}

  void draw(const FT_Outline& outline) {
    FT_Outline_Funcs functions{};
    functions.move_to = [](const FT_Vector* to, void* pen) { return static_cast<Pen*>(pen)->moveTo(*to); };
    functions.line_to = [](const FT_Vector* to, void* pen) { return static_cast<Pen*>(pen)->curveTo({*to}); };
    functions.conic_to = [](const FT_Vector* by, const FT_Vector* to, void* pen) {
      return static_cast<Pen*>(pen)->curveTo({*by, *to});
    };
    functions.cubic_to = [](const FT_Vector* a, const FT_Vector* b, const FT_Vector* to, void* pen) {
      return static_cast<Pen*>(pen)->curveTo({*a, *b, *to});
    };
    FT_Outline copy = outline;
    if (FT_Outline_Decompose(&copy, &functions, this) != 0)
      throw Error(say("a letter of the font cannot be read"), "", say("Use other letters"));
    close();
  }

  std::vector<std::shared_ptr<const PlaneCurve>> curves;

 private:
  PlanePoint place(const FT_Vector& v) const {
    return motion_((PlanePoint{static_cast<double>(v.x), static_cast<double>(v.y)} + at_) * scale_);
  }
  int moveTo(const FT_Vector& to) {
    close();
    start_ = last_ = place(to);
    return 0;
  }
  int curveTo(std::initializer_list<FT_Vector> through) {
    std::vector<PlanePoint> poles{last_};
    for (const FT_Vector& each : through) poles.push_back(place(each));
    add(std::move(poles));
    return 0;
  }
  void close() { add({last_, start_}); }
  void add(std::vector<PlanePoint> poles) {
    last_ = poles.back();
    double length = 0;
    for (std::size_t i = 1; i < poles.size(); ++i) length += distance(poles[i - 1], poles[i]);
    if (length < tolerance::smallestSize) return;
    if (poles.size() == 2)
      curves.push_back(std::make_shared<const LineCurve>(poles[0], poles[1]));
    else
      curves.push_back(std::make_shared<const SplineCurve>(
          Spline::controlled(static_cast<int>(poles.size()) - 1, poles, {}, false)));
  }

  double scale_;
  PlanePoint at_;
  PlaneMotion motion_;
  PlanePoint start_, last_;
};

/// The letter that begins there.
std::string letterAt(const std::string& text, std::size_t at) {
  std::size_t end = at + 1;
  while (end < text.size() && (static_cast<unsigned char>(text[end]) & 0xC0) == 0x80) ++end;
  return text.substr(at, end - at);
}

}  // namespace

std::vector<PlanarCurve> textOutline(const std::string& id, const std::string& text, double height,
                                     const PlaneMotion& motion) {
  const std::string place = say("curve \"%1\"", id);
  if (!(height >= tolerance::smallestSize && height <= tolerance::largestSize))
    throw Error(say("the height of the text is not greater than zero"), place, say("Type another height"));
  Font& font = Font::get();
  const std::lock_guard lock(font.lock());
  std::vector<PlanarCurve> curves;
  int number = 0;
  for (const Font::Letter& letter : font.shaped(text)) {
    if (letter.glyph == 0)
      throw Error(say("the font has no letter \"%1\"", letterAt(text, letter.cluster)), place,
                  say("Leave it out, or write it otherwise"));
    Pen pen(height / font.capitals(), letter.at, motion);
    pen.draw(font.outline(letter.glyph));
    ++number;
    int count = 0;
    for (auto& curve : pen.curves)
      curves.emplace_back(id + ":" + std::to_string(number) + "." + std::to_string(++count), std::move(curve));
  }
  if (curves.empty())
    throw Error(say("there is nothing to be seen of the text \"%1\"", text), place, say("Type some letters"));
  return curves;
}

}  // namespace kervo
