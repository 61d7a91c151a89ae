// Stock divided by planes, surfaces, drawn lines and bodies, with a kerf if wanted.
#include <algorithm>
#include <atomic>
#include <cmath>
#include <map>

#include "base/parallel.h"
#include "base/say.h"
#include "fields/flag_field.h"
#include "geom/curves/curve_body.h"
#include "geom/divide/plane_split.h"
#include "geom/motion.h"
#include "geom/surface/reach_gap.h"
#include "geom/surface/sheet.h"
#include "geom/tolerances.h"
#include "steps/registry.h"
#include "steps/shared/alike_bodies.h"
#include "steps/shared/cutters.h"
#include "steps/shared/divided_bodies.h"
#include "steps/shared/reach_report.h"
#include "steps/shared/stock_divider.h"

namespace kervo {

namespace {

enum class KerfSide { Centred, Front, Back };
enum class Keep { Both, Front, Back };

class Split : public StepKind {
 public:
  Split()
      : StepKind({.key = "split",
                  .label = "Split",
                  .menu = KindMenu::Cut,
                  .shortcut = "Ctrl+Shift+B",
                  .help = "By planes, surfaces, drawn lines and bodies, with a kerf",
                  .takesMeshes = true}) {}

  void startFrom(const Selected& selected, Start& start) const override;
  std::optional<std::string> offered(const Selected& selected) const override {
    if (!selected.anyBody || (selected.step && selected.picks.empty())) return std::nullopt;
    const bool along = selected.anyOf(Picked::What::Face) || selected.plane() || selected.anyOf(Picked::What::Drawing);
    return along ? say("Split along it") : "Split";
  }

  StepResult evaluate(StepInputs& inputs, Progress& progress) const override {
    return Work(*this, inputs, progress).run();
  }

 private:
  /// One evaluation.
  class Work {
   public:
    Work(const Split& fields, StepInputs& inputs, Progress& progress)
        : fields_(fields),
          inputs_(inputs),
          progress_(progress),
          kerf_(fields.kerfOf(inputs)),
          keep_(fields.keep_.of(inputs)),
          everything_(fields.everything_.of(inputs) && keep_ != Keep::Both),
          misses_({fields.cut_.cutters, fields.reach_, fields.kerf_}) {}

    StepResult run() {
      Stock stock = stockOf(inputs_, fields_.stock_);
      for (const BodyId& body : stock.bodies) around_.add(inputs_.box(body));
      const CutterReach reach = reachOf(inputs_, fields_.cut_, fields_.reach_);
      finite_ = reach.extent == Extent::Finite;
      cutters_ = cuttersOf(inputs_, fields_.cut_.cutters, reach, around_, progress_, CurveCutters::Allowed);
      std::erase_if(stock.bodies, [&](const BodyId& body) { return isCutter(body); });
      sparesOthersFromCurves(stock);
      if (stock.bodies.empty())
        fields_.stock_.fail(say("every body of the stock is a cutter as well"), say("Choose another body to be cut"));
      inputs_.finding().cutterOutline = result_.cutterOutline = outlinesOf(cutters_, around_);
      showGauges();
      inputs_.finding().gauges = result_.gauges;
      requireFeasible(inputs_, stock.bodies, faceCountOf(cutters_));
      requireFeasible(planesOf(cutters_), around_);
      const StockDivider divider(cutters_, kerf_, inputs_.id(), fields_.kerf_, progress_);
      std::vector<Shape> shapes;
      for (const BodyId& body : stock.bodies) shapes.push_back(inputs_.shape(body));
      const std::vector<Outcome> outcomes = divideAll(shapes, divider);
      for (std::size_t i = 0; i < shapes.size(); ++i) settle(stock.bodies[i], shapes[i], outcomes[i]);
      for (const BodyId& body : stock.shielded) result_.audit.shielded.push_back(body);
      if (result_.audit.touched.empty()) misses_.fail(inputs_);
      misses_.warn(inputs_);
      inputs_.finding().cutterOutline.clear();
      inputs_.finding().gauges.clear();
      settlePieces(result_, inputs_, fields_.pieces_.in(inputs_));
      std::vector<BodyId> cutters;
      for (const ResolvedCutter& cutter : cutters_)
        if (!cutter.body.empty()) cutters.push_back(cutter.body);
      fields_.alike_.carry(result_, inputs_, cutters, progress_);
      return std::move(result_);
    }

   private:
    bool isCutter(const BodyId& body) const {
      return std::any_of(cutters_.begin(), cutters_.end(),
                         [&](const ResolvedCutter& cutter) { return cutter.body == body; });
    }

    /// Gauges at a single plane: its offset, and the kerf.
    void showGauges() {
      const Plane* only = onePlane();
      if (!only) return;
      const Plane& plane = *only;
      const Polyline& rectangle = result_.cutterOutline.front();
      const Point corner = rectangle[1];
      const Point edge = (rectangle[0] + rectangle[1]) * 0.5;
      const auto& [cutters, offsetField, tiltField, turnField] = fields_.cut_;
      const double offset = offsetField.of(inputs_);
      const Vector along = cutters_.front().offsetAlong;
      result_.gauges.push_back({offsetField.key(), edge - along * offset, along, offset});
      // Turned about the middle of the stock, and shown on the plane's far sides.
      const Point middle = around_.centre() - plane.normal * plane.signedDistance(around_.centre());
      const double tilt = tiltField.of(inputs_), turn = turnField.of(inputs_), radius = 0.42 * around_.diagonal();
      const auto back = [](Vector axis, double angle, Vector v) { return Motion::turn({}, axis, -angle).turned(v); };
      result_.gauges.push_back(
          Gauge::angle(tiltField.key(), middle, plane.x, back(plane.x, tilt, plane.y), radius, tilt));
      result_.gauges.push_back(
          Gauge::angle(turnField.key(), middle, plane.y, back(plane.y, turn, plane.x), radius, turn));
      const KerfSide side = fields_.kerfSide_.of(inputs_);
      result_.gauges.push_back({fields_.kerf_.key(), corner, side == KerfSide::Back ? -plane.normal : plane.normal,
                                fields_.kerf_.of(inputs_), side == KerfSide::Centred});
    }

    /// The plane, if it is the only cutter.
    const Plane* onePlane() const {
      if (cutters_.size() != 1) return nullptr;
      const auto& plane = cutters_.front().plane;
      return plane ? &*plane : nullptr;
    }

    /// What the cutters make of one body; `byPlane` if a single plane is all.
    struct Outcome {
      PlaneSplit byPlane;
      Divided divided;
      std::vector<Shape> curves;  ///< stretches of a curve
    };

    /// Every body divided, several at once where they have nothing in common. They have if a cutter is a body or a
    /// surface: the kernel may note things down on what it intersects.
    std::vector<Outcome> divideAll(const std::vector<Shape>& stocks, const StockDivider& divider) {
      std::vector<Outcome> outcomes(stocks.size());
      std::atomic<int> done = 0;
      const auto divideOne = [&](std::size_t i) {
        progress_.report(static_cast<double>(done) / static_cast<double>(stocks.size()));
        outcomes[i] = outcomeOf(stocks[i], divider);
        ++done;
      };
      const bool planesOnly = std::all_of(cutters_.begin(), cutters_.end(), [](const auto& c) { return c.plane; });
      if (planesOnly && shareNothing(stocks))
        inParallel(stocks.size(), divideOne);
      else
        for (std::size_t i = 0; i < stocks.size(); ++i) divideOne(i);
      return outcomes;
    }

    Outcome outcomeOf(const Shape& stock, const StockDivider& divider) {
      Outcome outcome;
      if (stock.kind() == BodyKind::Curve) {
        if (fields_.kerf_.of(inputs_) == 0) outcome.curves = splitCurve(stock, curveCutters(), progress_);
        return outcome;
      }
      if (const Plane* plane = onePlane())
        outcome.byPlane = splitByPlane(inputs_.id(), stock, *plane, kerf_, progress_);
      else
        outcome.divided = divider.divide(stock);
      return outcome;
    }

    void settle(const BodyId& body, const Shape& stock, const Outcome& outcome) {
      if (stock.kind() == BodyKind::Curve) return settleCurve(body, stock, outcome.curves);
      if (onePlane()) return settleByPlane(body, stock, outcome.byPlane);
      const Divided& divided = outcome.divided;
      if (!divided.changed()) return spare(body, stock, divided);
      if (!finite_) noteGaps(body, stock);
      add(body, stock, divided);
    }

    /// Nothing of the body was divided: says why, or lets it go with its side.
    void spare(const BodyId& body, const Shape& stock, const Divided& divided) {
      const Side wanted = keep_ == Keep::Front ? Side::Front : Side::Back;
      const auto& sides = divided.parts.front().sides;
      const bool otherSide =
          std::any_of(sides.begin(), sides.end(), [&](Side side) { return side != Side::Unknown && side != wanted; });
      if (everything_ && otherSide) return letGo(body, stock);
      result_.audit.spared.push_back(body);
      for (const ResolvedCutter& cutter : cutters_) misses_.explain(inputs_, body, stock, cutter, finite_, progress_);
    }

    /// A curve among the cutters cuts curves only.
    void sparesOthersFromCurves(Stock& stock) {
      const auto curve =
          std::find_if(cutters_.begin(), cutters_.end(), [](const auto& cutter) { return !cutter.curve.empty(); });
      if (curve == cutters_.end()) return;
      const bool any = std::any_of(stock.bodies.begin(), stock.bodies.end(),
                                   [&](const BodyId& body) { return inputs_.shape(body).kind() == BodyKind::Curve; });
      if (!any && !stock.bodies.empty())
        fields_.cut_.cutters.fail(say("\"%1\" is a curve, which does not cut by itself", curve->body),
                                  say("Sweep it to a surface, score faces with it, or choose curves as stock"));
      std::erase_if(stock.bodies, [&](const BodyId& body) {
        if (inputs_.shape(body).kind() == BodyKind::Curve) return false;
        result_.audit.spared.push_back(body);
        misses_.add(body, say("is no curve, and a curve cuts only curves"));
        return true;
      });
    }

    std::vector<CurveCutter> curveCutters() const {
      std::vector<CurveCutter> result;
      for (const ResolvedCutter& cutter : cutters_)
        result.push_back({cutter.plane, !cutter.solid.empty()   ? cutter.solid
                                        : !cutter.curve.empty() ? cutter.curve
                                                                : cutter.sheet});
      return result;
    }

    /// Stretches are called by the sides they lie on, and numbered along the curve.
    void settleCurve(const BodyId& body, const Shape& stock, const std::vector<Shape>& parts) {
      const auto closed = [](const std::vector<Shape>& curves) {
        int sum = 0;
        for (const Shape& curve : curves) sum += closedChainCount(curve);
        return sum;
      };
      const bool cut = static_cast<int>(parts.size()) != chainCount(stock) || closed(parts) != closedChainCount(stock);
      if (parts.empty() || !cut) {
        result_.audit.spared.push_back(body);
        return misses_.add(body, parts.empty() ? say("is a curve, which a kerf cannot divide; make the kerf 0")
                                               : say("is a curve that no cutter meets"));
      }
      result_.audit.touched.push_back(body);
      result_.consumed.push_back(body);
      const std::vector<CurveCutter> cutters = curveCutters();
      std::vector<std::pair<std::string, bool>> names;
      std::map<std::string, int> times;
      for (const Shape& part : parts) {
        SidedPart sided{part, {}};
        for (const CurveCutter& cutter : cutters) {
          const int side = sideOf(middleOfCurve(part), cutter);
          sided.sides.push_back(side > 0 ? Side::Front : side < 0 ? Side::Back : Side::Unknown);
        }
        names.emplace_back(nameOf(sided), isWanted(sided));
        ++times[names.back().first];
      }
      std::map<std::string, int> number;
      for (std::size_t i = 0; i < parts.size(); ++i) {
        const auto& [name, wanted] = names[i];
        const std::string own = times[name] > 1 ? name + " " + std::to_string(++number[name]) : name;
        addSide(body, own, {parts[i]}, wanted);
      }
    }

    void letGo(const BodyId& body, const Shape& stock) {
      result_.consumed.push_back(body);
      result_.audit.cuts = true;
      result_.audit.touched.push_back(body);
      result_.audit.volumeBefore += stock.volume();
      result_.audit.volumeRemoved += stock.volume();
      addDropped(result_, inputs_, body, body, say("on the other side"), {stock});
    }

    void settleByPlane(const BodyId& body, const Shape& stock, const PlaneSplit& sides) {
      if (sides.missed()) {
        const bool behind = sides.front.empty();
        if (everything_ && keep_ == (behind ? Keep::Front : Keep::Back)) return letGo(body, stock);
        result_.audit.spared.push_back(body);
        return misses_.add(body,
                           behind ? say("lies entirely behind the plane") : say("lies entirely in front of the plane"));
      }
      addBalance(result_.audit, body, sides.cut);
      result_.consumed.push_back(body);
      addSide(body, "front", sides.front, keep_ != Keep::Back);
      addSide(body, "back", sides.back, keep_ != Keep::Front);
      result_.audit.volumeRemoved += sides.waste.volume();
      addWaste(result_, body, body + "/kerf", "kerf", sides.waste);
    }

    /// Parts of one name: kept, or dropped.
    void addSide(const BodyId& body, const std::string& name, const std::vector<Shape>& parts, bool kept) {
      if (parts.empty()) return;
      double volume = 0;
      for (const Shape& part : parts) volume += part.volume();
      (kept ? result_.audit.volumeAfter : result_.audit.volumeRemoved) += volume;
      const BodyId id = body.part(name);
      kept ? addKept(result_, inputs_, body, id, name, parts) : addDropped(result_, inputs_, body, id, name, parts);
    }

    void noteGaps(const BodyId& body, const Shape& stock) {
      for (const ResolvedCutter& cutter : cutters_) {
        if (cutter.sheet.empty() || stock.kind() != BodyKind::Solid) continue;
        if (const auto gap = gapOf(stock, cutter.sheet, progress_))
          misses_.warnOfGap(inputs_, body, stock, cutter, *gap, progress_);
      }
    }

    std::string nameOf(const SidedPart& part) const {
      std::string name;
      for (std::size_t i = 0; i < cutters_.size(); ++i) {
        if (part.sides[i] == Side::Unknown) continue;
        const bool body = !cutters_[i].solid.empty();
        const char* side = part.sides[i] == Side::Front ? (body ? "outside" : "front") : body ? "inside" : "back";
        name += (name.empty() ? "" : "-") + std::string(side);
      }
      return name.empty() ? "part" : name;
    }

    bool isWanted(const SidedPart& part) const {
      if (keep_ == Keep::Both) return true;
      const Side wanted = keep_ == Keep::Front ? Side::Front : Side::Back;
      return std::all_of(part.sides.begin(), part.sides.end(),
                         [&](Side side) { return side == Side::Unknown || side == wanted; });
    }

    void add(const BodyId& body, const Shape& stock, const Divided& divided) {
      Audit& audit = result_.audit;
      audit.cuts = true;
      audit.touched.push_back(body);
      audit.volumeBefore += stock.volume();
      noteMeshed(audit, divided.meshed);
      double sum = 0;
      if (!divided.remedy.empty())
        audit.warnings.push_back(say("the kernel needed help with \"%1\": %2", body, divided.remedy));
      result_.consumed.push_back(body);
      std::map<std::string, std::vector<Shape>> byName;
      std::map<std::string, bool> wanted;
      for (const SidedPart& part : divided.parts) {
        byName[nameOf(part)].push_back(part.shape);
        wanted[nameOf(part)] = isWanted(part);
        sum += part.shape.volume();
      }
      for (const auto& [name, parts] : byName) addSide(body, name, parts, wanted[name]);
      for (std::size_t i = 0; i < divided.waste.size(); ++i) {
        const Shape& waste = divided.waste[i];
        sum += waste.volume();
        audit.volumeRemoved += waste.volume();
        const std::string name = divided.waste.size() > 1 ? "kerf " + std::to_string(i + 1) : "kerf";
        addWaste(result_, body, body.part(name), name, waste);
      }
      audit.balance += stock.volume() - sum;
    }

    const Split& fields_;
    StepInputs& inputs_;
    Progress& progress_;
    const Kerf kerf_;
    const Keep keep_;
    const bool everything_;  ///< bodies entirely on the other side go as well
    bool finite_ = false;
    Box around_;
    std::vector<ResolvedCutter> cutters_;
    StepResult result_;
    ReachReport misses_;
  };

  Kerf kerfOf(const Inputs& inputs) const {
    const double width = kerf_.of(inputs);
    switch (kerfSide_.of(inputs)) {
      case KerfSide::Front:
        return Kerf::inFront(width);
      case KerfSide::Back:
        return Kerf::behind(width);
      case KerfSide::Centred:
        break;
    }
    return Kerf::centred(width);
  }

  const BodiesField stock_{*this, {.key = "stock", .label = "Stock", .well = Well::Stock}, BodyPick::everything()};
  const AlikeField alike_{*this};
  const CutterFields cut_{*this, {}, CuttersField::Curves::Taken};
  // The kerf is what is changed most.
  const LengthField kerf_{*this,
                          {.key = "kerf", .label = "Kerf", .well = Well::Reach, .help = "Width that the cut removes"},
                          "0 mm",
                          NumberRule::NotNegative};
  const ChoiceField<KerfSide> kerfSide_{
      *this, {.key = "kerf_side", .label = "Kerf side", .well = Well::Reach}, {"centred", "front", "back"}};
  const ExtentFields reach_{*this, {}};
  const ChoiceField<Keep> keep_{*this,
                                {.key = "keep",
                                 .label = "Keep",
                                 .well = Well::Pieces,
                                 .help = "front: the side that the plane's normal points to; outside of a body"},
                                {"both", "front", "back"}};
  const FlagField everything_{
      *this,
      {.key = "everything",
       .label = "All bodies on that side",
       .well = Well::Pieces,
       .help = "Also removes bodies that lie entirely on the other side, to halve a whole assembly",
       .when = keep_.is(Keep::Front, Keep::Back)}};
  const PiecesField pieces_{*this};
};

/// What is selected lands in the well that it fits: solids are cut, surfaces, faces, planes and drawings cut.
void Split::startFrom(const Selected& selected, Start& start) const {
  std::vector<CutterPick> cutters;
  std::vector<BodyId> stock;
  for (const Picked& pick : selected.picks) {
    const auto cutter = pick.cutter();
    if (!cutter) continue;
    if (cutter->kind == CutterPick::Kind::Body && (pick.bodyKind == BodyKind::Solid || pick.bodyKind == BodyKind::Mesh))
      stock.push_back(pick.body);
    else
      cutters.push_back(*cutter);
  }
  if (!stock.empty()) start.set(stock_, BodyPick::only(stock));
  if (!cutters.empty()) return start.set(cut_.cutters, cutters);
  if (selected.box.empty()) return;
  // Across the longest side, in the middle.
  const Vector size = selected.box.high - selected.box.low;
  const Point middle = selected.box.centre();
  const bool x = size.x >= size.y && size.x >= size.z, y = !x && size.y >= size.z;
  start.set(cut_.cutters, {CutterPick::of(PlanePick::standard(x ? "yz" : y ? "xz" : "xy"))});
  // A round number near the middle: a hundredth of the size, downwards to a power of ten.
  const double step = std::pow(10, std::floor(std::log10(std::max({size.x, size.y, size.z}) / 50)));
  start.set(cut_.offset, selected.inUnit(std::round((x ? middle.x : y ? -middle.y : middle.z) / step) * step));
}

}  // namespace

const StepKind& splitStep() {
  static const Split kind;
  return kind;
}

}  // namespace kervo
