#include "app/sections/section_desk.h"

#include <algorithm>
#include <cmath>

#include "app/scene_maker.h"
#include "app/texts.h"
#include "fields/bodies_field.h"
#include "fields/number_field.h"
#include "geom/planes.h"

namespace kervo::app {

namespace {

/// The number of frames a second, and seconds from one end to the other.
constexpr int frameMilliseconds = 40;
constexpr double sweepSeconds = 5;

const NumberField* offsetField(const Step& step) {
  return dynamic_cast<const NumberField*>(step.kind().field("offset"));
}

}  // namespace

SectionDesk::SectionDesk(Session& session, Trial& trial) : session_(session), trial_(trial) {
  for (const auto signal : {&Session::documentChanged, &Session::seenChanged, &Session::modelChanged})
    connect(&session_, signal, this, &SectionDesk::follow);
  for (const auto signal : {&Trial::opened, &Trial::closed, &Trial::tried})
    connect(&trial_, signal, this, [this] { emit changed(); });
  timer_.setInterval(frameMilliseconds);
  connect(&timer_, &QTimer::timeout, this, [this] {
    const double length = span_.second - span_.first;
    place_ += way_ * length * frameMilliseconds / (1000 * sweepSeconds);
    if (place_ >= span_.second || place_ <= span_.first) way_ = -way_;
    place_ = std::clamp(place_, span_.first, span_.second);
    emit swept(place_);
  });
}

void SectionDesk::follow() {
  std::vector<StepId> now;
  for (const SectionStep& section : session_.document().seen.sections) now.push_back(section.step->id());
  // A new one comes onto the ruler; if the current one is gone, the first that is left.
  for (const StepId& id : now)
    if (std::find(known_.begin(), known_.end(), id) == known_.end()) current_ = id;
  if (std::find(now.begin(), now.end(), current_) == now.end()) current_ = now.empty() ? StepId() : now.front();
  known_ = now;
  if (sweeping() && !ruler()) sweep(false);
  emit changed();
}

std::shared_ptr<const Step> SectionDesk::stepOf(const StepId& section) const {
  for (const SectionStep& each : session_.document().seen.sections)
    if (each.step->id() == section) return each.step;
  return nullptr;
}

const StepReport* SectionDesk::reportOf(const StepId& section) const {
  for (const StepReport& report : session_.made()->model->sections)
    if (report.id == section) return &report;
  return nullptr;
}

std::vector<SectionDesk::Entry> SectionDesk::entries() const {
  std::vector<Entry> result;
  const auto& sections = session_.document().seen.sections;
  for (std::size_t i = 0; i < sections.size(); ++i) {
    const Step& step = *sections[i].step;
    Entry entry;
    entry.id = step.id();
    entry.letter = QString::fromStdString(letterOf(step.id(), i));
    const auto& names = session_.document().seen.steps;
    if (const auto name = names.find(step.id()); name != names.end()) entry.name = QString::fromStdString(name->second);
    entry.on = step.on();
    const std::string& cuts = step.value("cuts").as<std::string>();
    QStringList bodies;
    for (const BodyId& body : step.value("bodies").as<BodyPick>().bodies) {
      const ShownAs* look = session_.made()->model->lookOf(body);
      bodies << QString::fromStdString(look ? look->name : body.text());
    }
    if (const auto& layers = step.value("layers").as<std::string>(); !layers.empty())
      bodies << QString::fromStdString(layers);
    entry.scope = cuts == "all"       ? tr("all bodies")
                  : cuts == "all_but" ? tr("all but %1").arg(bodies.join(", "))
                                      : tr("only %1").arg(bodies.join(", "));
    if (const StepReport* report = reportOf(step.id())) entry.why = report->cause;
    if (step.value("with").as<std::string>() == "body" && step.on())
      for (const auto& [body, error] : session_.made()->openings.failed) entry.why = error;
    for (const BodyId& body : unsound_) {
      const ShownAs* look = session_.made()->model->lookOf(body);
      if (step.on() && !entry.why)
        entry.why = errorOf(
            tr("%1 is not closed there and not filled").arg(QString::fromStdString(look ? look->name : body.text())),
            {}, tr("Check and repair the body"));
    }
    result.push_back(std::move(entry));
  }
  return result;
}

void SectionDesk::setUnsound(std::vector<BodyId> bodies) {
  if (bodies == unsound_) return;
  unsound_ = std::move(bodies);
  emit changed();
}

QString SectionDesk::titleOf(const StepId& section) const {
  for (const Entry& entry : entries())
    if (entry.id == section) return entry.name.isEmpty() ? entry.letter : entry.letter + " " + entry.name;
  return {};
}

void SectionDesk::setCurrent(const StepId& section) {
  if (section == current_) return;
  sweep(false);
  current_ = section;
  emit changed();
}

std::optional<RulerMark> SectionDesk::ruler() const {
  const StepReport* report = reportOf(current_);
  // One on the Bench is moved there.
  if (!report || report->state == StepState::Off || !report->result || !report->result->section ||
      !report->result->section->plane || report->result->gauges.empty() ||
      (trial_.active() && trial_.step().id() == current_))
    return std::nullopt;
  for (const Entry& entry : entries())
    if (entry.id == current_)
      return RulerMark{current_, entry.letter.toStdString(), report->result->gauges.front(),
                       unitNamed(session_.document().made.unit).factor};
  return std::nullopt;
}

std::optional<SectionCut> SectionDesk::at(double value) const {
  const StepReport* report = reportOf(current_);
  const auto mark = ruler();
  if (!report || !mark) return std::nullopt;
  SectionCut cut = *report->result->section;
  const Vector by = mark->gauge.along * (value - mark->gauge.value);
  if (cut.plane) cut.plane->origin = cut.plane->origin + by;
  for (Clip::Region& region : cut.clip.regions)
    for (Plane& wall : region) wall.origin = wall.origin + by;
  return cut;
}

void SectionDesk::replace(const Step& step, const QString& what) {
  session_.edit(what, [&](const Document& document) { return document.withReplaced(step); });
}

void SectionDesk::switchOn(const StepId& section, bool on) {
  if (const auto step = stepOf(section); step && step->on() != on)
    replace(step->switched(on),
            on ? tr("Switch section %1 on").arg(titleOf(section)) : tr("Switch section %1 off").arg(titleOf(section)));
}

void SectionDesk::flip(const StepId& section) {
  const auto step = stepOf(section);
  if (!step) return;
  const bool plane = step->value("with").as<std::string>() == "plane";
  const char* key = plane ? "goes" : "hides";
  const std::string now = step->value(key).as<std::string>();
  const std::string then = now == "front" ? "back" : now == "back" ? "front" : now == "inside" ? "outside" : "inside";
  replace(step->with(key, then), tr("Flip section %1").arg(titleOf(section)));
}

void SectionDesk::remove(const StepId& section) {
  if (!stepOf(section)) return;
  session_.edit(tr("Delete section %1").arg(titleOf(section)),
                [&](const Document& document) { return document.withoutStep(section); });
}

void SectionDesk::setOffset(const StepId& section, const Expression& offset) {
  if (const auto step = stepOf(section); step && !(step->value("offset") == FieldValue(offset)))
    replace(step->with("offset", offset), tr("Move section %1").arg(titleOf(section)));
}

void SectionDesk::setOffset(const StepId& section, double millimetres) {
  const Unit unit = unitNamed(session_.document().made.unit);
  constexpr double finest = 1e6;
  const double shown = std::round(millimetres / unit.factor * finest) / finest;
  setOffset(section, Expression(formatNumber(shown) + " " + std::string(unit.name)));
}

QString SectionDesk::problemOf(const Expression& offset) const {
  const auto step = stepOf(current_);
  const NumberField* field = step ? offsetField(*step) : nullptr;
  return field ? kervo::app::problemOf(field->wanted(), offset, session_.document(), session_.dimensions()) : QString();
}

void SectionDesk::edit(const StepId& section) {
  sweep(false);
  setCurrent(section);
  trial_.edit(section);
}

void SectionDesk::sweep(bool on) {
  if (on == sweeping()) return;
  const auto mark = ruler();
  if (on && !mark) return;
  if (on) {
    Box box;
    for (const auto& [body, picture] : session_.made()->pictures) box.add(picture->mesh.box);
    const Span span = spanAlong(box, mark->gauge.from, mark->gauge.along);
    span_ = {span.low, span.high};
    place_ = std::clamp(mark->gauge.value, span_.first, span_.second);
    timer_.start();
  } else {
    timer_.stop();
    // It goes back to where it is.
    if (mark) emit swept(mark->gauge.value);
    emit changed();
  }
  emit sweepChanged();
}

}  // namespace kervo::app
