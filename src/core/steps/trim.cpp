// Surfaces divided by drawings, curves, planes, surfaces and bodies; the parts that stay are clicked.
#include <algorithm>
#include <map>
#include <set>

#include "base/quantity.h"
#include "base/say.h"
#include "drawing/region_names.h"
#include "fields/faces_field.h"
#include "fields/flag_field.h"
#include "geom/divide/partition.h"
#include "geom/surface/outline_cut.h"
#include "geom/surface/projected.h"
#include "geom/surface/seam_aside.h"
#include "geom/surface/sheet.h"
#include "steps/registry.h"
#include "steps/shared/cutters.h"
#include "steps/shared/divided_bodies.h"
#include "steps/shared/surface_stock.h"

namespace kervo {

namespace {

class Trim : public StepKind {
 public:
  Trim()
      : StepKind({.key = "trim",
                  .label = "Trim",
                  .menu = KindMenu::Surface,
                  .verb = "Trim surfaces",
                  .shortcut = "Ctrl+Shift+T",
                  .help = "Surfaces divided by drawings, curves, planes, surfaces and bodies; click what stays",
                  .startsGroup = true,
                  .wells = {.stock = {"Surfaces", "what is trimmed"},
                            .cutter = {"Outlines", "what divides them"},
                            .reach = {"Where", "which side, what stays"}}}) {}

  void startFrom(const Selected& selected, Start& start) const override {
    std::vector<BodyId> stock;
    std::vector<CutterPick> outlines;
    std::vector<FaceReference> faces;
    for (const Picked& pick : selected.picks) {
      const bool body = pick.what == Picked::What::Body;
      if (body && pick.bodyKind == BodyKind::Surface)
        stock.push_back(pick.body);
      else if (pick.what == Picked::What::Face)
        faces.push_back(pick.face);
      else if (body && pick.bodyKind == BodyKind::Curve)
        outlines.push_back(CutterPick::ofBody(pick.body));
      else if (const auto cutter = pick.cutter())
        outlines.push_back(*cutter);
    }
    if (outlines.empty() && !selected.drawing.empty())
      outlines.push_back(CutterPick::of(RegionPick{.drawing = selected.drawing}));
    start.set(stock_, BodyPick::only(stock));
    start.set(faces_, faces);
    start.set(outlines_, outlines);
  }
  std::optional<std::string> offered(const Selected& selected) const override {
    for (const Picked& pick : selected.picks)
      if (pick.what == Picked::What::Body && pick.bodyKind == BodyKind::Surface) return say("Trim it …");
    return std::nullopt;
  }

  StepResult evaluate(StepInputs& inputs, Progress& progress) const override {
    return Work(*this, inputs, progress).run();
  }

 private:
  enum class Stays { Outside, Inside, All };

  /// What divides, resolved for one surface.
  struct Outline {
    std::vector<Shape> shapes;             ///< curves on the surface, or what cuts through it
    std::vector<Region> regions = {};      ///< all of a drawing, which name the pieces
    std::set<std::string> chosen = {};     ///< names of those that count as inside
    Plane plane = {};                      ///< … and its plane
    std::shared_ptr<HitFinder> hits = {};  ///< … and which side of the body counts
    const ResolvedCutter* cutter = nullptr;
  };

  /// One evaluation.
  class Work {
   public:
    Work(const Trim& fields, StepInputs& inputs, Progress& progress)
        : fields_(fields), inputs_(inputs), progress_(progress), stays_(fields.stays_.of(inputs)) {}

    StepResult run() {
      std::vector<std::pair<BodyId, Shape>> stock = stockOfAll();
      Box around;
      for (const auto& [body, shape] : stock) around.add(shape.roughBox());
      resolve(around);
      for (const auto& [body, shape] : stock) trim(body, shape);
      if (result_.audit.touched.empty()) fields_.outlines_.fail(whyNot(), help_);
      for (const std::string& text : why_) inputs_.warn(text);
      inputs_.finding().gap.clear();
      result_.audit.watertight = false;
      result_.audit.notes.push_back(say("%1 cm² before, %2 cm² stay", areaText(before_), areaText(stay_)));
      settlePieces(result_, inputs_, fields_.pieces_.in(inputs_));
      return std::move(result_);
    }

   private:
    /// Surfaces, and faces lifted as one that is new.
    std::vector<std::pair<BodyId, Shape>> stockOfAll() {
      std::vector<std::pair<BodyId, Shape>> stock;
      for (const BodyId& body : surfacesOf(inputs_, fields_.stock_, result_.audit))
        stock.emplace_back(body, inputs_.shape(body));
      if (!fields_.faces_.in(inputs_).empty()) stock.emplace_back(inputs_.id(), lifted(fields_.faces_.of(inputs_)));
      if (stock.empty())
        fields_.stock_.fail(say("no surface and no face is chosen"), say("Pick what is to be trimmed"));
      return stock;
    }

    void resolve(const Box& around) {
      std::vector<CutterPick> others;
      for (const CutterPick& pick : fields_.outlines_.in(inputs_))
        if (pick.kind == CutterPick::Kind::Drawing)
          drawings_.push_back(pick.drawing);
        else
          others.push_back(pick);
      if (!others.empty())
        cutters_ = cuttersOf(inputs_, fields_.outlines_, others, {}, around, progress_, CurveCutters::Allowed);
      if (drawings_.empty() && cutters_.empty())
        fields_.outlines_.fail(say("nothing is chosen that trims"), say("Pick drawings, curves, planes or bodies"));
      result_.cutterOutline = outlinesOf(cutters_, around);
      sheets_.resize(cutters_.size());
      for (std::size_t i = 0; i < cutters_.size(); ++i)
        if (const auto& plane = cutters_[i].plane) sheets_[i] = planarSheet(*plane, around, inputs_.id() + ":cut");
    }

    std::vector<Outline> outlinesOn(const Shape& surface) {
      std::vector<Outline> outlines;
      for (const RegionPick& pick : drawings_) {
        const DrawingResult drawing = drawingFor(inputs_, pick, fields_.outlines_);
        const auto [curves, chosen] = drawnOf(pick, drawing);
        const Vector along = fields_.reverse_.of(inputs_) ? -drawing.plane.normal : drawing.plane.normal;
        const Hits hits = fields_.hits_.of(inputs_);
        outlines.push_back(
            {{}, drawing.regions, chosen, drawing.plane, std::make_shared<HitFinder>(curves, surface, along, hits)});
        drawn_.push_back({curves, along, hits});
      }
      return outlines;
    }

    /// What cuts through the surface, where it has to be intersected.
    void addSheets(std::vector<Outline>& outlines, const BodyId& body, const Shape& surface) {
      for (std::size_t i = 0; i < drawn_.size(); ++i) {
        outlines[i].shapes = cuttingSheets(drawn_[i].curves, surface, drawn_[i].along, drawn_[i].hits, progress_);
        if (outlines[i].shapes.empty())
          miss(say("the drawing misses \"%1\"", body), say("Move the drawing, or choose the other side"));
      }
      for (std::size_t i = 0; i < cutters_.size(); ++i) {
        const ResolvedCutter& cutter = cutters_[i];
        if (cutter.body == body) continue;
        const Shape& shape = cutter.plane            ? sheets_[i]
                             : !cutter.solid.empty() ? cutter.solid
                             : !cutter.curve.empty() ? cutter.curve
                                                     : cutter.sheet;
        outlines.push_back({{shape}, {}, {}, {}, nullptr, &cutter});
      }
    }

    /// Nothing was divided: open curves may end inside.
    void explain(const BodyId& body, const Shape& surface) {
      for (const Drawn& drawn : drawn_) {
        const Shape on = projectedAlong(drawn.curves, surface, drawn.along, drawn.hits, progress_);
        if (on.empty())
          miss(say("the drawing misses \"%1\"", body), say("Move the drawing, or choose the other side"));
        else
          noteLooseEnds(on, body, surface);
      }
      for (const ResolvedCutter& cutter : cutters_)
        if (!cutter.curve.empty()) noteLooseEnds(cutter.curve, body, surface);
    }

    void noteLooseEnds(const Shape& curves, const BodyId& body, const Shape& surface) {
      const std::vector<LooseEnd> ends = looseEndsOn(curves, surface);
      if (ends.empty()) return;
      double farthest = 0;
      for (const LooseEnd& end : ends) {
        if (end.toBorder < Box::infinity) farthest = std::max(farthest, end.toBorder);
        markPlace(inputs_.finding(), end.place, surface.roughBox().diagonal());
      }
      miss(farthest > 0 ? say("a curve ends inside \"%1\", %2 mm from its border", body, formatNumber(farthest, 4))
                        : say("a curve ends inside \"%1\"", body),
           say("Make it longer, or close it"));
    }

    void miss(std::string text, std::string help) {
      if (std::find(why_.begin(), why_.end(), text) == why_.end()) why_.push_back(std::move(text));
      help_ = std::move(help);
    }
    std::string whyNot() const { return why_.empty() ? say("nothing meets the surfaces") : why_.front(); }

    /// The curves of a drawing that are to divide, and the names of the regions chosen.
    std::pair<Shape, std::set<std::string>> drawnOf(const RegionPick& pick, const DrawingResult& drawing) const {
      std::vector<Region> regions;
      if (pick.all)
        regions = drawing.regions;
      else
        for (const std::string& name : pick.regions) {
          const std::vector<std::size_t> meant = regionsMeant(name, drawing.regions);
          if (meant.empty() && !mayBeNone(name, drawing))
            fields_.outlines_.fail(say("the drawing has no region \"%1\" any more", name),
                                   say("Pick it again in the drawing"));
          for (const std::size_t i : meant) regions.push_back(drawing.regions[i]);
        }
      std::vector<SpaceCurve> lines;
      if (pick.all)
        for (const NamedCurve& curve : drawing.curves) lines.push_back(curve.curve);
      if (lines.empty() && regions.empty())
        fields_.outlines_.fail(say("the drawing has nothing that could trim"), say("Draw a line or an outline"));
      std::set<std::string> names;
      for (const Region& region : regions) names.insert(region.name());
      return {lines.empty() ? bordersOf(regions) : curveBody(lines, {}), std::move(names)};
    }

    /// The direct way, where there are drawings only and their outlines keep to themselves.
    std::optional<Partition> dividedDirectly(const Shape& surface) {
      if (!cutters_.empty()) return std::nullopt;
      std::vector<ProjectedOutlines> outlines;
      for (const Drawn& drawn : drawn_) outlines.push_back({drawn.curves, drawn.along, drawn.hits});
      const auto pieces = cutByOutlines(surface, outlines, progress_);
      if (!pieces) return std::nullopt;
      Partition partition;
      for (const Shape& piece : *pieces) partition.parts.push_back({piece, {0}, {}});
      return partition;
    }

    Partition dividedBy(const std::vector<Outline>& outlines, const Shape& surface) {
      std::vector<Shape> shapes;
      for (const Outline& outline : outlines)
        for (const Shape& shape : outline.shapes) shapes.push_back(shape);
      return partitionOfSurface(surface, shapes, progress_);
    }

    /// So that no piece is in two parts where the surface closes on itself.
    Shape seamAside(const Shape& surface) {
      if (drawn_.empty() || !cutters_.empty() || !hasSeamToTurn(surface)) return surface;
      std::vector<Shape> on;
      for (const Drawn& drawn : drawn_)
        if (const Shape lines = projectedAlong(drawn.curves, surface, drawn.along, drawn.hits, progress_);
            !lines.empty())
          on.push_back(lines);
      return on.empty() ? surface : withSeamAside(surface, together(on));
    }

    void trim(const BodyId& body, const Shape& given) {
      drawn_.clear();
      std::vector<Outline> outlines = outlinesOn(given);
      const Shape surface = seamAside(given);
      std::optional<Partition> direct = dividedDirectly(surface);
      if (!direct) addSheets(outlines, body, surface);
      const Partition partition = direct ? std::move(*direct) : dividedBy(outlines, surface);
      if (partition.parts.size() < 2) {
        explain(body, surface);
        result_.audit.spared.push_back(body);
        return;
      }
      if (!partition.remedy.empty())
        result_.audit.warnings.push_back(say("the kernel needed help with \"%1\": %2", body, partition.remedy));
      result_.audit.touched.push_back(body);
      const bool isNew = body == BodyId(inputs_.id());
      if (!isNew) result_.consumed.push_back(body);
      before_ += surface.area();
      struct Group {
        PlaceName name;
        std::vector<Shape> parts;
      };
      std::map<std::string, Group> groups;
      for (const Part& part : partition.parts) {
        const PlaceName name = placeOf(part, outlines);
        Group& group = groups.try_emplace(name.id, Group{name, {}}).first->second;
        group.parts.push_back(drawn_.empty() ? part.shape : withoutSeamsOf(surface, part.shape));
      }
      for (const auto& [id, group] : groups) {
        const bool kept = stays_ == Stays::All || group.name.inside == (stays_ == Stays::Inside);
        if (kept)
          for (const Shape& shape : group.parts) stay_ += shape.area();
        (kept ? addKept : addDropped)(result_, inputs_, isNew ? BodyId() : body, body.part(id), group.name.label,
                                      group.parts);
      }
    }

    /// What a part is called by its place, in ids and for people, and whether that is inside of an outline.
    struct PlaceName {
      std::string id, label;
      bool inside = false;
    };
    PlaceName placeOf(const Part& part, const std::vector<Outline>& outlines) {
      PlaceName name;
      const auto add = [&](const std::string& id, const std::string& label) {
        name.id += (name.id.empty() ? "" : "-") + id;
        name.label += (name.label.empty() ? "" : ", ") + label;
      };
      const Point place = largestFace(part.shape).samplePoint();
      std::size_t next = 0;
      for (const Outline& outline : outlines) {
        bool front = false, back = false;
        for (std::size_t i = 0; i < outline.shapes.size(); ++i, ++next) {
          front = front || part.sides.at(next) == SheetSide::Front;
          back = back || part.sides.at(next) == SheetSide::Back;
        }
        if (!outline.cutter) {
          const Vector local = outline.plane.coordinates(place);
          const std::size_t region = regionAt(outline.regions, {local.x, local.y});
          const bool in = region < outline.regions.size() && outline.hits->counts(place);
          if (in) add(outline.regions[region].name(), spoken(outline.regions[region].name()));
          name.inside = name.inside || (in && outline.chosen.contains(outline.regions[region].name()));
          if (outline.regions.empty() && front != back)
            add(front ? "left" : "right", front ? say("left") : say("right"));
        } else if (!outline.cutter->solid.empty()) {
          const bool in = sideOf(place, {std::nullopt, outline.cutter->solid}) < 0;
          if (in) add("inside", say("inside"));
          name.inside = name.inside || in;
        } else if (const auto& plane = outline.cutter->plane) {
          const bool ahead = plane->signedDistance(place) > 0;
          add(ahead ? "front" : "back", ahead ? say("front") : say("back"));
        } else if (front != back) {
          if (outline.cutter->curve.empty())
            add(front ? "front" : "back", front ? say("front") : say("back"));
          else
            add(front ? "left" : "right", front ? say("left") : say("right"));
        }
      }
      if (name.id.empty()) add("outside", say("outside"));
      return name;
    }

    /// "inside drop, outside eye" for the region "drop+.eye-".
    static std::string spoken(const std::string& region) {
      std::string text, curve;
      for (const char each : region + ".") {
        if (each == '.' || each == '#') {
          if (!curve.empty()) text += (text.empty() ? "" : ", ") + curve;
          curve.clear();
        } else if (each == '+' || each == '-') {
          curve = each == '+' ? say("inside %1", curve) : say("outside %1", curve);
        } else {
          curve += each;
        }
      }
      return text;
    }

    static Face largestFace(const Shape& shape) {
      const std::vector<Face> faces = facesOf(shape);
      return *std::max_element(faces.begin(), faces.end(),
                               [](const Face& a, const Face& b) { return a.area() < b.area(); });
    }
    static std::string areaText(double area) { return formatNumber(area / 100, 5); }

    const Trim& fields_;
    StepInputs& inputs_;
    Progress& progress_;
    const Stays stays_;
    /// A drawing as it is projected.
    struct Drawn {
      Shape curves;
      Vector along;
      Hits hits;
    };
    std::vector<RegionPick> drawings_;
    std::vector<Drawn> drawn_;
    std::vector<ResolvedCutter> cutters_;
    std::vector<Shape> sheets_;  ///< of cutters that are planes
    std::vector<std::string> why_;
    std::string help_ = say("Move the outlines, or choose other surfaces");
    double before_ = 0, stay_ = 0;
    StepResult result_;
  };

  const BodiesField stock_{*this, {.key = "stock", .label = "Surfaces", .well = Well::Stock}, BodyPick::only({})};
  const FacesField faces_{*this,
                          {.key = "faces",
                           .label = "Faces",
                           .well = Well::Stock,
                           .help = "of bodies; trimmed, they become a surface of their own"}};
  const CuttersField outlines_{*this,
                               {.key = "outlines",
                                .label = "Outlines",
                                .well = Well::Cutter,
                                .help = "drawings are projected along their normal; curves must lie on the surface"},
                               CuttersField::Curves::Taken};
  const ChoiceField<Hits> hits_{*this,
                                {.key = "hits",
                                 .label = "Drawings",
                                 .well = Well::Reach,
                                 .help = "right through the surface, or where it is met first or last"},
                                {"right through", "near side", "far side"},
                                Hits::Near};
  const FlagField reverse_{*this,
                           {.key = "reverse",
                            .label = "The other way",
                            .well = Well::Reach,
                            .help = "what lies behind a drawing counts as ahead of it"}};
  const ChoiceField<Stays> stays_{*this,
                                  {.key = "stays",
                                   .label = "Stays",
                                   .well = Well::Reach,
                                   .help = "what lies outside of regions and bodies, inside, or all of it"},
                                  {"outside", "inside", "all"}};
  const PiecesField pieces_{*this};
};

}  // namespace

const StepKind& trimStep() {
  static const Trim kind;
  return kind;
}

}  // namespace kervo
