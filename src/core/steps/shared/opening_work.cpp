#include "steps/shared/opening_work.h"

#include <algorithm>
#include <map>
#include <set>

#include "base/quantity.h"
#include "base/say.h"
#include "geom/display/outline.h"
#include "geom/divide/boolean.h"
#include "geom/openings/filled.h"
#include "geom/openings/flush_cut.h"
#include "geom/openings/opening_words.h"
#include "geom/tolerances.h"
#include "steps/shared/changed_bodies.h"
#include "steps/shared/picked_faces.h"

namespace kervo {

std::string BodyOpenings::nameOf(int number) const {
  return say("%1 %2", wordFor(opening(number)), number + 1);
}

std::string BodyOpenings::nameOf(const Beside& beside) const {
  return beside.opening < 0 ? say("the edge of its wall") : nameOf(beside.opening);
}

OpeningFields::OpeningFields(FieldTable& table)
    : faces(table,
            {.key = "openings", .label = "Openings", .well = Well::Stock, .help = "any face of each tells which"}),
      alike(table, {.key = "alike",
                    .label = "All alike",
                    .well = Well::Stock,
                    .help = "and all of the same form and sizes in these bodies"}),
      leaves(table, {.key = "leaves",
                     .label = "Leaves too",
                     .well = Well::Stock,
                     .help = "other bodies of the same wall: what lies over the picked openings changes with them"}) {}

namespace {

/// Whether both are the same opening, in two leaves of one wall: one over the other, in walls that run alike.
bool lieOver(const Opening& a, const Opening& b) {
  constexpr double alike = 0.999, share = 0.25;
  if (std::abs(dot(a.frame.normal, b.frame.normal)) < alike) return false;
  const Vector way = a.frame.coordinates(b.frame.origin);
  return std::abs(way.x) < share * std::min(a.width, b.width) && std::abs(way.y) < share * std::min(a.height, b.height);
}

/// The openings of a leaf that go with those of another body, nearest first.
BodyOpenings following(const BodyId& body, const Shape& shape, const BodyOpenings& leader) {
  BodyOpenings leaf{body, shape, openingsOf(shape), {}, {}};
  for (const int number : leader.picked)
    for (int each = 0; each < static_cast<int>(leaf.all.size()); ++each)
      if (lieOver(leader.opening(number), leaf.opening(each)) && !leaf.leaders.contains(each)) {
        leaf.picked.push_back(each);
        leaf.leaders.emplace(each, BodyOpenings::Leader{leader.body, number});
      }
  std::sort(leaf.picked.begin(), leaf.picked.end());
  return leaf;
}

}  // namespace

std::vector<BodyOpenings> OpeningFields::of(StepInputs& inputs, StepResult& result) const {
  if (faces.in(inputs).empty())
    faces.fail(say("no opening is picked"), say("Pick any face inside a hole, a window, a notch"));
  std::vector<BodyOpenings> openings;
  std::set<BodyId> found;
  for (const PickedFaces& picked : pickedFaces(inputs, faces, result)) {
    BodyOpenings its{picked.body, picked.shape, openingsOf(picked.shape), {}, {}};
    std::set<int> numbers;
    for (const int face : picked.numbers) {
      const auto opening = openingWith(its.all, face);
      if (!opening)
        faces.fail(say("the face picked on \"%1\" lies in no opening", picked.body),
                   say("Pick a face inside a hole, a pocket, a window or a notch"));
      for (const int number : allAlike(its.all, *opening))
        if (alike.of(inputs) || its.opening(number).faces == opening->faces) numbers.insert(number);
    }
    its.picked.assign(numbers.begin(), numbers.end());
    found.insert(picked.body);
    openings.push_back(std::move(its));
  }
  const std::size_t leading = openings.size();
  for (const BodyId& body : leaves.of(inputs)) {
    if (found.contains(body)) continue;
    if (inputs.shielded(body)) {
      result.audit.shielded.push_back(body);
      inputs.warn(say("\"%1\" is shielded and stays as it is", body));
      continue;
    }
    for (std::size_t i = 0; i < leading; ++i)
      if (BodyOpenings leaf = following(body, inputs.shape(body), openings[i]); !leaf.picked.empty()) {
        openings.push_back(std::move(leaf));
        break;
      }
  }
  return openings;
}

namespace {

/// The first of the solids that does not lie in the body as a whole, clear of the others; −1 if all do.
int misfit(const Shape& body, const std::vector<Shape>& solids, Progress& progress) {
  for (std::size_t i = 0; i < solids.size(); ++i) {
    const Shape inside = divide(body, {solids[i]}, progress).inside;
    const double volume = inside.empty() ? 0 : inside.volume();
    if (std::abs(volume - solids[i].volume()) > tolerance::balance * solids[i].volume()) return static_cast<int>(i);
    for (std::size_t k = 0; k < i; ++k)
      if (solids[i].roughBox().overlaps(solids[k].roughBox()) && !intersect({solids[i], solids[k]}, progress).empty())
        return static_cast<int>(i);
  }
  return -1;
}

}  // namespace

void cutOpenings(StepResult& result, const BodyId& body, const Shape& before, const Shape& whole,
                 const std::vector<Recut>& recuts, Progress& progress, const std::vector<Shape>& again) {
  std::vector<Shape> solids;
  double wanted = 0;
  for (const Recut& recut : recuts) {
    solids.push_back(recut.solid);
    wanted += recut.solid.volume();
    for (Polyline& line : edgeLines(recut.solid)) result.cutterOutline.push_back(std::move(line));
  }
  const auto cutAgain = [&](const Shape& shape) {
    return again.empty() ? shape : divide(shape, again, progress).outside;
  };
  if (solids.empty()) return replaceBody(result, body, before, cutAgain(whole));
  const Division division = cutFlush(whole, solids, progress);
  const double got = division.inside.empty() ? 0 : division.inside.volume();
  if (std::abs(wanted - got) > tolerance::balance * wanted)
    throw recuts[static_cast<std::size_t>(std::max(0, misfit(whole, solids, progress)))].why();
  if (!division.remedy.empty())
    result.audit.warnings.push_back(say("the kernel needed help with \"%1\": %2", body, division.remedy));
  replaceBody(result, body, before, cutAgain(division.outside));
}

std::vector<Shape> fillingsOf(const BodyOpenings& openings, Progress& progress) {
  return filled(openings.shape, openings.all, openings.picked, progress).fillings;
}

void recut(StepResult& result, const BodyOpenings& openings,
           const std::function<Recut(int number, const Shape& filling)>& become, Progress& progress) {
  progress.enter(0, 0.3, say("closing openings"));
  const FilledOpenings whole = filled(openings.shape, openings.all, openings.picked, progress);
  std::vector<Recut> recuts;
  for (std::size_t i = 0; i < openings.picked.size(); ++i) {
    Recut recut = become(openings.picked[i], whole.fillings[i]);
    if (!recut.solid.empty()) recuts.push_back(std::move(recut));
  }
  progress.enter(0.3, 1, say("cutting openings"));
  cutOpenings(result, openings.body, openings.shape, whole.body, recuts, progress, whole.again);
}

std::optional<std::string> missingRoom(const BodyOpenings& openings, const Room& room, double toLeft, double toRight,
                                       double below, double above) {
  const auto told = [&](const Beside& beside, double wanted) -> std::optional<std::string> {
    if (wanted <= beside.gap) return std::nullopt;
    return say("there is room for %1 mm up to %2", formatNumber(beside.gap, 6), openings.nameOf(beside));
  };
  for (const auto& [beside, wanted] : {std::pair(room.left, toLeft), std::pair(room.right, toRight),
                                       std::pair(room.below, below), std::pair(room.above, above)})
    if (auto text = told(beside, wanted)) return text;
  return std::nullopt;
}

}  // namespace kervo
