// Stock and cutters subtracted, united, intersected or divided into all their regions.
#include <algorithm>
#include <map>
#include <set>

#include "base/say.h"
#include "fields/choice_field.h"
#include "fields/flag_field.h"
#include "fields/number_field.h"
#include "geom/divide/partition.h"
#include "geom/surface/reach_gap.h"
#include "geom/surface/sewn.h"
#include "geom/surface/sheet.h"
#include "geom/tolerances.h"
#include "geom/topology.h"
#include "steps/registry.h"
#include "steps/shared/alike_bodies.h"
#include "steps/shared/divided_bodies.h"

namespace kervo {

namespace {

const char* sentenceFor(Meeting meeting) {
  switch (meeting) {
    case Meeting::Touching:
      return later("\"%1\" only touches \"%2\"");
    case Meeting::CutterInside:
      return later("\"%1\" lies entirely inside \"%2\"");
    case Meeting::StockInside:
      return later("\"%1\" encloses \"%2\"");
    case Meeting::Apart:
      return later("\"%1\" does not reach \"%2\"");
  }
  return "";
}

enum class Verb { Subtract, Union, Intersect, Exclusive, Partition };
enum class After { UseUp, Keep, Hide };

class Combine : public StepKind {
 public:
  Combine()
      : StepKind({.key = "combine",
                  .label = "Combine",
                  .menu = KindMenu::Cut,
                  .shortcut = "Ctrl+Shift+M",
                  .help = "Subtract, unite, intersect or partition bodies",
                  .takesMeshes = true}) {}

  /// The first body is the stock, the others cut it.
  void startFrom(const Selected& selected, Start& start) const override {
    const std::vector<BodyId> bodies = selected.bodies();
    if (!bodies.empty()) start.set(stock, BodyPick::only({bodies.front()}));
    if (bodies.size() > 1) start.set(cutters, BodyPick::only({bodies.begin() + 1, bodies.end()}));
  }
  std::optional<std::string> offered(const Selected& selected) const override {
    if (selected.bodies().empty()) return std::nullopt;
    return selected.bodies().size() > 1 ? say("Combine them") : say("Cut it with …");
  }
  StepResult evaluate(StepInputs& inputs, Progress& progress) const override;

  const ChoiceField<Verb> verb{
      *this,
      {.key = "verb",
       .label = "Verb",
       .well = Well::Reach,
       .help = "exclusive: what lies in an odd number of the bodies; partition: every region is a piece",
       .telling = true},
      {"subtract", "union", "intersect", "exclusive", "partition"}};
  const BodiesField stock{*this, {.key = "stock", .label = "Stock", .well = Well::Stock}};
  const AlikeField alike{*this, verb.is(Verb::Subtract, Verb::Intersect)};
  const BodiesField cutters{*this, {.key = "cutters", .label = "Cutters", .well = Well::Cutter}};
  const ChoiceField<After> after{*this,
                                 {.key = "after",
                                  .label = "Cutters then",
                                  .well = Well::Cutter,
                                  .when = verb.is(Verb::Subtract, Verb::Union, Verb::Intersect)},
                                 {"use up", "keep", "hide"}};
  const LengthField clearance{*this,
                              {.key = "clearance",
                               .label = "Clearance",
                               .well = Well::Reach,
                               .help = "Round the cutters on every side; less than zero for a tight fit",
                               .when = verb.is(Verb::Subtract, Verb::Intersect, Verb::Exclusive, Verb::Partition)},
                              "0 mm"};
  const FlagField cutterColor{*this,
                              {.key = "cutter_color",
                               .label = "Cut faces in the cutter's colour",
                               .well = Well::Reach,
                               .when = verb.is(Verb::Subtract, Verb::Intersect)}};
  const FlagField seams{*this,
                        {.key = "seams",
                         .label = "Keep seams",
                         .well = Well::Reach,
                         .help = "Leave the edges between faces of one surface",
                         .when = verb.is(Verb::Union)}};
  const PiecesField pieces{*this};
};

/// One evaluation.
class Work {
 public:
  Work(const Combine& fields, StepInputs& inputs, Progress& progress)
      : fields_(fields), inputs_(inputs), progress_(progress), verb_(fields.verb.of(inputs)) {}

  StepResult run() {
    const Stock stock = stockOf(inputs_, fields_.stock);
    stock_ = stock.bodies;
    result_.audit.shielded = stock.shielded;
    takeCutters();
    double cutterFaces = 0;
    for (const Shape& tool : tools_) cutterFaces += tool.faceCount();
    requireFeasible(inputs_, stock_, cutterFaces);
    switch (verb_) {
      case Verb::Subtract:
        subtract();
        break;
      case Verb::Union:
        join();
        break;
      case Verb::Intersect:
        common();
        break;
      case Verb::Exclusive:
      case Verb::Partition:
        regions();
        break;
    }
    settlePieces(result_, inputs_, fields_.pieces.in(inputs_));
    if (verb_ == Verb::Subtract || verb_ == Verb::Intersect) fields_.alike.carry(result_, inputs_, cutters_, progress_);
    return std::move(result_);
  }

 private:
  void takeCutters() {
    const BodyPick& pick = fields_.cutters.in(inputs_);
    for (const BodyId& body : fields_.cutters.of(inputs_)) {
      const bool isStock = std::find(stock_.begin(), stock_.end(), body) != stock_.end();
      if (isStock && !pick.all)
        fields_.cutters.fail(say("\"%1\" is stock and cutter at once", body), say("Remove it from one of the two"));
      if (!isStock) cutters_.push_back(body);
    }
    const bool several = stock_.size() > 1 && verb_ != Verb::Subtract && verb_ != Verb::Intersect;
    if (cutters_.empty() && !several) fields_.cutters.fail(say("no cutter is chosen"), say("Pick the bodies that cut"));
    const double clearance = fields_.clearance.of(inputs_);
    const bool painted = (verb_ == Verb::Subtract || verb_ == Verb::Intersect) && fields_.cutterColor.of(inputs_);
    for (const BodyId& body : cutters_) {
      Shape shape = inputs_.shape(body);
      requireInside(body, shape);
      if (std::abs(clearance) >= tolerance::smallestSize) {
        try {
          shape = grown(shape, clearance, progress_);
        } catch (const Error& error) {
          fields_.clearance.fail(say("the clearance round \"%1\": %2", body, error.happened()), error.help());
        }
      }
      if (painted) shape = withFacesColoredLike(shape, body);
      tools_.push_back(shape);
    }
  }

  /// Throws Error for a surface where only what has an inside can be taken.
  void requireInside(const BodyId& body, const Shape& shape) const {
    const bool takes = verb_ == Verb::Subtract || verb_ == Verb::Intersect;
    if (shape.mesh() && !shape.watertight())
      fields_.cutters.fail(say("\"%1\" is a mesh that is not closed", body), say("Repair it, which fills its holes"));
    if (!takes || shape.empty() || shape.kind() != BodyKind::Surface) return;
    if (openEdgesOf(shape).empty())
      fields_.cutters.fail(say("\"%1\" closes, but it is a surface and no solid", body),
                           say("Make solid makes a solid of it"));
    fields_.cutters.fail(say("\"%1\" is an open surface, which has no inside", body),
                         say("Split with it and click the side that goes, or choose partition"));
  }

  void subtract() {
    for (std::size_t i = 0; i < stock_.size(); ++i) {
      progress_.report(static_cast<double>(i) / static_cast<double>(stock_.size()));
      const Division cut = divide(inputs_.shape(stock_[i]), tools_, progress_);
      if (cut.inside.empty())
        result_.audit.spared.push_back(stock_[i]);
      else
        addDivided(result_, inputs_, stock_[i], cut);
    }
    if (result_.audit.touched.empty()) failToMeet();
    useUp();
  }

  [[noreturn]] void failToMeet() {
    constexpr std::size_t most = 4;
    std::string reasons;
    std::size_t told = 0;
    for (const BodyId& body : stock_)
      for (std::size_t i = 0; i < cutters_.size() && told < most; ++i, ++told)
        reasons += (reasons.empty() ? "" : "; ") +
                   say(sentenceFor(meetingOf(inputs_.shape(body), tools_[i])), cutters_[i], body);
    fields_.cutters.fail(say("no cutter meets the stock: %1", reasons), say("Move the cutters, or choose others"));
  }

  void join() {
    std::vector<BodyId> all = stock_;
    all.insert(all.end(), cutters_.begin(), cutters_.end());
    std::vector<Shape> parts;
    parts.reserve(all.size());
    for (const BodyId& body : all) parts.push_back(inputs_.shape(body));
    const Union joined = unite(parts, fields_.seams.of(inputs_) ? Seams::Keep : Seams::Remove, progress_);
    if (!joined.remedy.empty()) inputs_.warn(say("the kernel needed help with the union: %1", joined.remedy));
    noteSeams(result_.audit, joined);
    noteMeshed(result_.audit, joined.meshed);
    result_.audit.touched = all;
    for (const Shape& part : parts) result_.audit.volumeBefore += part.volume();
    result_.audit.volumeAfter = joined.shape.volume();
    result_.consumed = stock_;
    const std::vector<Shape> pieces = joined.shape.pieces();
    if (pieces.size() > 1) nameGroups(all, parts, pieces);
    addKept(result_, inputs_, stock_.front(), stock_.front(), "", pieces);
    useUp();
  }

  /// Names the groups of connected bodies, which it recognises by the faces that the pieces took over.
  void nameGroups(const std::vector<BodyId>& all, const std::vector<Shape>& parts, const std::vector<Shape>& pieces) {
    std::string groups;
    for (const Shape& piece : pieces) {
      std::set<std::string> names;
      for (const Face& face : facesOf(piece)) names.insert(face.origins().begin(), face.origins().end());
      std::string group;
      for (std::size_t i = 0; i < all.size(); ++i) {
        const std::vector<Face> faces = facesOf(parts[i]);
        const bool in = std::any_of(faces.begin(), faces.end(),
                                    [&](const Face& face) { return names.contains(face.origins().front()); });
        if (in) group += (group.empty() ? "\"" : " + \"") + all[i] + "\"";
      }
      groups += (groups.empty() ? "" : "; ") + group;
    }
    inputs_.warn(say("not all of the bodies touch, so the union is in %1 pieces: %2", pieces.size(), groups));
  }

  void common() {
    for (const BodyId& body : stock_) {
      const Shape whole = inputs_.shape(body);
      Shape shared = whole;
      for (const Shape& tool : tools_)
        if (!shared.empty()) {
          const Division cut = divide(shared, {tool}, progress_);
          noteMeshed(result_.audit, cut.meshed);
          shared = cut.inside;
        }
      result_.audit.cuts = true;
      result_.audit.touched.push_back(body);
      result_.audit.volumeBefore += whole.volume();
      result_.audit.volumeAfter += shared.volume();
      result_.audit.volumeRemoved += whole.volume() - shared.volume();
      result_.consumed.push_back(body);
      if (shared.empty())
        inputs_.warn(say("\"%1\" has nothing in common with the cutters: nothing of it stays", body));
      else
        addKept(result_, inputs_, body, body, "", shared.pieces());
    }
    if (result_.made.empty())
      fields_.cutters.fail(say("the bodies have nothing in common"), say("Move the cutters, or choose others"));
    useUp();
  }

  /// Exclusive and partition: all regions, each with the bodies it belongs to.
  void regions() {
    std::vector<BodyId> all = stock_;
    std::vector<Shape> solids, sheets;
    for (const BodyId& body : stock_) solids.push_back(inputs_.shape(body));
    for (std::size_t i = 0; i < cutters_.size(); ++i) {
      if (inputs_.shielded(cutters_[i])) inputs_.warn(say("\"%1\" is shielded and only divides", cutters_[i]));
      if (tools_[i].hasInside()) {
        solids.push_back(tools_[i]);
        all.push_back(cutters_[i]);
      } else {
        sheets.push_back(tools_[i]);
      }
    }
    const Partition partition = kervo::partition(solids, sheets, progress_);
    noteMeshed(result_.audit, partition.meshed);
    if (!partition.remedy.empty()) inputs_.warn(say("the kernel needed help with the partition: %1", partition.remedy));
    std::map<std::vector<std::size_t>, std::vector<Shape>> bySet;
    std::vector<bool> met(all.size(), false);
    for (const Part& part : partition.parts) {
      bySet[part.in].push_back(part.shape);
      if (part.in.size() > 1)
        for (const std::size_t body : part.in) met[body] = true;
    }
    if (bySet.size() == all.size() && std::none_of(met.begin(), met.end(), [](bool one) { return one; }) &&
        partition.parts.size() == solids.size()) {
      if (cutters_.empty())
        fields_.stock.fail(say("the bodies do not overlap"), say("Choose bodies that reach into each other"));
      failToMeet();
    }
    result_.audit.cuts = true;
    for (std::size_t i = 0; i < all.size(); ++i)
      (met[i] || !sheets.empty() ? result_.audit.touched : result_.audit.spared).push_back(all[i]);
    for (const auto& [set, parts] : bySet) addRegion(all, set, parts);
    for (std::size_t i = 0; i < all.size(); ++i)
      if (isPublished(all[i], i)) result_.consumed.push_back(all[i]);
    result_.audit.volumeBefore = result_.audit.volumeAfter + result_.audit.volumeRemoved;
  }

  /// Shielded cutters stay as they are: the regions that belong only to them are not made again.
  bool isPublished(const BodyId& body, std::size_t number) const {
    return number < stock_.size() || !inputs_.shielded(body);
  }

  void addRegion(const std::vector<BodyId>& all, const std::vector<std::size_t>& set, const std::vector<Shape>& parts) {
    const auto owner = std::find_if(set.begin(), set.end(), [&](std::size_t i) { return isPublished(all[i], i); });
    if (owner == set.end()) return;
    const BodyId& from = all[*owner];
    double volume = 0;
    for (const Shape& part : parts) volume += part.volume();
    std::string others, spoken;
    for (const std::size_t i : set) {
      if (i == *owner) continue;
      others += (others.empty() ? "with " : " and ") + all[i];
      spoken = spoken.empty() ? say("with \"%1\"", all[i]) : say("%1 and \"%2\"", spoken, all[i]);
    }
    const BodyId id = others.empty() ? from : from.part(others);
    const bool kept = verb_ == Verb::Partition || set.size() % 2 == 1;
    (kept ? result_.audit.volumeAfter : result_.audit.volumeRemoved) += volume;
    kept ? addKept(result_, inputs_, from, id, spoken, parts) : addDropped(result_, inputs_, from, id, spoken, parts);
  }

  void useUp() {
    const After then = fields_.after.of(inputs_);
    if (then == After::Keep) return;
    for (const BodyId& body : cutters_) {
      if (inputs_.shielded(body)) {
        inputs_.warn(say("the cutter \"%1\" is shielded and is not used up", body));
        continue;
      }
      result_.consumed.push_back(body);
      if (then == After::Hide)
        result_.made.push_back({.id = body, .form = inputs_.shape(body), .from = body, .visible = false});
    }
  }

  const Combine& fields_;
  StepInputs& inputs_;
  Progress& progress_;
  const Verb verb_;
  std::vector<BodyId> stock_, cutters_;
  std::vector<Shape> tools_;  ///< the cutters with their clearance
  StepResult result_;
};

StepResult Combine::evaluate(StepInputs& inputs, Progress& progress) const {
  return Work(*this, inputs, progress).run();
}

}  // namespace

const StepKind& combineStep() {
  static const Combine kind;
  return kind;
}

}  // namespace kervo
