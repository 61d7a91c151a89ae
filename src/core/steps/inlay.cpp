// Drawn regions laid onto a face: engraved or raised, with bodies that fill them.
#include <algorithm>
#include <utility>

#include "base/quantity.h"
#include "base/say.h"
#include "fields/face_field.h"
#include "fields/flag_field.h"
#include "fields/text_field.h"
#include "geom/display/outline.h"
#include "geom/openings/flush_cut.h"
#include "geom/surface/engraved.h"
#include "geom/surface/inlaid.h"
#include "geom/sweep/inset_region.h"
#include "geom/tolerances.h"
#include "steps/registry.h"
#include "steps/shared/changed_bodies.h"
#include "steps/shared/divided_bodies.h"
#include "steps/shared/ink.h"

namespace kervo {

namespace {

class Inlay : public StepKind {
 public:
  Inlay()
      : StepKind({.key = "inlay",
                  .label = "Inlay",
                  .menu = KindMenu::Cut,
                  .verb = "Engrave or inlay",
                  .shortcut = "Ctrl+Alt+N",
                  .help = "A drawing or text on a face: engraved, raised, filled with coloured bodies",
                  .wells = {.stock = {"Face", "what it goes onto"},
                            .cutter = {"Drawing", "what is laid onto it"},
                            .reach = {"Inlay", "where, and how deep"}}}) {}

  void startFrom(const Selected& selected, Start& start) const override {
    start.set(profiles_, RegionPick{selected.drawing});
    if (const auto faces = selected.faces(); !faces.empty()) start.set(face_, faces.front());
  }
  std::optional<std::string> offered(const Selected& selected) const override {
    const bool drawn = selected.anyOf(Picked::What::Drawing) || !selected.drawing.empty();
    return drawn && selected.anyOf(Picked::What::Face) ? std::optional(say("Engrave %1 on it", selected.drawingName))
                                                       : std::nullopt;
  }

  StepResult evaluate(StepInputs& inputs, Progress& progress) const override {
    return Work(*this, inputs, progress).run();
  }

 private:
  enum class Way { Engraved, Raised };
  enum class Filling { None, Bodies };

  class Work {
   public:
    Work(const Inlay& fields, StepInputs& inputs, Progress& progress)
        : fields_(fields),
          inputs_(inputs),
          progress_(progress),
          face_(fields.face_.of(inputs)),
          body_(bodyOf()),
          shape_(inputs.shape(body_)),
          deep_(fields.depth_.of(inputs)),
          raised_(fields.way_.of(inputs) == Way::Raised),
          filled_(fields.filling_.of(inputs) == Filling::Bodies) {
      wishes_.laying = fields.laying_.of(inputs);
      wishes_.place = {fields.x_.of(inputs), fields.y_.of(inputs), fields.turn_.of(inputs), fields.scale_.of(inputs)};
      wishes_.draft = fields.draft_.of(inputs);
    }

    StepResult run() {
      if (inputs_.shielded(body_))
        fields_.face_.fail(say("\"%1\" is shielded and stays as it is", body_), say("Unshield it, or choose another"));
      takeRegions();
      show();
      inputs_.finding().gauges = result_.gauges;
      if (!(raised_ && filled_)) shapeStock();
      if (filled_) fill();
      note();
      inputs_.finding().gauges.clear();
      settlePieces(result_, inputs_, fields_.pieces_.in(inputs_));
      return std::move(result_);
    }

   private:
    struct Group {
      std::vector<Region> regions;
      std::optional<Color> color;
    };

    BodyId bodyOf() {
      for (const BodyId& body : inputs_.members(fields_.face_.in(inputs_).body))
        if (!inputs_.isMesh(body))
          for (const Face& face : facesOf(inputs_.shape(body)))
            if (isSameFace(face, face_)) return body;
      fields_.face_.fail(say("the face is on none of the bodies"), say("Pick a face of a body"));
    }

    std::optional<Color> colorOf(const TextField& field) const {
      const std::string& text = field.of(inputs_);
      if (text.empty()) return std::nullopt;
      const std::optional<Color> color = colorFromText(text);
      if (!color) field.fail(say("\"%1\" is not a colour", text), say("Write it like #d9a25e, or leave it empty"));
      return color;
    }

    std::vector<Region> regionsOf(const RegionsField& field) {
      const std::vector<Region> all = field.of(inputs_);
      std::vector<Region> wanted = field.in(inputs_).all ? inked(all) : all;
      leftOut_ += all.size() - wanted.size();
      return wanted;
    }

    void takeRegions() {
      groups_.push_back({regionsOf(fields_.profiles_), filled_ ? colorOf(fields_.color_) : std::nullopt});
      plane_ = fields_.profiles_.drawing(inputs_).plane;
      if (filled_ && !fields_.more_.in(inputs_).drawing.empty())
        groups_.push_back({regionsOf(fields_.more_), colorOf(fields_.moreColor_)});
      for (const Group& group : groups_) all_.insert(all_.end(), group.regions.begin(), group.regions.end());
    }

    /// So far beyond the face that it is cut clearly, but less than it is bent.
    double overlap() const {
      if (face_.plane()) return 0;
      constexpr double share = 0.05;
      return std::min(share * shape_.roughBox().diagonal(), deep_);
    }

    std::vector<Shape> laid(const std::vector<Region>& regions, double from, double to) {
      InlayWishes wishes = wishes_;
      wishes.from = from;
      wishes.to = to;
      try {
        return inlaid(regions, face_, wishes, inputs_.id(), progress_);
      } catch (const Error& error) {
        throw error.within(fields_.face_.place());
      }
    }

    void shapeStock() {
      const std::vector<Shape> solids = raised_ ? laid(all_, 0, deep_) : laid(all_, -deep_, 0);
      for (const Shape& solid : solids)
        for (Polyline& line : edgeLines(solid)) result_.cutterOutline.push_back(std::move(line));
      if (!raised_ && face_.plane()) {
        addDivided(result_, inputs_, body_, cutFlush(shape_, solids, progress_));
        return;
      }
      const auto reaching = [&](std::size_t i) {
        return raised_ ? laid({all_[i]}, -overlap(), deep_).front() : laid({all_[i]}, -deep_, overlap()).front();
      };
      const Division division =
          engraved(shape_, face_, raised_ ? Relief::Added : Relief::Taken, solids, reaching, progress_);
      if (raised_)
        replaceBody(result_, body_, shape_, division.outside);
      else
        addDivided(result_, inputs_, body_, division);
    }

    void fill() {
      const double gap = raised_ ? 0 : fields_.gap_.of(inputs_), proud = raised_ ? deep_ : fields_.proud_.of(inputs_);
      const double floor = raised_ ? 0 : gap - deep_;
      if (!raised_ && proud - floor < tolerance::smallestSize)
        fields_.proud_.fail(say("nothing is left of the filling: it would be %1 mm thick", formatNumber(proud - floor)),
                            say("Let it be less sunk, or give the inlay more depth"));
      int number = 0;
      for (const Group& group : groups_)
        for (const Region& region : group.regions) {
          progress_.throwIfStopped();
          ++number;
          const std::vector<Region> parts = gap > 0 ? inset(region, gap) : std::vector<Region>{region};
          if (parts.empty())
            inputs_.warn(say("a region is too narrow for a gap of %1 mm: it gets no filling", formatNumber(gap)));
          int part = 0;
          for (const Region& each : parts) {
            ++part;
            addFilling(filling(each, floor, proud),
                       region.name() + (parts.size() > 1 ? " " + std::to_string(part) : ""), number, group.color);
          }
        }
    }

    /// Leaning walls lean as those of the stock, whatever its top.
    Shape filling(const Region& region, double floor, double top) {
      if (wishes_.draft == 0 || raised_ || top == 0) return laid({region}, floor, top).front();
      const Shape flush = laid({region}, floor, 0).front();
      const double draft = std::exchange(wishes_.draft, 0);
      const Shape straight = top < 0 ? laid({region}, floor, top).front() : laid({region}, 0, top).front();
      wishes_.draft = draft;
      return top < 0 ? intersect({flush, straight}, progress_) : unite({flush, straight}, progress_).shape;
    }

    void addFilling(const Shape& shape, std::string key, int number, const std::optional<Color>& color) {
      std::replace_if(
          key.begin(), key.end(), [](char c) { return c == '.' || c == '/'; }, '_');
      const BodyId id = BodyId(inputs_.id()).part(key);
      const std::string name = say("Filling %1", number);
      result_.pieces.push_back(Piece::whole(name, id, shape));
      result_.pieces.back().key = id;
      result_.made.push_back({.id = id, .form = shape, .name = name, .color = color});
      volumeFilled_ += shape.volume();
      ++fillings_;
    }

    void note() {
      double area = 0;
      for (const Region& region : all_) area += region.area() * wishes_.place.scale * wishes_.place.scale;
      result_.audit.notes.push_back(
          sayCount(all_.size(), "%1 region, %2 as drawn", "%1 regions, %2 as drawn", formatNumber(area, 5) + " mm²"));
      if (leftOut_ > 0)
        result_.audit.notes.push_back(
            sayCount(leftOut_, "%1 region that outlines enclose twice stays, like the eye of a letter",
                     "%1 regions that outlines enclose twice stay, like the eyes of letters"));
      if (fillings_ > 0)
        result_.audit.notes.push_back(
            sayCount(fillings_, "%1 filling, %2", "%1 fillings, %2", formatNumber(volumeFilled_, 5) + " mm³"));
      if (raised_ && filled_) result_.audit.touched.push_back(body_);
    }

    void show() {
      InlayWishes unmoved = wishes_;
      unmoved.place.x = unmoved.place.y = unmoved.place.turn = 0;
      Plane base, now;
      try {
        base = inlayAnchor(plane_, face_, unmoved);
        now = inlayAnchor(plane_, face_, wishes_);
      } catch (const Error& error) {
        throw error.within(fields_.face_.place());
      }
      result_.gauges.push_back({fields_.depth_.key(), now.origin, raised_ ? now.normal : -now.normal, deep_});
      Gauge along{fields_.x_.key(), base.origin, base.x, wishes_.place.x};
      Gauge across{fields_.y_.key(), base.origin, base.y, wishes_.place.y};
      along.grip = across.grip = now.origin;
      result_.gauges.push_back(along);
      result_.gauges.push_back(across);
      Box around;
      for (const Region& region : all_)
        for (const auto& line : region.outlines())
          for (const PlanePoint& point : line) around.add(Point{point.u, point.v, 0});
      constexpr double arm = 0.6;
      result_.gauges.push_back(Gauge::angle(fields_.turn_.key(), now.origin, cross(base.x, base.y), base.x,
                                            arm * wishes_.place.scale * around.diagonal(), wishes_.place.turn));
    }

    const Inlay& fields_;
    StepInputs& inputs_;
    Progress& progress_;
    Face face_;
    BodyId body_;
    Shape shape_;
    double deep_;
    bool raised_, filled_;
    InlayWishes wishes_;
    Plane plane_;
    std::vector<Group> groups_;
    std::vector<Region> all_;
    std::size_t fillings_ = 0, leftOut_ = 0;
    double volumeFilled_ = 0;
    StepResult result_;
  };

  const FaceField face_{*this, {.key = "face", .label = "Face", .well = Well::Stock}};
  const RegionsField profiles_{*this,
                               {.key = "profiles",
                                .label = "Regions",
                                .well = Well::Cutter,
                                .help = "all of a drawing: letters without their eyes"}};
  const ChoiceField<Laying> laying_{
      *this,
      {.key = "laying",
       .label = "Laid on",
       .well = Well::Cutter,
       .help =
           "wrapped: with true lengths, from the place nearest to the drawing's origin; projected: along its normal"},
      {"wrapped", "projected"}};
  const ChoiceField<Way> way_{
      *this, {.key = "way", .label = "Inlay", .well = Well::Reach, .telling = true}, {"engraved", "raised"}};
  const LengthField depth_{
      *this,
      {.key = "depth", .label = "Depth", .well = Well::Reach, .help = "or height, along the face's normal"},
      "1 mm",
      NumberRule::Positive};
  const AngleField draft_{
      *this,
      {.key = "draft", .label = "Draft", .well = Well::Reach, .help = "walls lean inwards; flat faces only"},
      "0 deg"};
  const LengthField x_{
      *this, {.key = "x", .label = "Along", .well = Well::Reach, .help = "the drawing's x, on the face"}, "0 mm"};
  const LengthField y_{
      *this, {.key = "y", .label = "Across", .well = Well::Reach, .help = "the drawing's y, on the face"}, "0 mm"};
  const AngleField turn_{*this, {.key = "turn", .label = "Turned", .well = Well::Reach}, "0 deg"};
  const PlainNumberField scale_{
      *this, {.key = "scale", .label = "Scale", .well = Well::Reach}, "1", NumberRule::Positive};
  const ChoiceField<Filling> filling_{*this,
                                      {.key = "filling",
                                       .label = "Filling",
                                       .well = Well::Reach,
                                       .help = "bodies: one for each region; of a raised inlay instead of joining it"},
                                      {"none", "bodies"}};
  const LengthField proud_{*this,
                           {.key = "proud",
                            .label = "Proud by",
                            .well = Well::Reach,
                            .help = "of the face; 0: flush, less than zero: sunk",
                            .when = filling_.is(Filling::Bodies)},
                           "0 mm"};
  const LengthField gap_{*this,
                         {.key = "gap",
                          .label = "Gap",
                          .well = Well::Reach,
                          .help = "between a filling and the walls and floor",
                          .when = filling_.is(Filling::Bodies)},
                         "0 mm",
                         NumberRule::NotNegative};
  const TextField color_{*this,
                         {.key = "color",
                          .label = "Colour",
                          .well = Well::Reach,
                          .help = "of its fillings: #d9a25e, for example",
                          .when = filling_.is(Filling::Bodies)}};
  const RegionsField more_{*this,
                           {.key = "more",
                            .label = "More regions",
                            .well = Well::Reach,
                            .help = "in the second colour",
                            .when = filling_.is(Filling::Bodies)}};
  const TextField moreColor_{
      *this,
      {.key = "more_color", .label = "Second colour", .well = Well::Reach, .when = filling_.is(Filling::Bodies)}};
  const PiecesField pieces_{*this};
};

}  // namespace

const StepKind& inlayStep() {
  static const Inlay kind;
  return kind;
}

}  // namespace kervo
