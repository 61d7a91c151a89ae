// Threads on round faces, of holes and of rods: as a mark, or cut.
#include <algorithm>
#include <cmath>

#include "base/quantity.h"
#include "base/say.h"
#include "fields/choice_field.h"
#include "fields/faces_field.h"
#include "fields/number_field.h"
#include "geom/display/outline.h"
#include "geom/divide/boolean.h"
#include "steps/registry.h"
#include "steps/shared/changed_bodies.h"
#include "steps/shared/picked_faces.h"
#include "steps/shared/threads.h"

namespace kervo {

namespace {

class Threads : public StepKind {
 public:
  Threads()
      : StepKind({.key = "thread",
                  .label = "Thread",
                  .menu = KindMenu::Cut,
                  .verb = "Cut a thread",
                  .help = "On round faces of holes and rods: a mark for drawings, or the thread itself",
                  .wells = {.stock = {"Round faces", "threaded"}, .cutter = {"Thread", "what it is like"}}}) {}

  void startFrom(const Selected& selected, Start& start) const override { start.set(faces_, selected.faces()); }
  std::optional<std::string> offered(const Selected& selected) const override {
    return selected.anyOf(Picked::What::Face) ? std::optional<std::string>(say("Give it a thread")) : std::nullopt;
  }

  StepResult evaluate(StepInputs& inputs, Progress& progress) const override {
    StepResult result;
    for (const PickedFaces& picked : pickedFaces(inputs, faces_, result)) {
      std::vector<Shape> cutters;
      for (const Face& face : picked.faces) {
        auto place = threadPlaceOf(picked.shape, face);
        if (!place)
          faces_.fail(say("a %1 face gets no thread", say(face.surfaceName().c_str())),
                      say("Choose faces that are cylinders"));
        const ThreadForm form = formFor(inputs, *place);
        shorten(inputs, *place);
        if (looks_.of(inputs) == Looks::Mark)
          mark(result, inputs, picked.body, form, *place);
        else
          cutters.push_back(cutterFor(result, inputs, form, *place, progress));
        if (result.gauges.empty() && reach_.of(inputs) == Reach::Length) addGauge(result, inputs, *place);
      }
      if (!cutters.empty()) cut(result, inputs, picked, cutters, progress);
    }
    return result;
  }

 private:
  /// By the face's diameter, of a pitch of one's own, or a metric screw, by its number from `Metric`.
  enum class Size { ByDiameter, Own, Metric };
  enum class Hand { Right, Left };
  enum class Looks { Mark, Cut };
  enum class Reach { Whole, Length };
  enum class End { One, Other };

  static std::vector<std::string> sizeWords() {
    std::vector<std::string> words{"by diameter", "own pitch"};
    for (const MetricScrew& screw : metricScrews()) words.emplace_back(screw.name);
    return words;
  }

  ThreadForm formFor(const Inputs& inputs, const ThreadPlace& place) const {
    const bool right = hand_.of(inputs) == Hand::Right;
    const double wide = 2 * place.radius;
    const auto number = static_cast<int>(size_.of(inputs)) - static_cast<int>(Size::Metric);
    if (size_.of(inputs) == Size::Own) {
      const double pitch = pitch_.of(inputs);
      constexpr double deepest = 0.3;  // of the diameter
      if (pitch > deepest * wide)
        pitch_.fail(say("%1 mm is too much for a face %2 mm wide", formatNumber(pitch, 6), formatNumber(wide, 6)),
                    say("Type a smaller pitch"));
      const double diameter = place.inner ? wide + 1.0825 * pitch : wide;
      return {say("%1 × %2", formatNumber(diameter, 4), formatNumber(pitch, 4)), diameter, pitch, right};
    }
    const MetricScrew* screw = number < 0 ? screwFor(place) : &metricScrews()[static_cast<std::size_t>(number)];
    if (!screw)
      size_.fail(
          say("no common screw has a %1 of %2 mm", place.inner ? say("core") : say("diameter"), formatNumber(wide, 6)),
          say("Choose a pitch of your own, or change the diameter"));
    const double wanted = place.inner ? screw->core : screw->diameter;
    if (std::abs(wanted - wide) > screw->pitch / 2)
      size_.fail(say("%1 wants %2 mm, and the face is %3 mm wide", screw->name, formatNumber(wanted, 6),
                     formatNumber(wide, 6)),
                 say("Choose another size, or change the diameter"));
    return {screw->name, screw->diameter, screw->pitch, right};
  }

  void shorten(const Inputs& inputs, ThreadPlace& place) const {
    if (reach_.of(inputs) == Reach::Whole) return;
    const double length = length_.of(inputs);
    if (length >= place.to - place.from) return;
    if (end_.of(inputs) == End::One) {
      place.to = place.from + length;
      place.toOpen = true;
    } else {
      place.from = place.to - length;
      place.fromOpen = true;
    }
  }

  void addGauge(StepResult& result, const Inputs& inputs, const ThreadPlace& place) const {
    const bool one = end_.of(inputs) == End::One;
    result.gauges.push_back({length_.key(), place.at.at(place.radius, 0, one ? place.from : place.to),
                             one ? place.at.normal : -place.at.normal, length_.of(inputs)});
  }

  static void tell(StepResult& result, const ThreadForm& form, const ThreadPlace& place) {
    result.audit.notes.push_back(say("%1, pitch %2 mm, %3, %4 mm long", form.name, formatNumber(form.pitch, 4),
                                     form.right ? say("right-handed") : say("left-handed"),
                                     formatNumber(place.to - place.from, 5)));
  }

  void mark(StepResult& result, StepInputs& inputs, const BodyId& body, const ThreadForm& form,
            const ThreadPlace& place) const {
    const Shape shape = threadMark(form, place);
    const BodyId id = inputs.id() + "/" + std::to_string(result.made.size() + 1);
    const std::string name = say("%1 thread", form.name);
    result.made.push_back({.id = id, .form = BodyForm(shape), .name = name});
    result.pieces.push_back(Piece::whole(name, id, shape));
    if (std::find(result.audit.touched.begin(), result.audit.touched.end(), body) == result.audit.touched.end())
      result.audit.touched.push_back(body);
    tell(result, form, place);
  }

  Shape cutterFor(StepResult& result, StepInputs& inputs, const ThreadForm& form, const ThreadPlace& place,
                  Progress& progress) const {
    const double turns = (place.to - place.from) / form.pitch;
    constexpr double most = 60;
    if (turns > most)
      length_.fail(say("that would be %1 turns", formatNumber(turns, 4)),
                   say("At most %1 are cut: make it shorter, or a mark", static_cast<int>(most)));
    progress.enter(0, 0.2, say("making the thread"));
    tell(result, form, place);
    constexpr int facesPerTurn = 5;
    result.audit.notes.push_back(say("cut: %1 faces more, which every later cut and file carries",
                                     static_cast<int>(std::lround(turns * facesPerTurn))));
    const Shape cutter = threadCutter(form, place, inputs.id().text(), progress);
    for (Polyline& line : edgeLines(cutter)) result.cutterOutline.push_back(std::move(line));
    return cutter;
  }

  static void cut(StepResult& result, StepInputs& inputs, const PickedFaces& picked, const std::vector<Shape>& cutters,
                  Progress& progress) {
    inputs.finding().cutterOutline = result.cutterOutline;
    progress.enter(0.2, 1, say("cutting the thread"));
    const Division division = divide(picked.shape, cutters, progress);
    if (division.inside.empty()) throw Error(say("the thread does not meet \"%1\"", picked.body));
    replaceBody(result, picked.body, picked.shape, division.outside);
    inputs.finding().cutterOutline.clear();
  }

  const FacesField faces_{*this,
                          {.key = "faces", .label = "Round faces", .well = Well::Stock, .help = "of holes and rods"}};
  const ChoiceField<Size> size_{*this,
                                {.key = "size",
                                 .label = "Size",
                                 .well = Well::Cutter,
                                 .help = "of rods the diameter counts, of holes the core",
                                 .telling = true},
                                sizeWords()};
  const LengthField pitch_{*this,
                           {.key = "pitch",
                            .label = "Pitch",
                            .well = Well::Cutter,
                            .help = "from one turn to the next",
                            .when = size_.is(Size::Own)},
                           "1 mm",
                           NumberRule::Positive};
  const ChoiceField<Hand> hand_{*this, {.key = "hand", .label = "Hand", .well = Well::Cutter}, {"right", "left"}};
  const ChoiceField<Looks> looks_{*this,
                                  {.key = "looks",
                                   .label = "Made as",
                                   .well = Well::Cutter,
                                   .help = "mark: lines on the face; cut: the thread itself, which takes its time"},
                                  {"mark", "cut"}};
  const ChoiceField<Reach> reach_{
      *this, {.key = "reach", .label = "Goes over", .well = Well::Reach}, {"the whole face", "a length"}};
  const LengthField length_{*this,
                            {.key = "length", .label = "Length", .well = Well::Reach, .when = reach_.is(Reach::Length)},
                            "10 mm",
                            NumberRule::Positive};
  const ChoiceField<End> end_{*this,
                              {.key = "end", .label = "From", .well = Well::Reach, .when = reach_.is(Reach::Length)},
                              {"one end", "the other end"}};
};

}  // namespace

const StepKind& threadStep() {
  static const Threads kind;
  return kind;
}

}  // namespace kervo
