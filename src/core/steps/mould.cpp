// A block round bodies, hollowed by them and parted into two halves that can be drawn off.
#include <algorithm>
#include <cmath>

#include "base/quantity.h"
#include "base/say.h"
#include "fields/bodies_field.h"
#include "fields/choice_field.h"
#include "fields/number_field.h"
#include "fields/plane_field.h"
#include "geom/display/outline.h"
#include "geom/divide/partition.h"
#include "geom/divide/plane_split.h"
#include "geom/measure/box_along.h"
#include "geom/measure/undercuts.h"
#include "geom/motion.h"
#include "geom/planes.h"
#include "geom/primitives.h"
#include "geom/surface/parting.h"
#include "steps/registry.h"
#include "steps/shared/divided_bodies.h"
#include "steps/shared/key_work.h"

namespace kervo {

namespace {

class MouldHalves : public StepKind {
 public:
  MouldHalves()
      : StepKind({.key = "mould",
                  .label = "Mould halves",
                  .menu = KindMenu::Cut,
                  .verb = "Make mould halves",
                  .help = "A block round a body, hollowed by it and parted in two, with pegs and undercuts shown",
                  .takesMeshes = true,
                  .wells = {.stock = {"Bodies", "what is to be cast"},
                            .cutter = {"Parting", "where the halves meet"},
                            .reach = {"Block and pegs", "around it"}}}) {}

  void startFrom(const Selected& selected, Start& start) const override {
    start.set(bodies_, BodyPick::only(selected.bodies()));
    if (const auto plane = selected.plane())
      start.set(plane_, *plane);
    else if (!selected.box.empty())
      start.set(offset_, selected.inUnit(selected.box.centre().z));
  }

  StepResult evaluate(StepInputs& inputs, Progress& progress) const override {
    return Work(*this, inputs, progress).run();
  }

 private:
  enum class PartedBy { Plane, Silhouette, Surfaces };

  /// One evaluation.
  class Work {
   public:
    Work(const MouldHalves& fields, StepInputs& inputs, Progress& progress)
        : fields_(fields),
          inputs_(inputs),
          progress_(progress),
          picked_(fields.plane_.of(inputs)),
          plane_(picked_.moved(fields.offset_.of(inputs))) {}

    StepResult run() {
      takeBodies();
      layBlock();
      progress_.enter(0, 0.4, say("hollowing the block"));
      const Division hollowed = divide(block_, cast_, progress_);
      if (hollowed.inside.empty()) throw Error(say("the bodies are not inside of the block"));
      noteMeshed(result_.audit, hollowed.meshed);
      castVolume_ = hollowed.inside.volume();
      progress_.enter(0.4, 0.7, say("parting the block"));
      sort(parted(withoutCores(hollowed.outside)));
      progress_.enter(0.7, 0.9, say("placing pegs"));
      addPegs();
      progress_.enter(0.9, 1, say("looking for undercuts"));
      report();
      return std::move(result_);
    }

   private:
    /// A half with what is to be said about it.
    struct Half {
      const char* key;
      std::string name;
      bool up;
      std::vector<Shape> shapes;
    };

    /// The bodies as large as the hollow is to be: about the middle of the parting, which stays where it is.
    void takeBodies() {
      const double shrinks = fields_.shrinks_.of(inputs_) / 100;
      constexpr double most = 0.5;
      if (shrinks > most) fields_.shrinks_.fail(say("nothing shrinks by more than half"), say("Give less than 50"));
      Box around;
      std::vector<Shape> shapes;
      for (const BodyId& body : fields_.bodies_.of(inputs_)) {
        const Shape shape = inputs_.form(body).anyShape();
        if (!shape.hasInside())
          fields_.bodies_.fail(say("\"%1\" is no solid, and no mesh that closes", body), say("Choose solids"));
        around.add(shape.box());
        shapes.push_back(shape);
        bodies_.push_back(body);
      }
      if (shapes.empty()) fields_.bodies_.fail(say("no body is chosen"), say("Choose what is to be cast"));
      const Point middle = around.centre() - plane_.normal * plane_.signedDistance(around.centre());
      for (const Shape& shape : shapes)
        cast_.push_back(shrinks > 0 ? moved(shape, Motion::scale(middle, 1 / (1 - shrinks))) : shape);
    }

    static Box boxOf(const Shape& shape, const Plane& plane) {
      if (!shape.mesh()) return boxAlong(shape, plane);
      Box box;
      for (const Point& point : shape.mesh()->points()) box.add(plane.coordinates(point));
      return box;
    }

    void layBlock() {
      for (const Shape& shape : cast_) box_.add(boxOf(shape, plane_));
      const double wall = fields_.wall_.of(inputs_);
      box_.low = box_.low - Vector{wall, wall, fields_.below_.of(inputs_)};
      box_.high = box_.high + Vector{wall, wall, fields_.above_.of(inputs_)};
      if (box_.low.z > -tolerance::smallestSize || box_.high.z < tolerance::smallestSize)
        fields_.offset_.fail(
            say("the plane lies beside the block"),
            say("It is to cross the bodies: at %1 to %2 mm", formatNumber(fields_.offset_.of(inputs_) + box_.low.z, 6),
                formatNumber(fields_.offset_.of(inputs_) + box_.high.z, 6)));
      Plane corner = plane_;
      corner.origin = plane_.at(box_.low.x, box_.low.y, box_.low.z);
      const Vector size = box_.high - box_.low;
      block_ = makeBlock(inputs_.id() + ":block", corner, size.x, size.y, size.z);
    }

    /// What a hollow body encloses is left out: no half reaches it.
    Shape withoutCores(const Shape& hollowed) {
      const std::vector<Shape> lumps = hollowed.pieces();
      if (lumps.size() < 2) return hollowed;
      inputs_.warn(say("the bodies enclose a hollow that no half reaches: it is filled"));
      Shape outermost = lumps.front();
      for (const Shape& lump : lumps)
        if (lump.roughBox().diagonal() > outermost.roughBox().diagonal()) outermost = lump;
      for (const Shape& lump : lumps) coreVolume_ += lump.volume();
      coreVolume_ -= outermost.volume();
      return outermost;
    }

    std::vector<Shape> parted(const Shape& hollowed) {
      const PartedBy by = fields_.by_.of(inputs_);
      if (by == PartedBy::Plane) return partedAt(hollowed, 0);
      std::vector<Shape>& sheets = sheets_;
      if (by == PartedBy::Silhouette) {
        if (cast_.size() > 1 || cast_.front().mesh())
          fields_.by_.fail(cast_.size() > 1 ? say("the silhouettes of several bodies are not joined")
                                            : say("the silhouette of a mesh is not followed"),
                           say("Part by a plane or by surfaces, or take one exact body"));
        const Parting parting = partingFor(cast_.front(), plane_, 2 * length(box_.high - box_.low), name(), progress_);
        if (parting.level) {
          if (std::abs(*parting.level) > tolerance::point)
            result_.audit.notes.push_back(say("the halves meet %1 mm over the plane", formatNumber(*parting.level, 6)));
          return partedAt(hollowed, *parting.level);
        }
        sheets = parting.surfaces;
        constexpr double off = 0.05;  // mm beside sharp edges
        counts_ = off * parting.length;
      } else {
        for (const BodyId& body : fields_.surfaces_.of(inputs_)) {
          const Shape sheet = inputs_.shape(body);
          if (sheet.kind() != BodyKind::Surface)
            fields_.surfaces_.fail(say("\"%1\" is no surface", body), say("Choose surfaces"));
          sheets.push_back(sheet);
        }
        if (sheets.empty())
          fields_.surfaces_.fail(say("no surface is chosen"), say("Choose one that reaches through the block"));
      }
      for (const Shape& sheet : sheets)
        for (Polyline& line : edgeLines(sheet)) inputs_.finding().cutterOutline.push_back(std::move(line));
      std::vector<Shape> parts;
      for (const Part& part : partition({hollowed}, sheets, progress_).parts) parts.push_back(part.shape);
      return parts;
    }

    std::vector<Shape> partedAt(const Shape& hollowed, double height) {
      level_ = height;
      PlaneSplit split = splitByPlane(name(), hollowed, plane_.moved(height), {}, progress_);
      if (split.missed()) fields_.offset_.fail(say("the plane lies beside the block"), say("Move it to the bodies"));
      std::vector<Shape> parts = std::move(split.front);
      parts.insert(parts.end(), split.back.begin(), split.back.end());
      return parts;
    }

    std::string name() const { return inputs_.id() + ":parting"; }

    /// Which part belongs to which half: one reaches the block's top, one its bottom; lumps in between lie loose.
    void sort(const std::vector<Shape>& parts) {
      bool through = true;
      for (const Shape& part : parts) {
        const Box box = boxOf(part, plane_);
        const bool top = box.high.z > box_.high.z - tolerance::samePlace,
                   bottom = box.low.z < box_.low.z + tolerance::samePlace;
        through = through && !(top && bottom);
        (top ? front_ : bottom ? back_ : loose_).shapes.push_back(part);
      }
      if (through && !front_.shapes.empty() && !back_.shapes.empty()) return;
      if (fields_.by_.of(inputs_) == PartedBy::Surfaces)
        fields_.surfaces_.fail(say("the surfaces do not part the block: the halves still hold together"),
                               say("Extend them, and close every hole that one sees through with a surface"));
      fields_.by_.fail(say("the halves still hold together: the silhouette jumps, or hides a part of the body"),
                       say("Part them by a plane, or by surfaces of your own"));
    }

    void addPegs() {
      for (Half* half : {&front_, &back_}) finished_.push_back(half->shapes.front());
      pegless_ = finished_;
      const auto count = static_cast<std::size_t>(std::round(fields_.pegs_.of(inputs_)));
      if (count == 0) return;
      KeyWishes wishes;
      wishes.form.width = fields_.peg_.of(inputs_);
      wishes.form.taper = 0.1;  // so that they let go
      wishes.depth = wishes.form.width;
      wishes.form.tip = wishes.form.width / 10;
      wishes.clearance = fields_.clearance_.of(inputs_);
      wishes.endRoom = wishes.form.tip;
      wishes.wall = wishes.form.width / 2;
      KeyWork work(finished_, wishes, inputs_.id());
      // On the back half, into the front one, along the way in which they part.
      if (finished_.front().mesh())
        work.add(1, plane_, {0}, count, progress_);
      else
        addPegsOnFaces(work, count);
      if (work.count() < count)
        inputs_.warn(sayCount(work.count(), "there is room for %1 peg only: make the wall thicker or pegs smaller",
                              "there is room for %1 pegs only: make the wall thicker or pegs smaller"));
      if (work.count() == 0) return;
      const auto [finished, meshed] = work.finished(progress_);
      finished_ = finished;
      noteMeshed(result_.audit, meshed);
      result_.audit.notes.push_back(
          sayCount(work.count(), "%1 peg, %2 mm wide", "%1 pegs, %2 mm wide", formatNumber(wishes.form.width, 6)));
      if (overlapsAmong(finished_, progress_) > 0)
        inputs_.warn(say("put together, the halves overlap: give the pegs more clearance"));
    }

    /// Largest first, as many on each as its share of the area is.
    void addPegsOnFaces(KeyWork& work, std::size_t count) {
      std::vector<std::pair<double, Face>> faces;
      double sum = 0;
      constexpr double facing = 0.5;
      for (const Face& face : facesOf(finished_[1])) {
        const auto& origins = face.origins();
        const bool parting = std::any_of(origins.begin(), origins.end(),
                                         [&](const std::string& origin) { return origin.starts_with(name()); });
        const bool own = fields_.by_.of(inputs_) == PartedBy::Surfaces && !isOfBlockOrBody(origins);
        if ((!parting && !own) || dot(face.normal(), plane_.normal) < facing) continue;
        faces.emplace_back(face.area(), face);
        sum += face.area();
      }
      std::sort(faces.begin(), faces.end(), [](const auto& a, const auto& b) { return a.first > b.first; });
      for (const auto& [area, face] : faces) {
        if (work.count() >= count) break;
        const auto share = static_cast<std::size_t>(std::ceil(static_cast<double>(count) * area / sum - 0.01));
        work.add(1, face, {0}, plane_.normal, std::min(share, count - work.count()), progress_);
      }
    }

    bool isOfBlockOrBody(const std::vector<std::string>& origins) const {
      return std::any_of(origins.begin(), origins.end(), [&](const std::string& origin) {
        if (origin.starts_with(inputs_.id() + ":block")) return true;
        return std::any_of(cast_.begin(), cast_.end(), [&](const Shape& shape) {
          const std::vector<Face> faces = facesOf(shape);
          return std::any_of(faces.begin(), faces.end(), [&](const Face& face) {
            const auto& own = face.origins();
            return std::find(own.begin(), own.end(), origin) != own.end();
          });
        });
      });
    }

    void report() {
      Audit& audit = result_.audit;
      audit.touched = bodies_;
      const Vector size = box_.high - box_.low;
      audit.notes.insert(audit.notes.begin(),
                         say("block of %1 × %2 × %3 mm, the hollow takes %4 cm³", formatNumber(size.x, 6),
                             formatNumber(size.y, 6), formatNumber(size.z, 6), formatNumber(castVolume_ / 1000, 6)));
      double parts = castVolume_ + coreVolume_;
      for (std::size_t i = 0; i < 2; ++i) {
        const Half& half = i == 0 ? front_ : back_;
        add(half, finished_[i], half.name);
        parts += pegless_[i].volume();
      }
      lookForUndercuts();
      std::size_t loose = 0;
      for (Half* half : {&front_, &back_, &loose_})
        for (std::size_t i = half == &loose_ ? 0 : 1; i < half->shapes.size(); ++i) {
          parts += half->shapes[i].volume();
          add(loose_, half->shapes[i], say("Loose part %1", ++loose));
        }
      if (loose > 0)
        inputs_.warn(sayCount(loose, "%1 part of the block hangs at neither half",
                              "%1 parts of the block hang at neither half"));
      constexpr double off = 1e-5;
      if (const double missing = block_.volume() - parts; std::abs(missing) > off * block_.volume())
        inputs_.warn(say("halves, hollow and loose parts miss %1 mm³ of the block", formatNumber(missing, 4)));
      result_.gauges.push_back({fields_.offset_.key(), plane_.origin - plane_.normal * fields_.offset_.of(inputs_),
                                plane_.normal, fields_.offset_.of(inputs_)});
      const Plane& at = plane_;
      const Point side = at.at(box_.high.x - fields_.wall_.of(inputs_), (box_.low.y + box_.high.y) / 2, 0);
      result_.gauges.push_back({fields_.wall_.key(), side, at.x, fields_.wall_.of(inputs_)});
      result_.cutterOutline = inputs_.finding().cutterOutline;
      inputs_.finding().cutterOutline.clear();
    }

    void add(const Half& half, const Shape& shape, const std::string& called) {
      const std::string number = half.key == loose_.key ? std::to_string(++looseMade_) : "";
      const BodyId id = inputs_.id() + "/" + half.key + number;
      result_.made.push_back({.id = id, .form = BodyForm(shape), .name = called});
      result_.pieces.push_back(Piece::whole(called, id, shape));
      result_.audit.volumeAfter += shape.volume();
      result_.audit.valid = result_.audit.valid && shape.valid();
      result_.audit.watertight = result_.audit.watertight && shape.watertight();
    }

    void lookForUndercuts() {
      const UndercutsOfHalves found = undercutsOf(cast_, plane_, {level_, level_ ? Shape() : pegless_.back()},
                                                  fields_.draft_.of(inputs_), progress_);
      tell(front_, found.front);
      tell(back_, found.back);
      if (fields_.by_.of(inputs_) != PartedBy::Surfaces) return;
      const Facing facing = facingOf(sheets_, plane_, box_, progress_);
      constexpr double share = 0.01;
      if (std::min(facing.along, facing.against) > share * std::max(facing.along, facing.against))
        inputs_.warn(say("the surfaces fold over, or look to different sides: the halves may catch each other"));
    }

    void tell(const Half& half, const Undercuts& found) {
      if (found.area > counts_) {
        inputs_.warn(say("%1: undercuts of %2 mm² hold it", half.name, formatNumber(found.area, 5)));
        for (const Polyline& line : found.lines) inputs_.finding().gap.push_back(line);
      } else {
        result_.audit.notes.push_back(say("%1: no undercuts", half.name));
      }
      if (found.steep > 1)
        result_.audit.notes.push_back(
            say("%1: %2 mm² lean less than the least draft", half.name, formatNumber(found.steep, 5)));
    }

    const MouldHalves& fields_;
    StepInputs& inputs_;
    Progress& progress_;
    const Plane picked_;
    const Plane plane_;
    std::vector<BodyId> bodies_;
    std::vector<Shape> cast_;  ///< the bodies, as large as they are cast
    Box box_;                  ///< of the block, in the plane's coordinates
    Shape block_;
    double castVolume_ = 0, coreVolume_ = 0;  ///< of the bodies, and of what they enclose
    Half front_{"front", say("Front half"), true, {}}, back_{"back", say("Back half"), false, {}},
        loose_{"loose", "", true, {}};
    std::vector<Shape> pegless_, finished_;
    std::vector<Shape> sheets_;         ///< between the halves, unless they meet
    std::optional<double> level_ = {};  ///< at this height over the plane
    int looseMade_ = 0;
    double counts_ = 0.01;  ///< from which undercuts count, mm²
    StepResult result_;
  };

  const BodiesField bodies_{*this, {.key = "bodies", .label = "Bodies", .well = Well::Stock}, BodyPick::only({})};
  const PlainNumberField shrinks_{*this,
                                  {.key = "shrinks",
                                   .label = "Shrinks by",
                                   .well = Well::Stock,
                                   .help = "% of the hollow's size, which is larger for it"},
                                  "0",
                                  NumberRule::NotNegative};
  const ChoiceField<PartedBy> by_{*this,
                                  {.key = "by",
                                   .label = "Parted by",
                                   .well = Well::Cutter,
                                   .help = "silhouette: round it, as near to the plane as walls leave free"},
                                  {"plane", "silhouette", "surfaces"}};
  const PlaneField plane_{
      *this,
      {.key = "plane", .label = "Plane", .well = Well::Cutter, .help = "the halves are drawn off along its normal"}};
  const LengthField offset_{*this, {.key = "offset", .label = "Offset", .well = Well::Cutter}, "0 mm"};
  const BodiesField surfaces_{*this,
                              {.key = "surfaces",
                               .label = "Surfaces",
                               .well = Well::Cutter,
                               .help = "through the whole block, and across holes",
                               .when = by_.is(PartedBy::Surfaces)},
                              BodyPick::only({})};
  const AngleField draft_{
      *this,
      {.key = "draft", .label = "Least draft", .well = Well::Cutter, .help = "walls that lean less are counted"},
      "1 deg"};
  const LengthField wall_{*this,
                          {.key = "wall", .label = "Wall", .well = Well::Reach, .help = "of the block, at its sides"},
                          "15 mm",
                          NumberRule::Positive};
  const LengthField above_{
      *this, {.key = "above", .label = "Above", .well = Well::Reach}, "15 mm", NumberRule::Positive};
  const LengthField below_{
      *this, {.key = "below", .label = "Below", .well = Well::Reach}, "15 mm", NumberRule::Positive};
  const PlainNumberField pegs_{
      *this, {.key = "pegs", .label = "Pegs", .well = Well::Reach, .help = "0: none"}, "4", NumberRule::NotNegative};
  const LengthField peg_{
      *this, {.key = "peg", .label = "Peg's width", .well = Well::Reach}, "6 mm", NumberRule::Positive};
  const LengthField clearance_{
      *this,
      {.key = "clearance", .label = "Clearance", .well = Well::Reach, .help = "on each side of a peg"},
      "0.1 mm",
      NumberRule::NotNegative};
};

}  // namespace

const StepKind& mouldStep() {
  static const MouldHalves kind;
  return kind;
}

}  // namespace kervo
