#include "app/stage.h"

#include <cmath>

#include "app/scene_maker.h"
#include "drawing/drawing_edits.h"
#include "fields/number_field.h"
#include "geom/openings/opening_words.h"

namespace kervo::app {

template <class Call>
void Stage::everywhere(Call&& call) {
  if (panes_.count() == 0) return call(view_);
  panes_.each([&](Viewport& view, int) { call(view); });
}

Stage::Stage(Desk& desk, Bench& bench, Viewport& view, ViewPanes& panes, GaugeFields& gauges)
    : desk_(desk), bench_(bench), view_(view), panes_(panes), gaugeFields_(gauges) {
  connect(&panes_, &ViewPanes::changed, this, &Stage::wantSections);
  connect(&panes_, &ViewPanes::changed, this, &Stage::refresh);
  connect(&desk_.surfaces, &SurfaceLooks::changed, this, &Stage::refresh);
  view_.setDescriber([this](const Pick& pick) {
    const auto& cuts = view_.scene().cuts;
    const auto cut = cuts ? cuts->find(view_.scene(), pick) : std::nullopt;
    if (cut && desk_.shownModel && cuts->faces()[*cut].hidden.empty())
      return tr("%1 · %2").arg(
          describe(pick, *desk_.shownModel, desk_.shownPictures, desk_.session.document().made.unit),
          areaText(cuts->faces()[*cut].outline->area()));
    return desk_.shownModel
               ? describe(pick, *desk_.shownModel, desk_.shownPictures, desk_.session.document().made.unit) +
                     openingOf(pick)
               : QString();
  });
  connect(&view_, &Viewport::picked, this, [this](const Pick& pick, bool add) {
    if (!bench_.chooser() || !bench_.chooser()->take(pick)) takePicks({pick}, add);
  });
  connect(&view_, &Viewport::boxPicked, this, &Stage::takePicks);
  connect(&view_, &Viewport::pickedNothing, this, [this] {
    if (!desk_.trial.active()) desk_.selection.clear();
  });
  connect(&view_, &Viewport::gaugeMoved, this,
          [this](const QString& field, double value) { gaugeMoved(field.toStdString(), value); });
  connect(&view_, &Viewport::gaugeTyped, &gaugeFields_, &GaugeFields::focus);
  connect(&view_, &Viewport::badgeClicked, this, [this](int piece) {
    bench_.lightPiece(piece);
    if (bench_.chooser()) bench_.chooser()->toggle(piece);
  });
  connect(&view_, &Viewport::badgesBoxed, this, [this](const std::vector<std::size_t>& pieces) {
    if (!bench_.armed() && bench_.chooser()) bench_.chooser()->toggleAll(pieces);
  });
  connect(&view_, &Viewport::strokeDrawn, this, [this](const Stroke& stroke) { desk_.drawing.addStroke(stroke); });
  connect(&view_, &Viewport::drawingMoved, this, [this](const Drawing& drawing, const std::vector<std::string>& ends) {
    desk_.drawing.set(ends.size() == 2 ? withJoined(drawing, ends[0], ends[1]) : drawing, tr("Move"));
  });
  connect(&view_, &Viewport::partsPicked, this, [this](std::vector<std::string> ids, bool add) {
    if (add) {
      std::vector<std::string> all = desk_.drawing.selected();
      for (const std::string& id : ids)
        if (std::erase(all, id) == 0) all.push_back(id);
      ids = all;
    }
    desk_.drawing.select(ids);
  });
  connect(&view_, &Viewport::partsSwept, &desk_.drawing, &DrawingDesk::trimAt);
  connect(&view_, &Viewport::trimKeyed, &desk_.drawing, &DrawingDesk::trimByKey);
  connect(&view_, &Viewport::lastLineDropped, this, [this] {
    if (desk_.drawing.open() && !desk_.drawing.drawing().curves.empty())
      desk_.drawing.remove(desk_.drawing.drawing().curves.back().id);
  });
  connect(&view_, &Viewport::partsRemoved, this, [this] { desk_.drawing.removeSelected(); });
  connect(&view_, &Viewport::regionsPicked, &desk_.drawing, &DrawingDesk::pickRegions);
  view_.setRegionDescriber([this](const std::string& name) { return desk_.drawing.describeRegion(name); });
  view_.setPartDescriber([this](const std::string& id) { return desk_.drawing.describe(id); });
  connect(&desk_.drawing, &DrawingDesk::changed, this, &Stage::showDrawing);
  connect(&desk_.drawing, &DrawingDesk::selectionChanged, this, &Stage::showDrawing);
  connect(&desk_.drawing, &DrawingDesk::toolChanged, this, &Stage::showDrawing);
  connect(&desk_.drawing, &DrawingDesk::piecesChanged, this,
          [this] { view_.listPieces(desk_.drawing.pieces(), desk_.drawing.litPiece()); });
  connect(&bench_, &Bench::pieceLit, this, [this](int row) {
    const auto lit = row < 0 ? std::nullopt : std::optional(static_cast<std::size_t>(row));
    everywhere([&](Viewport& each) { each.light(lit); });
  });
  connect(&desk_.selection, &Selection::changed, this, &Stage::wantOpenings);
  connect(&desk_.openings, &OpeningLists::numbersChanged, this, &Stage::refresh, Qt::QueuedConnection);
  connect(&desk_.selection, &Selection::changed, this,
          [this] { everywhere([this](Viewport& each) { each.setSelected(desk_.selection.picks()); }); });
}

void Stage::takePicks(const std::vector<Pick>& picks, bool add) {
  if (FieldEditor* editor = bench_.armed()) return editor->take(picks, add);
  if (desk_.trial.active()) return;
  if (!add) return desk_.selection.set(picks);
  for (const Pick& pick : picks) desk_.selection.add(pick);
}

void Stage::gaugeMoved(const std::string& field, double value) {
  if (!desk_.trial.active()) return;
  const auto* number = dynamic_cast<const NumberField*>(desk_.trial.step().kind().field(field));
  const auto gauge = std::find_if(gauges_.second.begin(), gauges_.second.end(),
                                  [&](const Gauge& each) { return each.field == field; });
  if (gauge != gauges_.second.end() && gauge->perOne > 0) {
    // A plain number: to a hundredth, and above zero.
    constexpr double finestShare = 100;
    const double shown = std::max(1.0, std::round(value / gauge->perOne * finestShare)) / finestShare;
    return desk_.trial.setField(field, Expression(formatNumber(shown)));
  }
  const bool angle = number && number->wanted().dimension == angleDimension;
  const Unit unit = angle ? unitNamed("deg") : unitNamed(desk_.session.document().made.unit);
  const double finest = angle ? 1e4 : 1e6;
  const double shown = std::round(value / unit.factor * finest) / finest;
  desk_.trial.setField(field, Expression(formatNumber(shown) + " " + std::string(unit.name)));
}

std::vector<StepReport> Stage::sectionsSeen() const {
  std::vector<StepReport> sections = desk_.session.made()->model->sections;
  const Trial& trial = desk_.trial;
  if (!trial.active() || trial.step().kind().makes() != Makes::Section || !trial.result()) return sections;
  // The one on the Bench as it is tried.
  const StepReport& tried = trial.result()->report();
  const auto same = std::find_if(sections.begin(), sections.end(),
                                 [&](const StepReport& each) { return each.id == trial.step().id(); });
  if (same == sections.end())
    sections.push_back(tried);
  else
    *same = tried;
  return sections;
}

void Stage::refresh() {
  const Trial& trial = desk_.trial;
  std::vector<Gauge> gauges;
  if (trial.active() && trial.result()) {
    const Tried& tried = *trial.result();
    const bool waiting = bench_.chooser() && bench_.chooser()->waiting();
    const bool picking = bench_.armed() || waiting || !tried.report().result;
    desk_.shownModel = picking ? tried.before : tried.after;
    desk_.shownPictures = picking ? tried.picturesBefore : tried.picturesAfter;
    Scene scene = picking ? pickingScene(tried, trial.step()) : sceneOf(tried);
    // The drawing tool shows what is drawn, with what can be taken hold of.
    if (desk_.drawing.open())
      std::erase_if(scene.bodies, [&](const SceneBody& body) { return body.id == BodyId(trial.step().id()); });
    if (bench_.armed() && bench_.armed()->takesPlanes()) addWorldPlanes(scene);
    if (bench_.armed() && bench_.armed()->takesAxes()) addWorldAxes(scene);
    showScene(scene, tried.openings);
    const StepReport& report = tried.report();
    if (report.result) gauges_ = {trial.step().id(), report.result->gauges};
    if (report.finding && !report.finding->gauges.empty()) gauges_ = {trial.step().id(), report.finding->gauges};
    // While a value cannot be read at all, its gauge stays: somebody may be typing into it.
    if (!bench_.armed() && gauges_.first == trial.step().id()) gauges = gauges_.second;
  } else {
    desk_.shownModel = desk_.session.made()->model;
    desk_.shownPictures = desk_.session.made()->pictures;
    if (instead_)
      showScene(*instead_, {});
    else
      showScene(sceneOf(*desk_.session.made()), desk_.session.made()->openings);
  }
  desk_.sections.setUnsound(view_.scene().cuts ? view_.scene().cuts->unsound() : std::vector<BodyId>());
  turnToDrawing();
  showDrawing();
  std::erase_if(gauges, [&](const Gauge& gauge) {
    const Field* field = trial.step().kind().field(gauge.field);
    return !field || !trial.matters(*field);
  });
  everywhere([&](Viewport& each) { each.setGauges(gauges); });
  gaugeFields_.show(gauges);
  const FieldEditor* armed = bench_.armed();
  const bool waiting = bench_.chooser() && bench_.chooser()->waiting();
  // Only while nothing is wanted of bodies a cut face is more than a place.
  PickFilter filter = armed     ? armed->filter().value_or(filter_)
                      : waiting ? PickFilter{false, true, false, false, false}
                                : filter_;
  filter.cuts = filter.cuts && !armed && !waiting;
  view_.setFilter(filter);
  std::vector<MeasureMark> pins = measureMarks(*desk_.shownModel, desk_.session.document().made.unit);
  pins.insert(pins.end(), desk_.surfaces.marks().begin(), desk_.surfaces.marks().end());
  // While a step is tried, its gauges stand there.
  if (!trial.active() && !instead_)
    pins.insert(pins.end(), desk_.openings.numbers().begin(), desk_.openings.numbers().end());
  everywhere([&](Viewport& each) {
    each.setSelected(trial.active() ? std::vector<Pick>() : desk_.selection.picks());
    each.setPins(pins);
  });
}

void Stage::showInstead(std::optional<Scene> scene) {
  instead_ = std::move(scene);
  refresh();
}

void Stage::showScene(const Scene& scene, const Openings& openings) {
  const std::vector<StepReport> sections = sectionsSeen();
  const auto show = [&](Viewport& view, const std::optional<std::vector<StepId>>& own) {
    Scene cut = scene;
    std::vector<StepReport> here = sections;
    if (own)
      for (StepReport& report : here) {
        const bool wanted = std::find(own->begin(), own->end(), report.id) != own->end();
        if (report.state != StepState::Failed) report.state = wanted ? StepState::Made : StepState::Off;
      }
    addSections(cut, here, *desk_.shownModel, openings);
    desk_.surfaces.addTo(cut);
    view.setScene(cut);
  };
  if (panes_.count() == 0) show(view_, {});
  panes_.each([&](Viewport& view, int pane) { show(view, panes_.sectionsOf(pane)); });
  desk_.shownSections.clear();
  for (const SceneSection& section : view_.scene().sections) desk_.shownSections.push_back(section.id);
}

void Stage::wantSections() {
  std::vector<SectionSet> sets;
  panes_.each([&](Viewport&, int pane) {
    if (const auto& own = panes_.sectionsOf(pane)) sets.push_back(*own);
  });
  if (sets == sectionSets_) return;
  sectionSets_ = sets;
  desk_.worker.setSectionSets(sets);
  const auto byBody = [](const StepReport& report) {
    return report.result && report.result->section && report.result->section->clip.body;
  };
  const auto& sections = desk_.session.made()->model->sections;
  if (std::none_of(sections.begin(), sections.end(), byBody)) return;
  desk_.session.rebuildAgain();
  if (desk_.trial.active()) desk_.trial.tryAgain();
}

void Stage::showDrawing() {
  const auto edited = desk_.drawing.edited();
  const bool draws = edited && !bench_.armed();
  everywhere([&](Viewport& each) {
    each.setDrawing(edited);
    each.setGrid(edited ? desk_.drawing.grid() : std::nullopt);
  });
  view_.setDrawingTakes(draws);
  view_.setDrawingPlane(draws ? std::optional(edited->plane) : std::nullopt, draws ? desk_.drawing.kind() : nullptr,
                        desk_.drawing.sides());
  view_.setTrim(draws ? desk_.drawing.trim() : TrimMode::None);
}

void Stage::turnToDrawing() {
  const auto edited = desk_.drawing.edited();
  if (!desk_.drawing.open()) {
    if (turnedTo_) view_.lookBack();
    turnedTo_.reset();
    return;
  }
  if (!edited) return;
  const StepId step = desk_.trial.step().id();
  const PlanePick& pick = desk_.trial.step().value(desk_.drawing.field().plane()).as<PlanePick>();
  // Another plane chosen, or one that turned with its face; one that only moved is still looked at.
  const Plane& plane = edited->plane;
  if (turnedTo_ && turnedTo_->first == step && dot(turnedTo_->second.normal, plane.normal) > 1 - tolerance::samePlace &&
      dot(turnedTo_->second.x, plane.x) > 1 - tolerance::samePlace)
    return;
  turnedTo_.emplace(step, plane);
  Box box;
  if (const auto body = desk_.shownPictures.find(pick.face.body); body != desk_.shownPictures.end())
    box = body->second->mesh.box;
  view_.lookAt(edited->plane, box);
}

void Stage::setFilter(PickFilter filter) {
  filter_ = filter;
  emit filterChanged();
  if (!bench_.armed()) view_.setFilter(filter);
}

QString Stage::openingOf(const Pick& pick) const {
  const auto picture = desk_.shownPictures.find(pick.body);
  if (pick.kind != Pick::Kind::Face || picture == desk_.shownPictures.end()) return {};
  const auto number = desk_.openings.known(picture->second, pick.index);
  if (!number) return {};
  const Opening& opening = (*desk_.openings.of(picture->second))[static_cast<std::size_t>(*number)];
  return tr(" · in %1 %2, %3")
      .arg(QString::fromStdString(wordFor(opening)))
      .arg(*number + 1)
      .arg(QString::fromStdString(toldOf(opening)));
}

void Stage::wantOpenings() {
  for (const Pick& pick : desk_.selection.picks())
    if (const auto picture = desk_.shownPictures.find(pick.body);
        pick.kind == Pick::Kind::Face && picture != desk_.shownPictures.end())
      desk_.openings.of(picture->second);
}

}  // namespace kervo::app
