// Bodies cut into pieces that fit a box, keyed to each other, and laid down on their best faces.
#include <algorithm>
#include <array>
#include <cmath>

#include "base/quantity.h"
#include "base/say.h"
#include "drawing/regions.h"
#include "drawing/text_outline.h"
#include "fields/bodies_field.h"
#include "fields/choice_field.h"
#include "fields/flag_field.h"
#include "fields/number_field.h"
#include "geom/display/outline.h"
#include "geom/divide/plane_split.h"
#include "geom/flat/section_face.h"
#include "geom/motion.h"
#include "geom/surface/best_floor.h"
#include "geom/surface/key_places.h"
#include "geom/sweep/sweep.h"
#include "steps/registry.h"
#include "steps/shared/divided_bodies.h"
#include "steps/shared/ink.h"
#include "steps/shared/key_work.h"

namespace kervo {

namespace {

class BuildSize : public StepKind {
 public:
  BuildSize()
      : StepKind({.key = "build_size",
                  .label = "Cut for a build size",
                  .menu = KindMenu::Cut,
                  .verb = "Cut for a build size",
                  .help = "Into pieces that fit a printer, keyed to each other, each laid on its best face",
                  .takesMeshes = true,
                  .wells = {.cutter = {"Build size", "what every piece fits"}, .reach = {"Keys", "how pieces meet"}},
                  .command = "buildbox"}) {}

  void startFrom(const Selected& selected, Start& start) const override {
    start.set(stock_, BodyPick::only(selected.bodies()));
  }

  StepResult evaluate(StepInputs& inputs, Progress& progress) const override {
    StepResult result;
    const Stock stock = stockOf(inputs, stock_);
    result.audit.shielded = stock.shielded;
    double laid = 0;  // where the next piece is laid down
    for (std::size_t i = 0; i < stock.bodies.size(); ++i) {
      progress.enter(static_cast<double>(i) / static_cast<double>(stock.bodies.size()),
                     static_cast<double>(i + 1) / static_cast<double>(stock.bodies.size()),
                     say("cutting \"%1\"", stock.bodies[i]));
      cutUp(result, inputs, stock.bodies[i], laid, progress);
    }
    if (result.audit.touched.empty())
      throw Error(say("every body fits that size as it is"), "stock", say("Choose a smaller build size"));
    return result;
  }

 private:
  enum class Planes { Even, Smallest };
  enum class Keys { None, Round, Square, Hexagonal };

  /// A cut across one of the three directions.
  struct Cut {
    Plane plane;
    std::string name;
  };

  void cutUp(StepResult& result, StepInputs& inputs, const BodyId& body, double& laid, Progress& progress) const {
    const Shape whole = inputs.shape(body);
    if (!whole.hasInside())
      stock_.fail(say("\"%1\" is no solid, and no mesh that closes", body), say("Choose solids only"));
    const std::vector<Cut> cuts = cutsOf(inputs, whole, progress);
    if (cuts.empty()) {
      result.audit.spared.push_back(body);
      return;
    }
    std::vector<Shape> pieces{whole};
    for (const Cut& cut : cuts) {
      std::vector<Shape> parts;
      for (const Shape& piece : pieces) {
        const PlaneSplit split = splitByPlane(cut.name, piece, cut.plane, {}, progress);
        if (split.missed()) {
          parts.push_back(piece);
          continue;
        }
        parts.insert(parts.end(), split.back.begin(), split.back.end());
        parts.insert(parts.end(), split.front.begin(), split.front.end());
      }
      pieces = std::move(parts);
      const Polyline frame = frameOf(cut.plane, whole.box());
      result.cutterOutline.push_back(frame);
    }
    std::vector<Shape> finished = pieces;
    std::size_t pegs = 0;
    if (keys_.of(inputs) != Keys::None) {
      const KeyWishes wishes = wishesOf(inputs);
      KeyWork work(pieces, wishes, inputs.id());
      addKeys(work, cuts, wishes.most, progress);
      const auto [keyed, meshed] = work.finished(progress);
      finished = keyed;
      noteMeshed(result.audit, meshed);
      pegs = work.count();
    }
    if (number_.of(inputs))
      for (std::size_t i = 0; i < finished.size(); ++i)
        finished[i] = numbered(inputs, finished[i], std::to_string(i + 1), cuts, progress);
    report(result, inputs, body, whole, finished, pegs, laid);
  }

  std::array<double, 3> sizesOf(const Inputs& inputs) const {
    return {width_.of(inputs), depth_.of(inputs), height_.of(inputs)};
  }

  /// Evenly placed, or moved to where the section is smallest as far as all pieces still fit. Pegs are part of the
  /// pieces: they reach over.
  std::vector<Cut> cutsOf(StepInputs& inputs, const Shape& whole, Progress& progress) const {
    const Box box = whole.box();
    const std::array<double, 3> sizes = sizesOf(inputs), low{box.low.x, box.low.y, box.low.z},
                                high{box.high.x, box.high.y, box.high.z};
    const std::array<Vector, 3> ways{Vector{1, 0, 0}, Vector{0, 1, 0}, Vector{0, 0, 1}};
    const std::array<const char*, 3> names{"x", "y", "z"};
    std::vector<Cut> cuts;
    for (std::size_t axis = 0; axis < 3; ++axis) {
      const double length = high[axis] - low[axis], pegs = keys_.of(inputs) == Keys::None ? 0 : reach_.of(inputs);
      if (length <= sizes[axis] * (1 + tolerance::relative)) continue;
      const double usable = sizes[axis] - pegs;
      if (usable < tolerance::smallestSize)
        reach_.fail(say("the pegs are as long as the build size"), say("Make them shorter"));
      const auto count = static_cast<int>(std::ceil(length / usable - tolerance::relative));
      constexpr int mostPieces = 40;
      if (count > mostPieces)
        width_.fail(say("that would make %1 pieces side by side", count),
                    say("At most %1 are made: choose a larger build size", mostPieces));
      const double each = length / count, room = (usable - each) / 2;
      for (int i = 1; i < count; ++i) {
        const double even = low[axis] + each * i;
        const double at = planes_.of(inputs) == Planes::Even ? even : smallest(whole, ways[axis], even, room, progress);
        cuts.push_back({Plane::through(Point() + ways[axis] * at, ways[axis]),
                        inputs.id() + ":" + names[axis] + std::to_string(i)});
      }
    }
    return cuts;
  }

  /// Where within `room` mm of a place the section across a way has the least area.
  static double smallest(const Shape& whole, Vector way, double even, double room, Progress& progress) {
    constexpr int tried = 4;  // to either side
    double best = even, least = Box::infinity;
    for (int i = 0; i <= 2 * tried; ++i) {
      // From the middle outwards: of equal ones the even place counts.
      const int away = (i + 1) / 2;
      const double at = even + room * away / tried * (i % 2 == 0 ? 1 : -1);
      const double area = sectionArea(whole, Plane::through(Point() + way * at, way), progress);
      if (area < least * (1 - tolerance::relative)) {
        least = area;
        best = at;
      }
    }
    return best;
  }

  static double sectionArea(const Shape& whole, const Plane& plane, Progress& progress) {
    if (!whole.mesh()) {
      const Shape section = sectionFace(whole, plane, progress);
      return section.empty() ? 0 : section.area();
    }
    // The two sides of the cut have its area more than the whole, each once.
    const PlaneSplit split = splitByPlane("section", whole, plane, {}, progress);
    if (split.missed()) return 0;
    double area = -whole.area();
    for (const auto* side : {&split.front, &split.back})
      for (const Shape& part : *side) area += part.area();
    return area / 2;
  }

  KeyWishes wishesOf(const Inputs& inputs) const {
    KeyWishes wishes;
    const Keys keys = keys_.of(inputs);
    wishes.form.section = keys == Keys::Square      ? KeySection::Square
                          : keys == Keys::Hexagonal ? KeySection::Hexagonal
                                                    : KeySection::Round;
    wishes.form.width = peg_.of(inputs);
    wishes.form.tip = std::min(peg_.of(inputs), reach_.of(inputs)) / 10;
    wishes.depth = reach_.of(inputs);
    wishes.endRoom = wishes.form.tip;
    wishes.clearance = clearance_.of(inputs);
    wishes.wall = wall_.of(inputs);
    wishes.most = static_cast<std::size_t>(std::max(1.0, std::round(count_.of(inputs))));
    return wishes;
  }

  /// On every cut face that looks along the way of its cut.
  static void addKeys(KeyWork& work, const std::vector<Cut>& cuts, std::size_t most, Progress& progress) {
    constexpr double along = 0.999;
    for (std::size_t p = 0; p < work.pieces().size(); ++p) {
      if (work.pieces()[p].mesh()) {
        for (const Cut& cut : cuts) work.add(p, cut.plane, othersThan(p, work), most, progress);
        continue;
      }
      for (const Face& face : facesOf(work.pieces()[p]))
        for (const Cut& cut : cuts) {
          const auto plane = face.plane();
          if (!plane || dot(plane->normal, cut.plane.normal) < along ||
              std::abs(plane->signedDistance(cut.plane.origin)) > tolerance::samePlace)
            continue;
          work.add(p, face, othersThan(p, work), progress);
          break;
        }
    }
  }

  static std::vector<std::size_t> othersThan(std::size_t piece, const KeyWork& work) {
    std::vector<std::size_t> others;
    for (std::size_t m = 0; m < work.pieces().size(); ++m)
      if (m != piece) others.push_back(m);
    return others;
  }

  /// With its number engraved where there is most room for it: on a face that was cut, where it is not seen once the
  /// pieces are together, or else on another flat one.
  Shape numbered(StepInputs& inputs, const Shape& piece, const std::string& number, const std::vector<Cut>& cuts,
                 Progress& progress) const {
    std::vector<Plane> planes;
    for (const Cut& cut : cuts)
      for (const double side : {1.0, -1.0}) planes.push_back(Plane::through(cut.plane.origin, cut.plane.normal * side));
    auto best = roomiest(piece, planes, progress);
    if (!best && !piece.mesh()) best = roomiest(piece, largestFlat(piece), progress);
    constexpr double depth = 0.5, tallest = 10;
    // As large as fits into the circle that is free.
    const double share = std::hypot(0.5, 0.4 * static_cast<double>(number.size()));
    const double height = best ? std::min(tallest, 0.9 * best->room / share) : 0;
    if (!best || height < 1) {
      inputs.warn(say("piece %1 has no flat face with room for its number", number));
      return piece;
    }
    Box box;
    for (const PlanarCurve& curve : textOutline("number", number, height, {}))
      for (const Point& point : curve.on({}).curve.outline()) box.add(point);
    const PlanePoint middle{box.centre().x, box.centre().y};
    const auto outline = textOutline("number", number, height, PlaneMotion::shift({-middle.u, -middle.v}));
    std::vector<Shape> digits;
    for (const Region& region : inked(findRegions(best->plane, outline, progress)))
      digits.push_back(solidOf(SweptRegion{region, inputs.id() + ":number", true, -depth, depth, true, {}}));
    const Division engraved = divide(piece, digits, progress);
    if (engraved.inside.empty() || engraved.outside.pieces().size() != piece.pieces().size())
      throw Error(say("piece %1 would fall apart where its number is", number), number_.key(),
                  say("Leave the numbers out"));
    return engraved.outside;
  }

  /// Of what lies in one of the planes.
  static std::optional<RoomyPlace> roomiest(const Shape& piece, const std::vector<Plane>& planes, Progress& progress) {
    std::optional<RoomyPlace> best;
    constexpr double enough = 1.5;  // mm
    for (const Plane& plane : planes)
      if (const auto place = KeyRoom(piece, plane, {}, 0, enough, progress).widest();
          place && place->room > (best ? best->room : enough))
        best = place;
    return best;
  }

  static std::vector<Plane> largestFlat(const Shape& piece) {
    std::vector<Face> faces = facesOf(piece);
    std::sort(faces.begin(), faces.end(), [](const Face& a, const Face& b) { return a.area() > b.area(); });
    std::vector<Plane> planes;
    constexpr std::size_t most = 8;
    for (const Face& face : faces)
      if (const auto plane = face.plane(); plane && planes.size() < most) planes.push_back(*plane);
    return planes;
  }

  /// A rectangle of a plane round a box.
  static Polyline frameOf(const Plane& plane, const Box& box) {
    const Box in = boxIn(plane, box);
    return {plane.at(in.low.x, in.low.y), plane.at(in.high.x, in.low.y), plane.at(in.high.x, in.high.y),
            plane.at(in.low.x, in.high.y), plane.at(in.low.x, in.low.y)};
  }

  void report(StepResult& result, StepInputs& inputs, const BodyId& body, const Shape& whole,
              const std::vector<Shape>& pieces, std::size_t pegs, double& laid) const {
    Audit& audit = result.audit;
    result.consumed.push_back(body);
    audit.touched.push_back(body);
    audit.volumeBefore += whole.volume();
    const std::array<double, 3> sizes = sizesOf(inputs);
    for (std::size_t i = 0; i < pieces.size(); ++i) {
      Shape piece = pieces[i];
      const Vector size = piece.box().high - piece.box().low;
      const std::array<double, 3> its{size.x, size.y, size.z};
      for (std::size_t axis = 0; axis < 3; ++axis)
        if (its[axis] > sizes[axis] * (1 + tolerance::sameDirection))
          inputs.warn(say("piece %1 is %2 mm long along %3: its pegs reach out of the build size", i + 1,
                          formatNumber(its[axis], 6), std::string(1, "xyz"[axis])));
      if (lay_.of(inputs)) {
        piece = laidDown(piece, inputs.id(), laid);
        requireFits(inputs, piece, i);
      }
      const BodyId id = body + "/" + std::to_string(i + 1);
      const std::string name = std::to_string(i + 1);
      result.made.push_back({.id = id, .form = BodyForm(piece), .from = body, .name = name});
      result.pieces.push_back(Piece::whole(say("\"%1\", %2", body, name), id, piece, body));
      audit.volumeAfter += piece.volume();
      audit.valid = audit.valid && piece.valid();
      audit.watertight = audit.watertight && piece.watertight();
      audit.notes.push_back(say("piece %1: %2 × %3 × %4 mm, %5 cm³", i + 1, formatNumber(size.x, 5),
                                formatNumber(size.y, 5), formatNumber(size.z, 5),
                                formatNumber(piece.volume() / 1000, 4)));
    }
    audit.notes.insert(audit.notes.begin(), pegs > 0 ? say("\"%1\": %2 pieces, %3 pegs", body, pieces.size(), pegs)
                                                     : say("\"%1\": %2 pieces", body, pieces.size()));
  }

  /// Laid down, it may be higher than before.
  void requireFits(StepInputs& inputs, const Shape& piece, std::size_t number) const {
    const Vector size = piece.box().high - piece.box().low;
    const std::array<double, 3> sizes = sizesOf(inputs);
    const auto fits = [&](double x, double y) {
      constexpr double most = 1 + tolerance::sameDirection;
      return x <= sizes[0] * most && y <= sizes[1] * most && size.z <= sizes[2] * most;
    };
    if (!fits(size.x, size.y) && !fits(size.y, size.x))
      inputs.warn(say("laid down like this, piece %1 does not fit the build size: turn it", number + 1));
  }

  /// On the face that it stands on best, beside what was laid down before.
  static Shape laidDown(const Shape& piece, const std::string& name, double& laid) {
    const Plane floor = bestFloor(piece);
    const Shape down = moved(piece, Motion::onto(floor, Plane{{}, {1, 0, 0}, {0, -1, 0}, {0, 0, -1}}), name);
    constexpr double between = 10;
    const Box box = down.box();
    const Shape placed = moved(down, Motion::by({laid - box.low.x, -box.low.y, 0}));
    laid += box.high.x - box.low.x + between;
    return placed;
  }

  const BodiesField stock_{*this, {.key = "stock", .label = "Stock", .well = Well::Stock}, BodyPick::only({})};
  const LengthField width_{*this,
                           {.key = "width", .label = "Width", .well = Well::Cutter, .help = "along x"},
                           "200 mm",
                           NumberRule::Positive};
  const LengthField depth_{*this,
                           {.key = "depth", .label = "Depth", .well = Well::Cutter, .help = "along y"},
                           "200 mm",
                           NumberRule::Positive};
  const LengthField height_{*this,
                            {.key = "height", .label = "Height", .well = Well::Cutter, .help = "along z"},
                            "200 mm",
                            NumberRule::Positive};
  const ChoiceField<Planes> planes_{*this,
                                    {.key = "planes",
                                     .label = "Cuts",
                                     .well = Well::Cutter,
                                     .help = "evenly placed, or where the section is smallest"},
                                    {"even", "smallest section"}};
  const FlagField lay_{*this,
                       {.key = "lay",
                        .label = "Lay them down",
                        .well = Well::Cutter,
                        .help = "each on the face with the least overhang over it, side by side"}};
  const FlagField number_{*this,
                          {.key = "number",
                           .label = "Number them",
                           .well = Well::Cutter,
                           .help = "engraved half a millimetre deep, on cut faces where these have room"}};
  const ChoiceField<Keys> keys_{*this,
                                {.key = "keys", .label = "Pegs", .well = Well::Reach},
                                {"none", "round", "square", "hexagonal"},
                                Keys::Round};
  const LengthField peg_{*this,
                         {.key = "peg",
                          .label = "Peg's width",
                          .well = Well::Reach,
                          .when = keys_.is(Keys::Round, Keys::Square, Keys::Hexagonal)},
                         "5 mm",
                         NumberRule::Positive};
  const LengthField reach_{*this,
                           {.key = "reach",
                            .label = "Peg's length",
                            .well = Well::Reach,
                            .when = keys_.is(Keys::Round, Keys::Square, Keys::Hexagonal)},
                           "6 mm",
                           NumberRule::Positive};
  const PlainNumberField count_{*this,
                                {.key = "count",
                                 .label = "On each face",
                                 .well = Well::Reach,
                                 .when = keys_.is(Keys::Round, Keys::Square, Keys::Hexagonal)},
                                "2",
                                NumberRule::Positive};
  const LengthField wall_{*this,
                          {.key = "wall",
                           .label = "Wall around",
                           .well = Well::Reach,
                           .when = keys_.is(Keys::Round, Keys::Square, Keys::Hexagonal)},
                          "1.5 mm",
                          NumberRule::NotNegative};
  const LengthField clearance_{*this,
                               {.key = "clearance",
                                .label = "Clearance",
                                .well = Well::Reach,
                                .when = keys_.is(Keys::Round, Keys::Square, Keys::Hexagonal)},
                               "0.1 mm",
                               NumberRule::NotNegative};
};

}  // namespace

const StepKind& buildSizeStep() {
  static const BuildSize kind;
  return kind;
}

}  // namespace kervo
