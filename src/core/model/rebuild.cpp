#include "model/rebuild.h"

#include <algorithm>
#include <chrono>

#include "base/say.h"
#include "geom/tolerances.h"
#include "model/shown.h"
#include "model/step_inputs.h"

namespace kervo {

const char* nameOf(StepState state) {
  switch (state) {
    case StepState::Made:
      return "made";
    case StepState::Failed:
      return "failed";
    case StepState::Off:
      return "off";
  }
  return "";
}

const Body* Model::find(const BodyId& id) const {
  const auto found = std::find_if(bodies.begin(), bodies.end(), [&](const Body& body) { return body.id == id; });
  return found == bodies.end() ? nullptr : &*found;
}

const Guide* Model::guide(const BodyId& id) const {
  const auto found = std::find_if(guides.begin(), guides.end(), [&](const Guide& guide) { return guide.id == id; });
  return found == guides.end() ? nullptr : &*found;
}

std::vector<MeasuredDimension> Model::measured() const {
  std::vector<MeasuredDimension> result;
  for (const StepReport& step : steps) {
    if (step.measures.empty()) continue;
    MeasuredDimension& each = result.emplace_back(MeasuredDimension{step.measures});
    if (step.result)
      if (const auto& found = step.result->measured) each.value = found->value;
    if (each.value) continue;
    each.why = Error(step.state == StepState::Off
                         ? say("\"%1\" is measured by the step \"%2\", which is switched off", step.measures, step.id)
                         : say("\"%1\" is measured by the step \"%2\", which has failed", step.measures, step.id),
                     "", say("Mend that step, or switch it on"));
  }
  return result;
}

bool Model::failed() const {
  return std::any_of(steps.begin(), steps.end(),
                     [](const StepReport& step) { return step.state == StepState::Failed; });
}

namespace {

double nowSeconds() {
  return std::chrono::duration<double>(std::chrono::steady_clock::now().time_since_epoch()).count();
}

class Rebuilding {
 public:
  Rebuilding(const MadeHalf& document, Memo& memo, Progress& progress)
      : document_(document), memo_(memo), progress_(progress) {
    for (const auto& step : document.steps)
      if (const std::string name = step->kind().measures(*step); !name.empty())
        measured_.push_back({name, std::nullopt,
                             Error(say("\"%1\" is measured later, by the step \"%2\"", name, step->id()), "",
                                   say("Move that step before the one that uses it"))});
    model_.dimensions = document.values(measured_);
  }

  /// Sections see what the last step leaves, and change nothing.
  Model run(const std::vector<SectionStep>& sections) {
    const double count = static_cast<double>(document_.steps.size());
    for (std::size_t i = 0; i < document_.steps.size(); ++i) {
      progress_.throwIfStopped();
      const Step& step = *document_.steps[i];
      const double at = static_cast<double>(i);
      progress_.enter(at / count, (at + 1) / count, say("Step %1, %2", i + 1, say(step.kind().label().c_str())));
      make(step, model_.steps.emplace_back());
      if (!model_.steps.back().measures.empty()) takeMeasured();
    }
    const std::vector<bool> used = whatIsUsed();
    // Those that are switched off too: a view can show them.
    for (const SectionStep& section : sections) make(*section.step, model_.sections.emplace_back(), true);
    for (std::size_t i = 0; i < used.size(); ++i) around_.entries[i].used = used[i];
    for (Surroundings::Entry& entry : around_.entries) take(entry);
    for (std::size_t i = 0; i < document_.levels.size(); ++i)
      model_.levels.push_back({document_.levels[i].name, document_.levels[i].onLayer(), model_.dimensions.height(i)});
    return std::move(model_);
  }

 private:
  std::vector<bool> whatIsUsed() const {
    std::vector<bool> used;
    for (const Surroundings::Entry& entry : around_.entries) used.push_back(entry.used);
    return used;
  }

  void take(Surroundings::Entry& entry) {
    if (auto* form = std::get_if<BodyForm>(&entry.form)) {
      Body& body = model_.bodies.emplace_back();
      body.id = std::move(entry.id);
      body.form = std::move(*form);
      body.shielded = entry.shielded;
      body.holeMaker = entry.holeMaker;
      return;
    }
    Guide& guide = model_.guides.emplace_back();
    guide.id = std::move(entry.id);
    guide.used = entry.used;
    if (auto* datum = std::get_if<Datum>(&entry.form))
      guide.form = *datum;
    else
      guide.form = std::get<Drawn>(std::move(entry.form));
  }

  /// What is measured so far has values from now on; of one name the first.
  void takeMeasured() {
    std::vector<MeasuredDimension> now = model_.measured();
    for (std::size_t i = 0; i < now.size(); ++i) {
      const auto twice = std::find_if(now.begin(), now.begin() + static_cast<std::ptrdiff_t>(i),
                                      [&](const auto& each) { return each.name == now[i].name; });
      if (twice != now.begin() + static_cast<std::ptrdiff_t>(i)) continue;
      for (MeasuredDimension& each : measured_)
        if (each.name == now[i].name) each = now[i];
    }
    model_.dimensions = document_.values(measured_);
  }

  /// Throws an Error if something else is called like the dimension that a step measures.
  void requireNewName(const StepReport& report) const {
    if (report.measures.empty()) return;
    const auto typed = [&](const DimensionRow& row) { return row.name == report.measures; };
    const auto measured = [&](const StepReport& other) {
      return &other != &report && other.measures == report.measures;
    };
    if (std::any_of(document_.dimensions.begin(), document_.dimensions.end(), typed) ||
        std::any_of(model_.steps.begin(), model_.steps.end(), measured))
      throw Error(say("there is already a dimension \"%1\"", report.measures), "", say("Choose another name"));
  }

  void make(const Step& step, StepReport& report, bool alsoOff = false) {
    report.id = step.id();
    report.measures = step.kind().measures(step);
    report.kind = step.kind().key();
    report.label = step.kind().label();
    if (!step.on()) {
      report.state = StepState::Off;
      if (!alsoOff) return;
    }
    const double started = nowSeconds();
    try {
      requireNewName(report);
      const std::shared_ptr<const MemoEntry> entry = outcome(step, report.fromMemo);
      report.finding = entry->finding;
      for (const Read& read : entry->reads)
        if (read.of == Read::Of::Form)
          if (const auto found = around_.index.find(read.id); found != around_.index.end())
            around_.entries[found->second].used = true;
      if (const auto& error = entry->error) throw Error(*error);
      publish(*entry, report);
    } catch (const Error& error) {
      if (!step.on()) return;
      report.state = StepState::Failed;
      report.cause = error;
    }
    report.seconds = nowSeconds() - started;
  }

  std::shared_ptr<const MemoEntry> outcome(const Step& step, bool& fromMemo) {
    StepInputs inputs(step, document_, model_.dimensions, around_);
    const auto valueNow = [&](const Read& read) { return around_.valueOf(read.of, read.id); };
    if (auto kept = memo_.find(inputs.ownKey(), valueNow)) {
      fromMemo = true;
      return kept;
    }
    auto entry = std::make_shared<MemoEntry>();
    try {
      StepResult result = step.kind().evaluate(inputs, progress_);
      progress_.throwIfStopped();
      auto& warnings = result.audit.warnings;
      warnings.insert(warnings.begin(), inputs.warnings().begin(), inputs.warnings().end());
      entry->result = std::make_shared<const StepResult>(std::move(result));
    } catch (const Error& error) {
      progress_.throwIfStopped();
      entry->error = error;
    }
    if (!inputs.finding().empty()) entry->finding = std::make_shared<const Finding>(inputs.finding());
    entry->reads = inputs.reads();
    Hasher hasher;
    hasher.add(inputs.ownKey());
    for (const Read& read : entry->reads) hasher.add(static_cast<std::uint64_t>(read.of)).add(read.id).add(read.value);
    entry->key = hasher.key();
    memo_.keep(inputs.ownKey(), entry);
    return entry;
  }

  /// Puts a result in place of what it consumed.
  void publish(const MemoEntry& entry, StepReport& report) {
    const StepResult& result = *entry.result;
    for (const Output& made : result.made) {
      const bool replaced = std::find(result.consumed.begin(), result.consumed.end(), made.id) != result.consumed.end();
      if (around_.index.contains(made.id) && !replaced)
        throw Error(say("there is already a body \"%1\"", made.id), "", say("Give one of the two steps another id"));
    }
    // Made bodies stand where the body they come from stood, new ones at the end. Bodies are changed in place: a step
    // usually touches one of many.
    double volumeBefore = 0;
    bool sameOrder = true;
    std::vector<bool> placed(result.made.size(), false);
    for (const BodyId& id : result.consumed) {
      const auto found = std::find_if(around_.entries.begin(), around_.entries.end(),
                                      [&](const auto& entry) { return entry.id == id; });
      if (found == around_.entries.end()) continue;
      volumeBefore += volumeOf(found->form);
      const auto index = found - around_.entries.begin();
      std::vector<Surroundings::Entry> successors;
      for (std::size_t n = 0; n < result.made.size(); ++n)
        if (result.made[n].from == id && !placed[n]) {
          successors.push_back(entryOf(entry, n));
          placed[n] = true;
        }
      sameOrder = sameOrder && successors.size() == 1 && successors.front().id == id;
      around_.entries.erase(around_.entries.begin() + index);
      around_.entries.insert(around_.entries.begin() + index, std::make_move_iterator(successors.begin()),
                             std::make_move_iterator(successors.end()));
    }
    double volumeAfter = 0;
    for (std::size_t n = 0; n < result.made.size(); ++n) {
      volumeAfter += volumeOf(result.made[n].form);
      if (placed[n]) continue;
      around_.entries.push_back(entryOf(entry, n));
      sameOrder = false;
    }
    // A body that is only turned has the same volume but for rounding.
    const bool changed = std::abs(volumeAfter - volumeBefore) > tolerance::relative * volumeBefore;
    report.volumeChange = changed ? volumeAfter - volumeBefore : 0;
    if (!sameOrder) around_.reindex();
    report.result = entry.result;
  }

  static double volumeOf(const OutputForm& form) {
    const auto* body = std::get_if<BodyForm>(&form);
    return body ? body->volume() : 0;
  }

  Surroundings::Entry entryOf(const MemoEntry& entry, std::size_t number) const {
    const Output& made = entry.result->made[number];
    const Key key = Hasher().add(entry.key).add(static_cast<std::uint64_t>(number)).key();
    Surroundings::Entry body{made.id, made.form, key};
    // A piece inherits how its body is treated, unless a person set something else.
    const auto parent = std::find_if(around_.entries.begin(), around_.entries.end(),
                                     [&](const auto& candidate) { return candidate.id == made.from; });
    if (parent != around_.entries.end()) {
      body.shielded = parent->shielded;
      body.holeMaker = parent->holeMaker;
    }
    if (const auto found = document_.bodies.find(made.id); found != document_.bodies.end()) {
      body.shielded = found->second.shielded.value_or(body.shielded);
      body.holeMaker = found->second.holeMaker.value_or(body.holeMaker);
    }
    return body;
  }

  const MadeHalf& document_;
  Memo& memo_;
  Progress& progress_;
  Model model_;
  std::vector<MeasuredDimension> measured_;  ///< by all steps, those that come too
  Surroundings around_;
};

}  // namespace

Model rebuild(const MadeHalf& made, Memo& memo, Progress& progress) {
  return Rebuilding(made, memo, progress).run({});
}

Model rebuild(const Document& document, Memo& memo, Progress& progress) {
  return shown(Rebuilding(document.made, memo, progress).run(document.seen.sections), document.seen);
}

}  // namespace kervo
