// Profiles revolved about an axis: new bodies, joined to stock, common with it, or cut out of it (grooves,
// counterbores).
#include <numbers>

#include "base/say.h"
#include "fields/choice_field.h"
#include "fields/regions_field.h"
#include "fields/text_field.h"
#include "geom/display/outline.h"
#include "geom/sweep/revolve.h"
#include "geom/tolerances.h"
#include "steps/registry.h"
#include "steps/shared/axis_fields.h"
#include "steps/shared/profile_result.h"

namespace kervo {

namespace {

constexpr double turn = 2 * std::numbers::pi;

class Revolve : public StepKind {
 public:
  Revolve()
      : StepKind({.key = "revolve",
                  .label = "Revolve",
                  .menu = KindMenu::Draw,
                  .shortcut = "Ctrl+Shift+V",
                  .help = "Regions of a drawing, or open lines, about an axis: bodies, or grooves cut into them",
                  .needsBodies = false}) {}

  void startFrom(const Selected& selected, Start& start) const override {
    start.set(profiles_, RegionPick{selected.drawing});
  }
  std::optional<std::string> offered(const Selected& selected) const override {
    return selected.anyOf(Picked::What::Drawing) ? std::optional<std::string>(say("Revolve it")) : std::nullopt;
  }

  StepResult evaluate(StepInputs& inputs, Progress& progress) const override {
    const DrawingResult drawing = profiles_.drawing(inputs);
    const Axis axis = axisOf(inputs, drawing);
    const bool whole = extent_.of(inputs) == Extent::Whole;
    const double from = whole ? 0 : from_.of(inputs), to = whole ? turn : to_.of(inputs);
    if (!(to - from > tolerance::parallel) || to - from > turn + tolerance::parallel)
      to_.fail(say("the angles span nothing, or more than a whole turn"),
               say("Type an end angle beyond the start, by 360 deg at most"));
    StepResult result;
    std::vector<Shape> shapes;
    Point profile;
    const double end = std::min(to, from + turn);
    if (drawing.regions.empty() && !drawing.paths.empty())
      for (const Path& path : drawing.paths) {
        shapes.push_back(revolvedPath(path, inputs.id() + ":side", axis, from, end));
        profile = path.at(path.length() / 2);
      }
    else
      for (const Region& region : joined(profiles_.of(inputs))) {
        shapes.push_back(revolved(region, inputs.id().text(), axis, from, end, progress));
        profile = middleOf(region);
      }
    if (!whole) show(result, profile, axis, from, to);
    become_.add(result, inputs, shapes, progress);
    return result;
  }

 private:
  enum class Extent { Whole, Angles };
  enum class About { Line, Axis };

  Axis axisOf(StepInputs& inputs, const DrawingResult& drawing) const {
    if (about_.of(inputs) == About::Axis) return axis_.of(inputs);
    const std::string& wanted = line_.in(inputs);
    const DrawnAxis* found = nullptr;
    int construction = 0;
    for (const DrawnAxis& each : drawing.axes) {
      if (wanted.empty() ? each.construction : each.curve == wanted) found = &each;
      construction += each.construction;
    }
    if (found && (!wanted.empty() || construction == 1)) return found->axis;
    std::string names;
    for (const DrawnAxis& each : drawing.axes) names += (names.empty() ? "" : ", ") + each.curve;
    if (!wanted.empty()) line_.fail(say("the drawing has no line \"%1\"", wanted), say("Write one of: %1", names));
    line_.fail(construction == 0 ? say("the drawing has no construction line to revolve about")
                                 : say("the drawing has several construction lines"),
               names.empty() ? say("Draw a line, or choose another axis") : say("Write one of: %1", names));
  }

  /// Gauges for the angles, from where the profile was drawn.
  void show(StepResult& result, const Point& profile, const Axis& axis, double from, double to) const {
    const Point foot = axis.point + axis.direction * dot(profile - axis.point, axis.direction);
    const double radius = distance(profile, foot);
    if (radius < tolerance::smallestSize) return;
    const Vector zero = (profile - foot) * (1 / radius);
    result.gauges.push_back(Gauge::angle(to_.key(), foot, axis.direction, zero, radius, to));
    result.gauges.push_back(Gauge::angle(from_.key(), foot, axis.direction, zero, radius * 0.7, from));
  }

  const RegionsField profiles_{
      *this,
      {.key = "profiles", .label = "Profiles", .help = "Regions become solids; a drawing of open lines only surfaces"}};
  const ChoiceField<About> about_{
      *this,
      {.key = "about", .label = "About", .help = "line: one of the drawing; axis: of a body, the world, or a step"},
      {"line", "axis"}};
  const TextField line_{*this,
                        {.key = "line",
                         .label = "Line",
                         .help = "A line of the drawing; nothing: its only construction line",
                         .when = about_.is(About::Line)}};
  const AxisFields axis_{*this, about_.is(About::Axis), Well::Setup};
  const ChoiceField<Extent> extent_{
      *this, {.key = "extent", .label = "Extent", .well = Well::Reach}, {"whole", "angles"}};
  const AngleField from_{
      *this, {.key = "from", .label = "From", .well = Well::Reach, .when = extent_.is(Extent::Angles)}, "0 deg"};
  const AngleField to_{
      *this, {.key = "to", .label = "To", .well = Well::Reach, .when = extent_.is(Extent::Angles)}, "90 deg"};
  const ProfileResult become_{*this, profiles_};
};

}  // namespace

const StepKind& revolveStep() {
  static const Revolve kind;
  return kind;
}

}  // namespace kervo
