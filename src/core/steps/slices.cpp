// Parallel planes through bodies: outlines or faces, one for each plane and body.
#include <algorithm>
#include <atomic>
#include <cmath>
#include <set>

#include "base/parallel.h"
#include "base/say.h"
#include "drawing/text_outline.h"
#include "fields/bodies_field.h"
#include "fields/choice_field.h"
#include "fields/number_field.h"
#include "fields/plane_field.h"
#include "fields/sizes_field.h"
#include "geom/flat/slices.h"
#include "model/step_inputs.h"
#include "steps/registry.h"

namespace kervo {

namespace {

constexpr int mostPlanes = 2000;

class Slices : public StepKind {
 public:
  Slices()
      : StepKind({.key = "slices",
                  .label = "Slices",
                  .menu = KindMenu::Check,
                  .verb = "Slice",
                  .shortcut = "Ctrl+Shift+L",
                  .help = "Outlines or faces where parallel planes meet bodies, which follow them"}) {}

  void startFrom(const Selected& selected, Start& start) const override {
    if (const auto plane = selected.plane()) start.set(plane_, *plane);
    if (const auto bodies = selected.wholeBodies(); !bodies.empty()) start.set(bodies_, BodyPick::only(bodies));
  }
  std::optional<std::string> offered(const Selected& selected) const override {
    return selected.wholeBodies().empty() ? std::nullopt : std::optional(say("Slice"));
  }

  StepResult evaluate(StepInputs& inputs, Progress& progress) const override {
    const std::vector<BodyId> bodies = sliced(inputs);
    const Plane base = plane_.of(inputs);
    const std::vector<double> heights = heightsOf(inputs);
    std::vector<Plane> planes;
    planes.reserve(heights.size());
    for (const double height : heights) planes.push_back(base.moved(height));

    std::vector<BodyForm> forms;
    forms.reserve(bodies.size());
    for (const BodyId& body : bodies) forms.push_back(inputs.form(body));
    std::vector<std::vector<Slice>> all(bodies.size());
    progress.enter(0, 0.9, say("slicing"));
    std::atomic<std::size_t> done = 0;
    inParallel(bodies.size(), [&](std::size_t i) {
      try {
        all[i] = slicesOf(forms[i], planes, inputs.id() + ":cut", progress);
      } catch (const Error& error) {
        throw error.within(say("body \"%1\"", bodies[i]));
      }
      progress.report(static_cast<double>(++done) / static_cast<double>(bodies.size()));
    });

    StepResult result;
    Counts counts;
    progress.enter(0.9, 1, say("slicing"));
    for (std::size_t plane = 0; plane < planes.size(); ++plane)
      for (std::size_t i = 0; i < bodies.size(); ++i)
        for (Slice& slice : all[i]) {
          if (slice.plane != plane) continue;
          progress.throwIfStopped();
          add(inputs, result, slice, bodies[i], bodies.size() > 1 ? std::optional(i) : std::nullopt, planes[plane]);
          counts.add(slice);
        }
    if (result.made.empty()) plane_.fail(say("no plane meets a body"), say("Move the planes, or choose other bodies"));
    finish(inputs, result, counts, heights);
    const double first = heights.front();
    if (how_.of(inputs) == How::Evenly && sides_.of(inputs) == Sides::One)
      result.gauges.push_back({start_.key(), base.origin, base.normal, first});
    return result;
  }

 private:
  enum class How { Evenly, Heights };
  enum class Sides { One, Both };
  enum class Gives { Curves, Faces };
  enum class Labels { None, Curves };

  struct Counts {
    int slices = 0, closed = 0, open = 0;
    double area = 0, length = 0;
    std::set<std::size_t> planes;
    void add(const Slice& slice) {
      ++slices;
      closed += slice.closed;
      open += slice.open;
      length += lengthOfCurve(slice.curve);
      if (!slice.faces.empty()) area += slice.faces.area();
      planes.insert(slice.plane);
    }
  };

  std::vector<BodyId> sliced(StepInputs& inputs) const {
    const bool picked = !bodies_.in(inputs).all;
    std::vector<BodyId> bodies;
    for (const BodyId& body : bodies_.of(inputs)) {
      if (inputs.form(body).kind() != BodyKind::Curve)
        bodies.push_back(body);
      else if (picked)
        bodies_.fail(say("\"%1\" is a curve, which has no slices", body), say("Pick solids, surfaces or meshes"));
    }
    if (bodies.empty()) bodies_.fail(say("no body is chosen"), say("Pick solids, surfaces or meshes"));
    return bodies;
  }

  std::vector<double> heightsOf(StepInputs& inputs) const {
    if (how_.of(inputs) == How::Heights) {
      const std::vector<double> heights = heights_.of(inputs);
      if (heights.empty()) heights_.fail(say("no height is given"), say("Write lengths with ; between them"));
      if (heights.size() > mostPlanes) failForCount(heights_, static_cast<double>(heights.size()));
      return heights;
    }
    const double count = count_.of(inputs), spacing = spacing_.of(inputs);
    if (count != std::floor(count)) count_.fail(say("the count is not a whole number"), say("Type a whole number"));
    if (count > mostPlanes) failForCount(count_, count);
    if (count > 1 && spacing == 0)
      spacing_.fail(say("all planes would be in one place"), say("Type a spacing other than zero"));
    const double first = sides_.of(inputs) == Sides::Both ? -(count - 1) / 2 * spacing : start_.of(inputs);
    std::vector<double> heights;
    for (int i = 0; i < static_cast<int>(count); ++i) heights.push_back(first + i * spacing);
    return heights;
  }
  [[noreturn]] static void failForCount(const Field& field, double count) {
    field.fail(say("these are %1 planes", formatNumber(count, 15)), say("At most %1 are made in one step", mostPlanes));
  }

  /// One slice as bodies of the result. `number`: of the body, where there are several.
  void add(StepInputs& inputs, StepResult& result, const Slice& slice, const BodyId& body,
           std::optional<std::size_t> number, const Plane& plane) const {
    const std::string count = std::to_string(slice.plane + 1);
    BodyId id = BodyId(inputs.id()).part(count);
    for (std::size_t from = 0; from <= body.text().size();) {
      const std::size_t to = std::min(body.text().find('/', from), body.text().size());
      id = id.part(body.text().substr(from, to - from));
      from = to + 1;
    }
    const bool faces = gives_.of(inputs) == Gives::Faces && !slice.faces.empty();
    result.made.push_back({.id = id, .form = faces ? slice.faces : slice.curve, .from = body, .name = count});
    if (labels_.of(inputs) == Labels::None) return;
    const std::string text = number ? std::to_string(*number + 1) + "-" + count : count;
    const Point at = slice.faces.empty() ? middleOfCurve(slice.curve) : largestOf(slice.faces).samplePoint();
    result.made.push_back({.id = id.part("label"),
                           .form = label(text, labelHeight_.of(inputs), {at, plane.x, plane.y, plane.normal}),
                           .from = body,
                           .name = say("%1, number", count)});
  }

  static Face largestOf(const Shape& faces) {
    const std::vector<Face> all = facesOf(faces);
    return *std::max_element(all.begin(), all.end(), [](const Face& a, const Face& b) { return a.area() < b.area(); });
  }

  /// The letters about the origin of the plane.
  static Shape label(const std::string& text, double height, const Plane& plane) {
    const std::vector<PlanarCurve> letters = textOutline("label", text, height, {});
    PlanePoint low{1e9, 1e9}, high{-1e9, -1e9};
    for (const PlanarCurve& curve : letters) {
      const PlaneBox box = curve.geometry->box();
      low = {std::min(low.u, box.low.u), std::min(low.v, box.low.v)};
      high = {std::max(high.u, box.high.u), std::max(high.v, box.high.v)};
    }
    const Plane from{plane.at(-(low.u + high.u) / 2, -(low.v + high.v) / 2), plane.x, plane.y, plane.normal};
    std::vector<SpaceCurve> curves;
    curves.reserve(letters.size());
    for (const PlanarCurve& curve : letters) curves.push_back(curve.geometry->on(from));
    return curveBody(curves, {});
  }

  void finish(StepInputs& inputs, StepResult& result, const Counts& counts, const std::vector<double>& heights) const {
    Audit& audit = result.audit;
    audit.watertight = false;
    for (const Output& output : result.made) audit.touched.push_back(output.id);
    audit.notes.push_back(say("%1 slices by %2 planes; %3 outlines are closed, %4 are open", counts.slices,
                              counts.planes.size(), counts.closed, counts.open));
    audit.notes.push_back(counts.area > 0 ? say("cut area %1 cm², outlines %2 mm", formatNumber(counts.area / 100, 6),
                                                formatNumber(counts.length, 6))
                                          : say("outlines %1 mm", formatNumber(counts.length, 6)));
    std::string missed;
    for (std::size_t i = 0; i < heights.size(); ++i)
      if (!counts.planes.contains(i))
        missed = missed.empty() ? std::to_string(i + 1) : missed + ", " + std::to_string(i + 1);
    if (!missed.empty()) inputs.warn(say("planes that meet nothing: %1", missed));
    audit.notes.push_back(say("linked: the slices follow their bodies. Frozen as a snapshot they stay as they are"));
  }

  const BodiesField bodies_{*this, {.key = "bodies", .label = "Bodies", .well = Well::Stock}, BodyPick::everything()};
  const ChoiceField<Gives> gives_{*this,
                                  {.key = "gives",
                                   .label = "Gives",
                                   .well = Well::Stock,
                                   .help = "faces: what closed outlines enclose; surfaces give curves all the same"},
                                  {"curves", "faces"}};
  const PlaneField plane_{*this, {.key = "plane", .label = "Along", .well = Well::Cutter}};
  const ChoiceField<How> how_{
      *this, {.key = "planes", .label = "Planes", .well = Well::Cutter}, {"evenly", "at heights"}};
  const PlainNumberField count_{
      *this,
      {.key = "count", .label = "Count", .well = Well::Cutter, .when = how_.is(How::Evenly), .telling = true},
      "5",
      NumberRule::Positive};
  const LengthField spacing_{
      *this,
      {.key = "spacing", .label = "Spacing", .well = Well::Cutter, .when = how_.is(How::Evenly), .telling = true},
      "10 mm"};
  const SizesField heights_{*this,
                            {.key = "heights",
                             .label = "Heights",
                             .well = Well::Cutter,
                             .help = "Above the plane",
                             .when = how_.is(How::Heights),
                             .telling = true}};
  const ChoiceField<Sides> sides_{*this,
                                  {.key = "sides",
                                   .label = "Sides",
                                   .well = Well::Reach,
                                   .help = "one: from the first height on; both: as many on both sides of the plane",
                                   .when = how_.is(How::Evenly)},
                                  {"one", "both"}};
  const LengthField start_{*this,
                           {.key = "start",
                            .label = "First at",
                            .well = Well::Reach,
                            .help = "Above the plane",
                            .when = sides_.is(Sides::One)},
                           "0 mm"};
  const ChoiceField<Labels> labels_{
      *this,
      {.key = "numbers", .label = "Numbers", .well = Well::Reach, .help = "Each slice with its number, as curves"},
      {"none", "as curves"}};
  const LengthField labelHeight_{*this,
                                 {.key = "number_height",
                                  .label = "Height",
                                  .well = Well::Reach,
                                  .help = "Of the digits",
                                  .when = labels_.is(Labels::Curves)},
                                 "5 mm",
                                 NumberRule::Positive};
};

}  // namespace

const StepKind& slicesStep() {
  static const Slices kind;
  return kind;
}

}  // namespace kervo
