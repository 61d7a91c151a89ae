// Openings through slabs and walls: what is opened is chosen by what it is.
#include <algorithm>
#include <map>

#include "base/expression.h"
#include "base/quantity.h"
#include "base/say.h"
#include "fields/bodies_field.h"
#include "fields/choice_field.h"
#include "fields/regions_field.h"
#include "fields/text_field.h"
#include "geom/display/outline.h"
#include "geom/divide/perforate.h"
#include "geom/measure/clear_height.h"
#include "geom/tolerances.h"
#include "steps/registry.h"
#include "steps/shared/divided_bodies.h"
#include "steps/shared/met_bodies.h"

namespace kervo {

namespace {

class OpenThrough : public StepKind {
 public:
  OpenThrough()
      : StepKind({.key = "open_through",
                  .label = "Opening through",
                  .menu = KindMenu::Cut,
                  .verb = "Opening through …",
                  .shortcut = "Ctrl+Alt+O",
                  .help = "Opens slabs and walls along the regions of a drawing: only what is meant",
                  .wells = {.stock = {"Stock", "what may be opened"},
                            .cutter = {"Outlines", "seen from above"},
                            .reach = {"Through", "what is opened"}}}) {}

  const FieldOf<std::string>* nameOfMeasured() const override { return &clearName_; }

  void startFrom(const Selected& selected, Start& start) const override {
    start.set(profiles_, RegionPick{selected.drawing});
    if (const auto bodies = selected.wholeBodies(); !bodies.empty()) start.set(stock_, BodyPick::only(bodies));
  }
  std::optional<std::string> offered(const Selected& selected) const override {
    const bool drawn = selected.anyOf(Picked::What::Drawing) || (selected.nothing() && !selected.drawing.empty());
    return selected.anyBody && drawn ? std::optional(say("Open slabs with it …")) : std::nullopt;
  }

  StepResult evaluate(StepInputs& inputs, Progress& progress) const override {
    const std::string& name = clearName_.of(inputs);
    if (!name.empty())
      if (const std::string reason = whyNotAName(name); !reason.empty())
        clearName_.fail(reason, say("Choose another name, or leave it empty"));
    const Stock stock = stockOf(inputs, stock_);
    Box around;
    for (const BodyId& body : stock.bodies) around.add(inputs.box(body));
    for (const BodyId& body : stock.shielded) around.add(inputs.box(body));
    StepResult result;
    std::map<BodyId, std::vector<SweptRegion>> cutters;
    const std::vector<SweptRegion> outlines = sweep(inputs.id(), joined(profiles_.of(inputs)), true,
                                                    SweepLimit::beyond(), SweepLimit::beyond(), around, progress);
    std::string nearest;
    for (std::size_t i = 0; i < outlines.size(); ++i) {
      const double count = static_cast<double>(outlines.size());
      progress.enter(0.5 * static_cast<double>(i) / count, 0.5 * static_cast<double>(i + 1) / count, {});
      open(outlines[i], stock, inputs, cutters, result, progress, nearest);
    }
    addGauge(result, inputs, outlines);
    if (cutters.empty()) fail(inputs, result, nearest);
    progress.enter(0.5, 1, {});
    for (const BodyId& body : stock.bodies) {
      progress.throwIfStopped();
      const auto mine = cutters.find(body);
      if (mine == cutters.end()) continue;
      const Division cut = cutSwept(inputs.shape(body), mine->second, progress);
      if (!cut.inside.empty()) addDivided(result, inputs, body, cut);
    }
    settlePieces(result, inputs, pieces_.in(inputs));
    measureClearHeight(result, inputs, stock, progress);
    return result;
  }

 private:
  enum class Opens { ThisSlab, AllSlabs, NextWall, Depth };
  enum class Way { Down, Up };

  /// Adds what one outline opens to the cutters of each body.
  void open(const SweptRegion& outline, const Stock& stock, StepInputs& inputs,
            std::map<BodyId, std::vector<SweptRegion>>& cutters, StepResult& result, Progress& progress,
            std::string& nearest) const {
    const std::vector<MetPart> met = metBy(outline, inputs, stock.bodies, progress);
    std::vector<bool> chosen(met.size(), false);
    double low = 0, high = 0;
    switch (opens_.of(inputs)) {
      case Opens::ThisSlab:
        chooseThisSlab(met, chosen, nearest);
        break;
      case Opens::AllSlabs:
        for (std::size_t i = 0; i < met.size(); ++i) chosen[i] = met[i].slab;
        break;
      case Opens::NextWall:
        chooseNext(met, chosen, way_.of(inputs) == Way::Down);
        break;
      case Opens::Depth: {
        const bool down = way_.of(inputs) == Way::Down;
        SweptRegion deep = outline;
        (down ? deep.from : deep.to) = depth_.of(inputs) * (down ? -1 : 1);
        (down ? deep.to : deep.from) = 0;
        for (std::size_t i = 0; i < met.size(); ++i)
          if (met[i].high > deep.from + tolerance::point && met[i].low < deep.to - tolerance::point) {
            chosen[i] = true;
            if (auto& own = cutters[met[i].body]; own.empty() || own.back().region.name() != outline.region.name())
              own.push_back(deep);
          }
        low = deep.from, high = deep.to;
        break;
      }
    }
    for (std::size_t i = 0; i < met.size(); ++i) {
      const BodyId& body = met[i].body;
      if (chosen[i]) {
        if (opens_.of(inputs) == Opens::Depth) continue;
        low = std::min(low, met[i].low), high = std::max(high, met[i].high);
        if (!anyChosenBefore(met, chosen, i))
          for (SweptRegion& cutter : cuttersFor(outline, body, met, chosen)) cutters[body].push_back(std::move(cutter));
      } else if (auto& spared = result.audit.spared; std::find(spared.begin(), spared.end(), body) == spared.end()) {
        spared.push_back(body);
      }
    }
    for (const BodyId& body : stock.shielded) {
      auto& shielded = result.audit.shielded;
      if (inputs.box(body).overlaps(sweptBox(outline)) &&
          std::find(shielded.begin(), shielded.end(), body) == shielded.end())
        shielded.push_back(body);
    }
    show(result, outline, low, high);
  }

  static bool anyChosenBefore(const std::vector<MetPart>& met, const std::vector<bool>& chosen, std::size_t i) {
    for (std::size_t k = 0; k < i; ++k)
      if (chosen[k] && met[k].body == met[i].body) return true;
    return false;
  }

  /// The slab in whose thickness the drawing lies, with those that lie on it or under it without a gap.
  static void chooseThisSlab(const std::vector<MetPart>& met, std::vector<bool>& chosen, std::string& nearest) {
    constexpr double gap = tolerance::samplePoint;
    double low = 0, high = 0, best = Box::infinity;
    for (bool more = true; more;) {
      more = false;
      for (std::size_t i = 0; i < met.size(); ++i) {
        if (chosen[i] || !met[i].slab || met[i].low > high + gap || met[i].high < low - gap) continue;
        chosen[i] = more = true;
        low = std::min(low, met[i].low), high = std::max(high, met[i].high);
      }
    }
    for (const MetPart& each : met) {
      const double away = std::max(each.low, -each.high);
      if (!each.slab || away >= best) continue;
      best = away;
      nearest = each.low > 0
                    ? say("the nearest slab, \"%1\", lies %2 mm above it", each.body, formatNumber(each.low))
                    : say("the nearest slab, \"%1\", lies %2 mm below it", each.body, formatNumber(-each.high));
    }
  }

  /// The first that is met on the way; those that begin together are one.
  static void chooseNext(const std::vector<MetPart>& met, std::vector<bool>& chosen, bool down) {
    const auto start = [&](const MetPart& each) { return down ? -each.high : each.low; };
    const auto end = [&](const MetPart& each) { return down ? -each.low : each.high; };
    double first = Box::infinity;
    for (const MetPart& each : met)
      if (end(each) > tolerance::samplePoint) first = std::min(first, start(each));
    for (std::size_t i = 0; i < met.size(); ++i)
      chosen[i] = end(met[i]) > tolerance::samplePoint && start(met[i]) < first + tolerance::samplePoint;
  }

  static void show(StepResult& result, const SweptRegion& outline, double low, double high) {
    const Vector normal = normalOf(outline.region);
    for (const Polyline& loop : outlinesOf(outline.region)) {
      for (const double at : {low, high}) {
        Polyline moved = loop;
        for (Point& point : moved) point = point + normal * at;
        result.cutterOutline.push_back(std::move(moved));
        if (high - low < tolerance::point) break;
      }
      for (std::size_t quarter = 0; quarter < 4 && high > low; ++quarter) {
        const Point point = loop[quarter * (loop.size() - 1) / 4];
        result.cutterOutline.push_back({point + normal * low, point + normal * high});
      }
    }
  }

  void addGauge(StepResult& result, StepInputs& inputs, const std::vector<SweptRegion>& outlines) const {
    if (opens_.of(inputs) != Opens::Depth || outlines.empty()) return;
    const Region& region = outlines.front().region;
    const Vector along = way_.of(inputs) == Way::Down ? -normalOf(region) : normalOf(region);
    result.gauges.push_back({depth_.key(), middleOf(region), along, depth_.of(inputs)});
  }

  [[noreturn]] void fail(StepInputs& inputs, const StepResult& result, const std::string& nearest) const {
    inputs.finding().cutterOutline = result.cutterOutline;
    inputs.finding().gauges = result.gauges;
    const Opens opens = opens_.of(inputs);
    if (opens == Opens::ThisSlab && !nearest.empty())
      throw Error(say("no slab lies at the height of the drawing; %1", nearest), opens_.place(),
                  say("Choose all slabs, or move the drawing to the slab's level"));
    if (opens == Opens::ThisSlab || opens == Opens::AllSlabs)
      throw Error(say("the outlines meet no slab"), opens_.place(),
                  say("Choose the next wall, or check where the drawing lies"));
    throw Error(say("the outlines meet nothing on this way"), opens_.place(),
                say("Choose the other way, or check where the drawing lies"));
  }

  /// Above what is walked on, once all is open.
  void measureClearHeight(StepResult& result, StepInputs& inputs, const Stock& stock, Progress& progress) const {
    const std::vector<BodyId> walked = over_.of(inputs);
    if (walked.empty()) {
      if (!clearName_.of(inputs).empty())
        over_.fail(say("the clear height has a name, but nothing to be measured over"),
                   say("Pick the stair or ramp, or remove the name"));
      return;
    }
    const auto isWalked = [&](const BodyId& body) {
      return std::find(walked.begin(), walked.end(), body) != walked.end();
    };
    std::vector<Shape> above;
    for (const Output& made : result.made)
      if (const auto* body = std::get_if<BodyForm>(&made.form); body && body->shape() && !isWalked(made.from))
        above.push_back(*body->shape());
    for (const auto* bodies : {&stock.bodies, &stock.shielded})
      for (const BodyId& body : *bodies)
        if (!isWalked(body) && std::find(result.consumed.begin(), result.consumed.end(), body) == result.consumed.end())
          above.push_back(inputs.shape(body));
    const Vector up = profiles_.drawing(inputs).plane.normal;
    std::optional<ClearHeight> least;
    for (const BodyId& body : walked) {
      const auto found = clearHeight(inputs.shape(body), above, up, progress);
      if (found && (!least || found->height < least->height)) least = found;
    }
    if (!least) {
      if (!clearName_.of(inputs).empty())
        over_.fail(say("nothing is above it: there is no clear height to be measured"), say("Remove the name"));
      result.audit.notes.push_back(say("nothing is above what is walked on"));
      return;
    }
    result.measured = Measurement{clearName_.of(inputs), {least->height, lengthDimension}, {least->foot, least->head}};
    result.audit.notes.push_back(say("the clear height is %1 mm", formatNumber(least->height, 6)));
  }

  const RegionsField profiles_{*this, {.key = "profiles", .label = "Outlines", .well = Well::Cutter}};
  const BodiesField stock_{*this, {.key = "stock", .label = "Stock", .well = Well::Stock}, BodyPick::everything()};
  const ChoiceField<Opens> opens_{
      *this,
      {.key = "opens",
       .label = "Opens",
       .well = Well::Reach,
       .help = say("this slab: the one at the height of the drawing; a slab is a plate along the drawing's plane that "
                   "goes on beyond the outline; the next wall is the first thing on the way"),
       .telling = true},
      {"this slab", "all slabs", "next wall", "depth"}};
  const ChoiceField<Way> way_{*this,
                              {.key = "way",
                               .label = "Way",
                               .well = Well::Reach,
                               .help = "down: against the drawing plane's normal",
                               .when = opens_.is(Opens::NextWall, Opens::Depth)},
                              {"down", "up"}};
  const LengthField depth_{*this,
                           {.key = "depth", .label = "Depth", .well = Well::Reach, .when = opens_.is(Opens::Depth)},
                           "1 m",
                           NumberRule::Positive};
  const BodiesField over_{*this,
                          {.key = "over",
                           .label = "Clear height over",
                           .well = Well::Reach,
                           .help = "a stair or ramp: the least height straight up from it is measured and shown"},
                          BodyPick::only({})};
  const TextField clearName_{*this,
                             {.key = "clear_name",
                              .label = "Clear height as",
                              .well = Well::Reach,
                              .help = "a dimension for the expressions of later steps"}};
  const PiecesField pieces_{*this};
};

}  // namespace

const StepKind& openThroughStep() {
  static const OpenThrough kind;
  return kind;
}

}  // namespace kervo
