#include "steps/combine.h"

#include <algorithm>
#include <map>
#include <set>

#include "geom/partition.h"
#include "geom/reach_gap.h"
#include "geom/sheet.h"
#include "geom/tolerances.h"
#include "geom/topology.h"
#include "steps/divided_bodies.h"
#include "steps/simple_step.h"

namespace kervo {

namespace {

const char* wordFor(Meeting meeting) {
  switch (meeting) {
    case Meeting::Touching:
      return "only touches";
    case Meeting::CutterInside:
      return "lies wholly inside";
    case Meeting::StockInside:
      return "encloses";
    case Meeting::Apart:
      return "does not reach";
  }
  return "";
}

/// One evaluation.
class Work {
 public:
  Work(StepInputs& inputs, Progress& progress) : inputs_(inputs), progress_(progress), verb_(inputs.choice("verb")) {}

  StepResult run() {
    const Stock stock = stockOf(inputs_, "stock");
    stock_ = stock.bodies;
    result_.audit.shielded = stock.shielded;
    takeCutters();
    double cutterFaces = 0;
    for (const Shape& tool : tools_) cutterFaces += tool.faceCount();
    requireFeasible(inputs_, stock_, cutterFaces);
    if (verb_ == "subtract")
      subtract();
    else if (verb_ == "union")
      join();
    else if (verb_ == "intersect")
      common();
    else
      regions();
    settlePieces(result_, inputs_);
    return std::move(result_);
  }

 private:
  void takeCutters() {
    const BodyPick& pick = inputs_.value<BodyPick>("cutters");
    for (const BodyId& body : inputs_.picked(pick, "cutters")) {
      const bool isStock = std::find(stock_.begin(), stock_.end(), body) != stock_.end();
      if (isStock && !pick.all)
        throw Error("\"" + body + "\" is stock and cutter at once", "field Cutters", "Remove it from one of the two");
      if (!isStock) cutters_.push_back(body);
    }
    const bool several = stock_.size() > 1 && verb_ != "subtract" && verb_ != "intersect";
    if (cutters_.empty() && !several) throw Error("no cutter is chosen", "field Cutters", "Pick the bodies that cut");
    const double clearance = verb_ == "union" ? 0 : inputs_.number("clearance");
    const bool painted = (verb_ == "subtract" || verb_ == "intersect") && inputs_.flag("cutter_color");
    for (const BodyId& body : cutters_) {
      Shape shape = inputs_.shape(body);
      if (std::abs(clearance) >= tolerance::smallestSize) {
        try {
          shape = grown(shape, clearance, progress_);
        } catch (const Error& error) {
          throw Error("the clearance round \"" + body + "\": " + error.happened(), "field Clearance", error.help());
        }
      }
      if (painted) shape = withFacesColoredLike(shape, body);
      tools_.push_back(shape);
    }
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
        reasons += (reasons.empty() ? "" : "; ") + ("\"" + cutters_[i] + "\" ") +
                   wordFor(meetingOf(inputs_.shape(body), tools_[i])) + " \"" + body + "\"";
    throw Error("no cutter meets the stock: " + reasons, "field Cutters", "Move the cutters, or choose others");
  }

  void join() {
    std::vector<BodyId> all = stock_;
    all.insert(all.end(), cutters_.begin(), cutters_.end());
    std::vector<Shape> parts;
    parts.reserve(all.size());
    for (const BodyId& body : all) parts.push_back(inputs_.shape(body));
    const Union joined = unite(parts, inputs_.flag("seams") ? Seams::Keep : Seams::Remove, progress_);
    if (!joined.remedy.empty()) inputs_.warn("the kernel needed help with the union: " + joined.remedy);
    noteSeams(result_.audit, joined);
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
    inputs_.warn("not all of the bodies touch, so the union is in " + std::to_string(pieces.size()) +
                 " pieces: " + groups);
  }

  void common() {
    for (const BodyId& body : stock_) {
      const Shape whole = inputs_.shape(body);
      Shape shared = whole;
      for (const Shape& tool : tools_)
        if (!shared.empty()) shared = divide(shared, {tool}, progress_).inside;
      result_.audit.cuts = true;
      result_.audit.touched.push_back(body);
      result_.audit.volumeBefore += whole.volume();
      result_.audit.volumeAfter += shared.volume();
      result_.audit.volumeRemoved += whole.volume() - shared.volume();
      result_.consumed.push_back(body);
      if (shared.empty())
        inputs_.warn("\"" + body + "\" has nothing in common with the cutters: nothing of it stays");
      else
        addKept(result_, inputs_, body, body, "", shared.pieces());
    }
    if (result_.made.empty())
      throw Error("the bodies have nothing in common", "field Cutters", "Move the cutters, or choose others");
    useUp();
  }

  /// Exclusive and partition: all regions, each with the bodies it belongs to.
  void regions() {
    std::vector<BodyId> all = stock_;
    std::vector<Shape> solids, sheets;
    for (const BodyId& body : stock_) solids.push_back(inputs_.shape(body));
    for (std::size_t i = 0; i < cutters_.size(); ++i) {
      if (inputs_.shielded(cutters_[i])) inputs_.warn("\"" + cutters_[i] + "\" is shielded and only divides");
      if (tools_[i].kind() == BodyKind::Solid) {
        solids.push_back(tools_[i]);
        all.push_back(cutters_[i]);
      } else {
        sheets.push_back(tools_[i]);
      }
    }
    const Partition partition = kervo::partition(solids, sheets, progress_);
    if (!partition.remedy.empty()) inputs_.warn("the kernel needed help with the partition: " + partition.remedy);
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
        throw Error("the bodies do not overlap", "field Stock", "Choose bodies that reach into each other");
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
      others += (others.empty() ? "" : " and ") + all[i];
      spoken += (spoken.empty() ? "with \"" : " and \"") + all[i] + '"';
    }
    const BodyId id = others.empty() ? from : from.part("with " + others);
    const bool kept = verb_ == "partition" || set.size() % 2 == 1;
    (kept ? result_.audit.volumeAfter : result_.audit.volumeRemoved) += volume;
    kept ? addKept(result_, inputs_, from, id, spoken, parts) : addDropped(result_, inputs_, from, id, spoken, parts);
  }

  void useUp() {
    const std::string& then = inputs_.choice("after");
    if (then == "keep") return;
    for (const BodyId& body : cutters_) {
      if (inputs_.shielded(body)) {
        inputs_.warn("the cutter \"" + body + "\" is shielded and is not used up");
        continue;
      }
      result_.consumed.push_back(body);
      if (then == "hide") result_.made.push_back({body, inputs_.shape(body), body, "", std::nullopt, "", false});
    }
  }

  StepInputs& inputs_;
  Progress& progress_;
  const std::string verb_;
  std::vector<BodyId> stock_, cutters_;
  std::vector<Shape> tools_;  ///< the cutters with their clearance
  StepResult result_;
};

class Combine : public SimpleStep {
 public:
  Combine()
      : SimpleStep("combine", "Combine",
                   {{.key = "verb",
                     .label = "Verb",
                     .type = FieldType::Choice,
                     .well = Well::Reach,
                     .defaultText = "subtract",
                     .choices = {"subtract", "union", "intersect", "exclusive", "partition"},
                     .help = "exclusive: what lies in an odd number of the bodies; partition: every region is a piece"},
                    {.key = "stock", .label = "Stock", .type = FieldType::Bodies, .well = Well::Stock},
                    {.key = "cutters", .label = "Cutters", .type = FieldType::Bodies, .well = Well::Cutter},
                    {.key = "after",
                     .label = "Cutters then",
                     .type = FieldType::Choice,
                     .well = Well::Cutter,
                     .defaultText = "use up",
                     .choices = {"use up", "keep", "hide"},
                     .whenField = "verb",
                     .whenValues = {"subtract", "union", "intersect"}},
                    {.key = "clearance",
                     .label = "Clearance",
                     .type = FieldType::Length,
                     .well = Well::Reach,
                     .defaultText = "0 mm",
                     .help = "Round the cutters on every side; less than zero for a tight fit",
                     .whenField = "verb",
                     .whenValues = {"subtract", "intersect", "exclusive", "partition"}},
                    {.key = "cutter_color",
                     .label = "Cut faces in the cutter's colour",
                     .type = FieldType::Flag,
                     .well = Well::Reach,
                     .defaultText = "false",
                     .whenField = "verb",
                     .whenValues = {"subtract", "intersect"}},
                    {.key = "seams",
                     .label = "Keep seams",
                     .type = FieldType::Flag,
                     .well = Well::Reach,
                     .defaultText = "false",
                     .help = "Leave the edges between faces of one surface",
                     .whenField = "verb",
                     .whenValues = {"union"}},
                    piecesField()}) {}

  StepResult evaluate(StepInputs& inputs, Progress& progress) const override { return Work(inputs, progress).run(); }
};

}  // namespace

const StepKind& combineStep() {
  static const Combine kind;
  return kind;
}

}  // namespace kervo
