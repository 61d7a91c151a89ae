#include "drawing/copies.h"

#include <algorithm>
#include <cmath>
#include <numbers>

#include "base/error.h"
#include "base/say.h"
#include "drawing/offset.h"

namespace kervo {

namespace {

constexpr double turn = 2 * std::numbers::pi;

/// How many there are with the first one.
int countOf(double number) {
  const double count = std::round(number);
  if (std::abs(number - count) > tolerance::samePlace || count < 1)
    throw Error(say("the count is %1", formatNumber(number)), "", say("Type a whole number from 1 on"));
  if (count > mostCopies)
    throw Error(say("%1 copies are too many", formatNumber(count)), "", say("Type %1 at most", mostCopies));
  return static_cast<int>(count);
}

void addMoved(std::vector<PlanarCurve>& made, const std::string& prefix, const std::vector<PlanarCurve>& of,
              const PlaneMotion& motion) {
  for (const PlanarCurve& curve : of) made.emplace_back(prefix + curve.id, curve.geometry->moved(motion));
}

class OffsetKind : public CopyKind {
 public:
  OffsetKind()
      : CopyKind({.name = "offset",
                  .label = later("Offset"),
                  .help = later("Curves beside the chosen ones, at a distance"),
                  .numbers = {{"by", later("distance"), lengthDimension, "1 mm"}},
                  .ways = {{"out", later("outside")},
                           {"in", later("inside")},
                           {"both", later("both sides")},
                           {"out_sharp", later("outside, sharp")},
                           {"in_sharp", later("inside, sharp")},
                           {"both_sharp", later("both sides, sharp")}}}) {}
  std::vector<PlanarCurve> made(const DrawnCopies& copies, const std::vector<PlanarCurve>& of, const Place&,
                                const std::vector<double>& numbers) const override {
    const double by = numbers[0];
    if (!(std::abs(by) >= tolerance::smallestSize) || std::abs(by) > tolerance::largestSize)
      throw Error(say("the distance is %1 mm", formatNumber(by)), "", say("Type a distance that is not zero"));
    const bool sharp = copies.way.ends_with("_sharp");
    const std::string way = copies.way.substr(0, copies.way.find('_'));
    OffsetSide side = way == "in" ? OffsetSide::In : way == "both" ? OffsetSide::Both : OffsetSide::Out;
    // A distance below zero is one on the other side.
    if (by < 0 && side != OffsetSide::Both) side = side == OffsetSide::In ? OffsetSide::Out : OffsetSide::In;
    return offset(copies.id, of, std::abs(by), side, sharp ? OffsetCorners::Sharp : OffsetCorners::Round);
  }
};

class RowKind : public CopyKind {
 public:
  RowKind()
      : CopyKind({.name = "row",
                  .label = later("Row"),
                  .help = later("The chosen curves again and again along a line"),
                  .numbers = {{"count", later("count"), Dimensionality(), "3"},
                              {"distance", later("distance"), lengthDimension, "20 mm"},
                              {"angle", later("angle"), angleDimension, "0 deg"}}}) {}
  std::vector<PlanarCurve> made(const DrawnCopies& copies, const std::vector<PlanarCurve>& of, const Place&,
                                const std::vector<double>& numbers) const override {
    const int count = countOf(numbers[0]);
    if (!(std::abs(numbers[1]) >= tolerance::smallestSize))
      throw Error(say("the distance is %1 mm", formatNumber(numbers[1])), "", say("Type a distance that is not zero"));
    const PlanePoint way = PlanePoint{std::cos(numbers[2]), std::sin(numbers[2])} * numbers[1];
    std::vector<PlanarCurve> made;
    for (int i = 1; i < count; ++i)
      addMoved(made, copies.id + ":" + std::to_string(i + 1) + ":", of, PlaneMotion::shift(way * i));
    return made;
  }
};

class RingKind : public CopyKind {
 public:
  RingKind()
      : CopyKind({.name = "ring",
                  .label = later("Ring"),
                  .help = later("The chosen curves again and again about a point"),
                  .numbers = {{"count", later("count"), Dimensionality(), "6"},
                              {"angle", later("over"), angleDimension, "360 deg"}},
                  .about = About::Point}) {}
  std::vector<PlanarCurve> made(const DrawnCopies& copies, const std::vector<PlanarCurve>& of, const Place& about,
                                const std::vector<double>& numbers) const override {
    const int count = countOf(numbers[0]);
    if (!(std::abs(numbers[1]) >= tolerance::parallel) || std::abs(numbers[1]) > turn + tolerance::parallel)
      throw Error(say("the angle is %1°", formatNumber(numbers[1] * 360 / turn)), "",
                  say("Type an angle up to a whole turn that is not zero"));
    // Over a whole turn the last would be the first again.
    const bool whole = std::abs(std::abs(numbers[1]) - turn) < tolerance::parallel;
    const double step = numbers[1] / (whole ? count : count - 1);
    std::vector<PlanarCurve> made;
    for (int i = 1; i < count; ++i)
      addMoved(made, copies.id + ":" + std::to_string(i + 1) + ":", of, PlaneMotion::turn(about.from, step * i));
    return made;
  }
};

class MirrorKind : public CopyKind {
 public:
  MirrorKind()
      : CopyKind({.name = "mirror",
                  .label = later("Mirror"),
                  .help = later("The chosen curves on the other side of a line"),
                  .about = About::Line}) {}
  std::vector<PlanarCurve> made(const DrawnCopies& copies, const std::vector<PlanarCurve>& of, const Place& about,
                                const std::vector<double>&) const override {
    if (distance(about.from, about.to) < tolerance::smallestSize)
      throw Error(say("the line to mirror at has no length"), "", say("Choose another line"));
    std::vector<PlanarCurve> made;
    addMoved(made, copies.id + ":", of, PlaneMotion::mirror(about.from, about.to));
    return made;
  }
};

}  // namespace

const std::vector<const CopyKind*>& copyKinds() {
  static const OffsetKind offsetKind;
  static const RowKind row;
  static const RingKind ring;
  static const MirrorKind mirror;
  static const std::vector<const CopyKind*> kinds{&offsetKind, &row, &ring, &mirror};
  return kinds;
}

const CopyKind* findCopyKind(const std::string& name) {
  const auto& kinds = copyKinds();
  const auto found =
      std::find_if(kinds.begin(), kinds.end(), [&](const CopyKind* kind) { return kind->name() == name; });
  return found == kinds.end() ? nullptr : *found;
}

}  // namespace kervo
