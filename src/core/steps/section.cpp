// Bodies cut open for the eye only: by a plane, a box or a closed body.
#include <array>
#include <cmath>
#include <sstream>

#include "base/say.h"
#include "fields/bodies_field.h"
#include "fields/choice_field.h"
#include "fields/number_field.h"
#include "fields/plane_field.h"
#include "fields/text_field.h"
#include "geom/motion.h"
#include "geom/tolerances.h"
#include "model/hatches.h"
#include "model/section_cut.h"
#include "model/step_inputs.h"
#include "steps/registry.h"

namespace kervo {

namespace {

class Section : public StepKind {
 public:
  Section()
      : StepKind({.key = "section",
                  .label = "Section",
                  .menu = KindMenu::Check,
                  .shortcut = "Ctrl+Shift+K",
                  .help = "Cuts bodies open for the eye only; the model stays whole",
                  .startsGroup = true,
                  .makes = Makes::Section}) {}

  void startFrom(const Selected& selected, Start& start) const override {
    if (const auto plane = selected.plane()) start.set(plane_, *plane);
  }
  std::optional<std::string> offered(const Selected& selected) const override {
    if (selected.planarFace()) return say("Section from it …");
    return std::nullopt;
  }

  StepResult evaluate(StepInputs& inputs, Progress&) const override {
    auto cut = std::make_shared<SectionCut>();
    StepResult result;
    switch (with_.of(inputs)) {
      case With::Plane:
        byPlane(inputs, *cut, result);
        break;
      case With::Box:
        byBox(inputs, *cut, result);
        break;
      case With::Body:
        byBody(inputs, *cut);
        break;
    }
    cut->scope.which = cuts_.of(inputs);
    if (cut->scope.which != SectionScope::Which::All) {
      cut->scope.bodies = bodies_.of(inputs);
      cut->scope.layers = layersIn(layers_.of(inputs));
    }
    cut->fill = fillOf(inputs);
    result.section = std::move(cut);
    return result;
  }

 private:
  enum class With { Plane, Box, Body };
  enum class Goes { Front, Back };
  enum class Hides { Inside, Outside };
  enum class Ink { Thick, Thin };

  void byPlane(StepInputs& inputs, SectionCut& cut, StepResult& result) const {
    const Plane from = plane_.of(inputs);
    const Motion turn = Motion::turn(from.origin, from.y, turn_.of(inputs));
    const Motion tilt = Motion::turn(from.origin, turn.turned(from.x), tilt_.of(inputs));
    const auto turned = [&](Vector v) { return tilt.turned(turn.turned(v)); };
    const Plane turnedPlane{from.origin, turned(from.x), turned(from.y), turned(from.normal)};
    const double offset = offset_.of(inputs);
    Plane plane = turnedPlane.moved(offset);
    result.gauges.push_back({offset_.key(), turnedPlane.origin, turnedPlane.normal, offset});
    if (goes_.of(inputs) == Goes::Back) plane = {plane.origin, plane.x * -1, plane.y, plane.normal * -1};
    cut.clip.regions = {{plane}};
    cut.plane = plane;
  }

  void byBox(StepInputs& inputs, SectionCut& cut, StepResult& result) const {
    struct Side {
      const LengthField* field;
      Vector inwards;
    };
    const std::array<Side, 6> sides{{{&left_, {1, 0, 0}},
                                     {&right_, {-1, 0, 0}},
                                     {&front_, {0, 1, 0}},
                                     {&back_, {0, -1, 0}},
                                     {&bottom_, {0, 0, 1}},
                                     {&top_, {0, 0, -1}}}};
    const Box box{{left_.of(inputs), front_.of(inputs), bottom_.of(inputs)},
                  {right_.of(inputs), back_.of(inputs), top_.of(inputs)}};
    const auto require = [](const LengthField& field, double low, double high) {
      if (high - low < tolerance::point)
        field.fail(say("the box has no room in this direction"), say("Type a larger number here"));
    };
    require(right_, box.low.x, box.high.x);
    require(back_, box.low.y, box.high.y);
    require(top_, box.low.z, box.high.z);
    Clip::Region inside;
    for (const Side& side : sides) {
      const bool low = side.inwards.x + side.inwards.y + side.inwards.z > 0;
      const Vector along = low ? side.inwards : -side.inwards;
      const double at = side.field->of(inputs);
      const Point middle = box.centre();
      const Point from = middle - along * dot(middle, along);
      inside.push_back(Plane::through(from + along * at, side.inwards));
      result.gauges.push_back({side.field->key(), from, along, at});
    }
    if (hides_.of(inputs) == Hides::Inside)
      cut.clip.regions = {inside};
    else
      for (const Plane& wall : inside)
        cut.clip.regions.push_back({{wall.origin, wall.x * -1, wall.y, wall.normal * -1}});
  }

  void byBody(StepInputs& inputs, SectionCut& cut) const {
    const std::vector<BodyId> bodies = body_.of(inputs);
    if (bodies.size() != 1) body_.fail(say("a section is by one body"), say("Pick one closed body"));
    const Shape shape = inputs.shape(bodies.front());
    if (shape.kind() != BodyKind::Solid)
      body_.fail(say("\"%1\" is not closed", bodies.front()), say("Pick a solid, or a plane"));
    cut.by = bodies.front();
    cut.clip.body = shape;
    cut.clip.outside = hides_.of(inputs) == Hides::Outside;
  }

  CutFill fillOf(StepInputs& inputs) const {
    CutFill fill;
    fill.by = fill_.of(inputs);
    if (fill.by == CutFill::By::Own) {
      const auto color = colorFromText(color_.of(inputs));
      if (!color) color_.fail(say("\"%1\" is not a colour", color_.of(inputs)), say("Write it as #rrggbb"));
      fill.color = *color;
    }
    if (fill.by == CutFill::By::Hatch) {
      fill.hatch = hatch_.in(inputs);
      fill.turn = hatchTurn_.of(inputs);
      fill.scale = scale_.of(inputs);
    }
    fill.thick = ink_.of(inputs) == Ink::Thick;
    return fill;
  }

  /// The names between commas.
  static std::vector<std::string> layersIn(const std::string& text) {
    std::vector<std::string> result;
    std::istringstream parts(text);
    for (std::string part; std::getline(parts, part, ',');) {
      const auto first = part.find_first_not_of(' '), last = part.find_last_not_of(' ');
      if (first != std::string::npos) result.push_back(part.substr(first, last - first + 1));
    }
    return result;
  }

  const ChoiceField<With> with_{*this,
                                {.key = "with",
                                 .label = "Type",
                                 .well = Well::Cutter,
                                 .help = "a plane, a box along the axes of the world, or a closed body"},
                                {"plane", "box", "body"}};
  const PlaneField plane_{
      *this, {.key = "plane", .label = "Plane", .well = Well::Cutter, .when = with_.is(With::Plane)}, "xz"};
  const LengthField offset_{*this,
                            {.key = "offset",
                             .label = "Offset",
                             .well = Well::Cutter,
                             .help = "from the plane, along its normal",
                             .when = with_.is(With::Plane)},
                            "0 mm"};
  const AngleField tilt_{*this,
                         {.key = "tilt",
                          .label = "Tilt",
                          .well = Well::Cutter,
                          .help = "about the plane's x axis",
                          .when = with_.is(With::Plane)},
                         "0 deg"};
  const AngleField turn_{*this,
                         {.key = "turn",
                          .label = "Turn",
                          .well = Well::Cutter,
                          .help = "about the plane's y axis, before it is tilted",
                          .when = with_.is(With::Plane)},
                         "0 deg"};
  const ChoiceField<Goes> goes_{*this,
                                {.key = "goes",
                                 .label = "What goes",
                                 .well = Well::Cutter,
                                 .help = "what lies in front of the plane, where its normal points, or behind it",
                                 .when = with_.is(With::Plane)},
                                {"front", "back"}};
  const LengthField left_{*this, side("left", "Left", "x of its left side"), "-50 mm"};
  const LengthField right_{*this, side("right", "Right", "x of its right side"), "50 mm"};
  const LengthField front_{*this, side("front", "Front", "y of its front"), "-50 mm"};
  const LengthField back_{*this, side("back", "Back", "y of its back"), "0 mm"};
  const LengthField bottom_{*this, side("bottom", "Bottom", "z of its bottom"), "-50 mm"};
  const LengthField top_{*this, side("top", "Top", "z of its top"), "50 mm"};
  const BodiesField body_{
      *this, {.key = "body", .label = "Body", .well = Well::Cutter, .when = with_.is(With::Body)}, BodyPick::only({})};
  const ChoiceField<Hides> hides_{*this,
                                  {.key = "hides",
                                   .label = "What goes",
                                   .well = Well::Cutter,
                                   .help = "what lies inside of the box or body, or outside",
                                   .when = with_.is(With::Box, With::Body)},
                                  {"inside", "outside"}};
  const ChoiceField<SectionScope::Which> cuts_{
      *this,
      {.key = "cuts", .label = "Bodies", .well = Well::Stock, .help = "all bodies, all but some, or only some"},
      {"all", "all_but", "only"}};
  const BodiesField bodies_{*this,
                            {.key = "bodies",
                             .label = "These",
                             .well = Well::Stock,
                             .when = cuts_.is(SectionScope::Which::AllBut, SectionScope::Which::Only)},
                            BodyPick::only({})};
  const TextField layers_{*this,
                          {.key = "layers",
                           .label = "On layers",
                           .well = Well::Stock,
                           .help = "names of layers, with commas between",
                           .when = cuts_.is(SectionScope::Which::AllBut, SectionScope::Which::Only)}};
  const ChoiceField<CutFill::By> fill_{*this,
                                       {.key = "fill",
                                        .label = "Filled",
                                        .well = Well::Reach,
                                        .help = "in the body's colour, one of its own, or a hatch"},
                                       {"body", "own", "hatch"}};
  const TextField color_{*this,
                         {.key = "color",
                          .label = "Colour",
                          .well = Well::Reach,
                          .help = "as #rrggbb",
                          .when = fill_.is(CutFill::By::Own)},
                         "#d8d3c8"};
  const WordField hatch_{*this,
                         {.key = "hatch", .label = "Hatch", .well = Well::Reach, .when = fill_.is(CutFill::By::Hatch)},
                         hatchKeys(),
                         0};
  const AngleField hatchTurn_{
      *this,
      {.key = "hatch_turn", .label = "Turned by", .well = Well::Reach, .when = fill_.is(CutFill::By::Hatch)},
      "0 deg"};
  const PlainNumberField scale_{
      *this,
      {.key = "scale",
       .label = "Scale 1 :",
       .well = Well::Reach,
       .help = "of the paper for which the hatch is; at 1 : 50 its lines are 50 times as far apart",
       .when = fill_.is(CutFill::By::Hatch)},
      "1",
      NumberRule::Positive};
  const ChoiceField<Ink> ink_{*this, {.key = "outline", .label = "Outline", .well = Well::Reach}, {"thick", "thin"}};

  FieldText side(const char* key, const char* label, const char* help) const {
    return {.key = key, .label = label, .well = Well::Cutter, .help = help, .when = with_.is(With::Box)};
  }
};

}  // namespace

const StepKind& sectionStep() {
  static const Section kind;
  return kind;
}

}  // namespace kervo
