// Surfaces and solids through sections.
#include "geom/surface/loft.h"
#include "base/say.h"
#include "fields/choice_field.h"
#include "fields/flag_field.h"
#include "fields/number_field.h"
#include "fields/reference_parts.h"
#include "fields/sections_field.h"
#include "geom/curves/curve_body.h"
#include "model/step_inputs.h"
#include "steps/registry.h"
#include "steps/shared/curve_sources.h"
#include "steps/shared/surface_stock.h"

namespace kervo {

namespace {

class Loft : public StepKind {
 public:
  Loft()
      : StepKind(
            {.key = "loft",
             .label = "Loft",
             .menu = KindMenu::Surface,
             .verb = "Loft through sections",
             .help = "A surface or solid through drawings, curves, faces and points, one after another",
             .startsGroup = true,
             .needsBodies = false,
             .wells = {.stock = {"Sections", "in their order"}, .cutter = {"Guides", "what it follows between"}}}) {}

  void startFrom(const Selected& selected, Start& start) const override {
    std::vector<SectionPick> sections;
    for (const Picked& pick : selected.picks) {
      if (pick.what == Picked::What::Drawing)
        sections.push_back(SectionPick::ofDrawing(pick.body.step()));
      else if (pick.what == Picked::What::Face)
        sections.push_back(SectionPick::of(pick.face));
      else if (pick.what == Picked::What::Body && pick.bodyKind == BodyKind::Curve)
        sections.push_back(SectionPick::ofCurve(pick.body));
      else if (!pick.points.empty())
        sections.push_back(SectionPick::of(pick.points.front()));
    }
    start.set(sections_, sections);
  }

  StepResult evaluate(StepInputs& inputs, Progress& progress) const override {
    LoftOrder order;
    std::vector<std::optional<Vector>> normals;
    for (const SectionPick& pick : sections_.in(inputs)) {
      order.sections.push_back(sectionOf(inputs, pick));
      normals.push_back(normalOf(inputs, pick));
    }
    order.ruled = way_.of(inputs) == Way::Ruled;
    order.closed = closed_.of(inputs);
    order.solid = gives_.of(inputs) == Gives::Solid;
    if (way_.of(inputs) == Way::Smooth && !order.closed && order.sections.size() > 1) {
      order.atStart = leaving(inputs, start_, startBy_, normals.front(), order, true);
      order.atEnd = leaving(inputs, end_, endBy_, normals.back(), order, false);
    }
    order.guides = guides_.of(inputs);
    StepResult result;
    try {
      addNew(result, inputs.id(), lofted(order, inputs.id(), progress));
    } catch (const Error& error) {
      throw error.within(sections_.place());
    }
    result.audit.notes.push_back(say("linked: it follows its sections"));
    return result;
  }

 private:
  enum class Way { Smooth, Ruled };
  enum class Gives { Solid, Surface };
  enum class Leaves { Freely, Straight };

  LoftSection sectionOf(StepInputs& inputs, const SectionPick& pick) const {
    switch (pick.kind) {
      case SectionPick::Kind::Drawing: {
        const DrawingResult* drawing = inputs.drawing(pick.drawing);
        if (!drawing)
          sections_.fail(say("there is no drawing from a step \"%1\" before this one", pick.drawing),
                         say("Choose a step that draws"));
        const std::vector<SpaceCurve> curves = curvesOf(*drawing);
        if (curves.empty())
          sections_.fail(say("the drawing \"%1\" has no curve", pick.drawing), say("Draw an outline"));
        return {curveBody(curves, {}), {}};
      }
      case SectionPick::Kind::Curve: {
        const Shape curve = inputs.shape(pick.curve);
        if (curve.kind() != BodyKind::Curve)
          sections_.fail(say("\"%1\" is no curve", pick.curve), say("Lift its edges as a curve first"));
        return {curve, {}};
      }
      case SectionPick::Kind::Face: {
        const Face face = faceFor(inputs, pick.face, sections_);
        for (const BodyId& body : inputs.members(pick.face.body)) {
          const std::vector<Edge> edges = edgesAround(inputs.shape(body), face);
          if (edges.empty()) continue;
          const Shape outline = curveBody({}, edges);
          const int outlines = chainCount(outline);
          // Of a planar face its holes are left out.
          if (outlines == 1 || face.plane()) return {outlines == 1 ? outline : longestCurve(outline), {}};
          sections_.fail(say("a face chosen has %1 outlines", outlines), say("Lift the one that is meant as a curve"));
        }
        sections_.fail(say("a face chosen has no outline"), say("Pick another face"));
      }
      case SectionPick::Kind::Point:
        return {{}, pointFor(inputs, pick.point, sections_)};
    }
    return {};
  }

  /// Across the plane of a section.
  std::optional<Vector> normalOf(StepInputs& inputs, const SectionPick& pick) const {
    if (pick.kind == SectionPick::Kind::Drawing)
      if (const DrawingResult* drawing = inputs.drawing(pick.drawing)) return drawing->plane.normal;
    if (pick.kind == SectionPick::Kind::Face)
      if (const auto plane = faceFor(inputs, pick.face, sections_).plane()) return plane->normal;
    return std::nullopt;
  }

  /// Straight off a section's plane, towards the next one.
  std::optional<Vector> leaving(StepInputs& inputs, const ChoiceField<Leaves>& how, const LengthField& by,
                                const std::optional<Vector>& normal, const LoftOrder& order, bool atStart) const {
    if (how.of(inputs) == Leaves::Freely) return std::nullopt;
    if (!normal) how.fail(say("this section has no plane to leave straight"), say("Choose a drawing or a planar face"));
    const auto middle = [](const LoftSection& section) {
      return section.curve.empty() ? section.point : section.curve.roughBox().centre();
    };
    const std::size_t last = order.sections.size() - 1;
    const Vector way = atStart ? middle(order.sections[1]) - middle(order.sections[0])
                               : middle(order.sections[last]) - middle(order.sections[last - 1]);
    return *normal * (dot(*normal, way) < 0 ? -by.of(inputs) : by.of(inputs));
  }

  const SectionsField sections_{*this,
                                {.key = "sections",
                                 .label = "Sections",
                                 .well = Well::Stock,
                                 .help = "in their order; the first and the last may be points"}};
  const ChoiceField<Way> way_{*this, {.key = "way", .label = "Between", .well = Well::Reach}, {"smooth", "ruled"}};
  const CurveSources guides_{*this,
                             {"guides_drawing", "guides", "guide_edges"},
                             {"Guides drawn", "Guides", "Guide edges"},
                             Well::Cutter,
                             way_.is(Way::Smooth)};
  const FlagField closed_{*this,
                          {.key = "closed",
                           .label = "Back to the first one",
                           .well = Well::Reach,
                           .help = "goes on from the last section to the first"}};
  const ChoiceField<Gives> gives_{
      *this,
      {.key = "gives", .label = "Gives", .well = Well::Reach, .help = "a solid needs closed sections"},
      {"a solid", "a surface"}};
  const ChoiceField<Leaves> start_{*this,
                                   {.key = "start",
                                    .label = "Begins",
                                    .well = Well::Reach,
                                    .help = "straight: across the plane of the first section",
                                    .when = way_.is(Way::Smooth)},
                                   {"freely", "straight"}};
  const LengthField startBy_{*this,
                             {.key = "start_by",
                              .label = "For about",
                              .well = Well::Reach,
                              .help = "how far it goes straight before it turns",
                              .when = start_.is(Leaves::Straight)},
                             "10 mm",
                             NumberRule::Positive};
  const ChoiceField<Leaves> end_{*this,
                                 {.key = "end",
                                  .label = "Ends",
                                  .well = Well::Reach,
                                  .help = "straight: across the plane of the last section",
                                  .when = way_.is(Way::Smooth)},
                                 {"freely", "straight"}};
  const LengthField endBy_{
      *this,
      {.key = "end_by", .label = "For about", .well = Well::Reach, .when = end_.is(Leaves::Straight)},
      "10 mm",
      NumberRule::Positive};
};

}  // namespace

const StepKind& loftStep() {
  static const Loft kind;
  return kind;
}

}  // namespace kervo
