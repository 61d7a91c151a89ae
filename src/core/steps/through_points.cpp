// Curves through picked points: splines, lines and arcs; also on a face.
#include "geom/curves/through_points.h"
#include "base/quantity.h"
#include "base/say.h"
#include "fields/choice_field.h"
#include "fields/face_field.h"
#include "fields/flag_field.h"
#include "fields/points_field.h"
#include "fields/reference_parts.h"
#include "geom/curves/curve_body.h"
#include "steps/registry.h"
#include "steps/shared/surface_stock.h"

namespace kervo {

namespace {

class ThroughPoints : public StepKind {
 public:
  ThroughPoints()
      : StepKind({.key = "through_points",
                  .label = "Through points",
                  .menu = KindMenu::Surface,
                  .verb = "Lay a line through points",
                  .help = "A spline, lines or an arc through corners and points, in space or on a face",
                  .wells = {.stock = {"Points", "in their order"}}}) {}

  void startFrom(const Selected& selected, Start& start) const override {
    start.set(points_, selected.points());
    const std::vector<FaceReference> faces = selected.faces();
    if (faces.empty()) return;
    start.set(face_, faces.front());
    start.set(lies_, Lies::OnFace);
  }
  std::optional<std::string> offered(const Selected& selected) const override {
    return selected.points().size() > 1 ? std::optional(say("Curve through them")) : std::nullopt;
  }

  StepResult evaluate(StepInputs& inputs, Progress&) const override {
    std::vector<Point> points;
    for (const PointReference& point : points_.in(inputs)) points.push_back(pointFor(inputs, point, points_));
    inputs.finding().cutterOutline = {points};
    StepResult result;
    try {
      const Shape curve = lies_.of(inputs) == Lies::OnFace ? curveOnFace(points, face_.of(inputs), closed_.of(inputs))
                                                           : curveThrough(points, kind_.of(inputs), closed_.of(inputs));
      addNew(result, inputs.id(), curve);
      result.audit.notes.push_back(say("%1 mm long", formatNumber(lengthOfCurve(curve))));
    } catch (const Error& error) {
      throw error.within(points_.place());
    }
    inputs.finding().cutterOutline.clear();
    result.audit.notes.push_back(say("linked: it follows its points"));
    return result;
  }

 private:
  enum class Lies { InSpace, OnFace };

  const PointsField points_{*this,
                            {.key = "points",
                             .label = "Points",
                             .well = Well::Stock,
                             .help = "corners of bodies and curves, and points that were made"}};
  const ChoiceField<Lies> lies_{
      *this, {.key = "lies", .label = "Lies", .well = Well::Reach}, {"in space", "on a face"}};
  const ChoiceField<Through> kind_{
      *this,
      {.key = "kind", .label = "Runs", .well = Well::Reach, .when = lies_.is(Lies::InSpace), .telling = true},
      {"spline", "lines", "arc"}};
  const FaceField face_{*this,
                        {.key = "face",
                         .label = "On",
                         .well = Well::Reach,
                         .help = "a spline on this face's surface, through the places nearest to the points",
                         .when = lies_.is(Lies::OnFace)}};
  const FlagField closed_{*this,
                          {.key = "closed",
                           .label = "Closed",
                           .well = Well::Reach,
                           .help = "back to the first point; an arc: all of its circle"}};
};

}  // namespace

const StepKind& throughPointsStep() {
  static const ThroughPoints kind;
  return kind;
}

}  // namespace kervo
