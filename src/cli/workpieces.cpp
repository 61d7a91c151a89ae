#include "cli/workpieces.h"

#include <algorithm>
#include <filesystem>
#include <iostream>
#include <sstream>

#include "cli/terminal.h"
#include "exchange/kervo_file.h"
#include "geom/tolerances.h"
#include "model/names_for_people.h"
#include "steps/registry.h"

namespace kervo::cli {

namespace {

FileContents contentsOf(const std::string& path) {
  if (!isDocumentFile(path)) return readBodiesFrom(path);
  const Document document = readDocument(path, allStepKinds(), progress());
  Memo memo;
  return {bodiesOf(rebuild(document, memo, progress())), document.made.unit};
}

}  // namespace

const Workpieces::ReadFile& Workpieces::read(const std::string& path) {
  const auto known =
      std::find_if(files_.begin(), files_.end(), [&](const ReadFile& file) { return file.path == path; });
  if (known != files_.end()) return *known;
  files_.push_back({path, contentsOf(path)});
  if (unit_.empty()) unit_ = unitToWrite(files_.back().contents);
  return files_.back();
}

BodyId Workpieces::bring(const FileBody& body) {
  FileContents one;
  one.bodies = {body};
  document_ = withBroughtIn(document_, one, body.name, allStepKinds());
  return document_.made.steps.back()->id();
}

std::vector<BodyId> Workpieces::add(const std::string& spec) {
  // A file whose own name holds a # is taken as it is.
  const auto mark = spec.rfind('#');
  const bool whole = mark == std::string::npos || std::filesystem::exists(spec);
  const std::string path = whole ? spec : spec.substr(0, mark), name = whole ? "" : spec.substr(mark + 1);
  const FileContents contents = read(path).contents;
  std::vector<BodyId> ids;
  for (std::size_t i = 0; i < contents.bodies.size(); ++i) {
    if (!whole && contents.bodies[i].name != name) continue;
    const std::string place = path + "#" + std::to_string(i);
    const auto known =
        std::find_if(brought_.begin(), brought_.end(), [&](const auto& one) { return one.first == place; });
    if (known != brought_.end()) {
      ids.push_back(known->second);
      continue;
    }
    ids.push_back(bring(contents.bodies[i]));
    brought_.emplace_back(place, ids.back());
  }
  if (!ids.empty()) return ids;
  std::string names;
  for (std::size_t i = 0; i < contents.bodies.size() && i < 12; ++i)
    names += (names.empty() ? "" : ", ") + contents.bodies[i].name;
  throw UsageError(path + " has no body \"" + name + "\"; it has: " + names);
}

std::vector<BodyId> Workpieces::addAll(const std::vector<std::string>& specs) {
  std::vector<BodyId> ids;
  for (const std::string& spec : specs)
    for (const BodyId& id : add(spec))
      if (std::find(ids.begin(), ids.end(), id) == ids.end()) ids.push_back(id);
  return ids;
}

void Workpieces::goOnWith(const std::string& path) {
  document_ = readDocument(path, allStepKinds(), progress());
  if (unit_.empty()) unit_ = document_.made.unit;
  Memo memo;
  model_ = rebuild(document_, memo, progress());
}

std::vector<BodyId> Workpieces::find(const std::string& idOrName) const {
  std::vector<BodyId> result;
  if (!model_) return result;
  for (const Body& body : model_->bodies)
    if (body.id == idOrName || body.name == idOrName) result.push_back(body.id);
  return result;
}

StepId Workpieces::drawing(const std::string& id) const {
  for (const auto& step : document_.made.steps)
    if (step->id() == id && step->kind().makes() == Makes::Drawing) return step->id();
  return {};
}

std::vector<double> planeFrom(const std::string& text, const std::string& option) {
  std::vector<double> numbers;
  std::stringstream stream(text);
  for (std::string part; std::getline(stream, part, ',');) numbers.push_back(lengthFrom(part, option));
  if (numbers.size() != 6) throw UsageError(option + " needs six numbers x,y,z,nx,ny,nz: a point and a normal");
  if (length(Vector{numbers[3], numbers[4], numbers[5]}) < 1e-12)
    throw UsageError(option + ": the normal nx,ny,nz is zero");
  return numbers;
}

CutterPick Workpieces::addPlane(const std::string& text, const std::string& option) {
  const std::vector<double> numbers = planeFrom(text, option);
  const auto three = [&](std::size_t from) {
    std::vector<Expression> result;
    for (std::size_t i = from; i < from + 3; ++i) result.emplace_back(formatNumber(numbers[i], 17) + " mm");
    return result;
  };
  const StepId id = document_.freeId(planeStep().key());
  document_ = document_.withStep(Step(id, planeStep(), {{"way", "at"}, {"point", three(0)}, {"normal", three(3)}}));
  return CutterPick::of(PlanePick::ofStep(id));
}

StepRun runStep(const Workpieces& pieces, const Step& step, const std::vector<BodyId>& hidden) {
  Memo memo;
  StepRun run;
  run.model = rebuild(pieces.document().withStep(step), memo, progress());
  const Model before = rebuild(pieces.document(), memo, progress());
  const bool section = step.kind().makes() == Makes::Section;
  for (const auto* reports : {&run.model.steps, &run.model.sections})
    for (const StepReport& report : *reports)
      if (report.error)
        throw Error(withNames(report.error->happened(), before), report.error->where(),
                    withNames(report.error->help(), before));
  run.report = section ? run.model.sections.back() : run.model.steps.back();
  for (const Body& body : run.model.bodies)
    if (std::find(hidden.begin(), hidden.end(), body.id) == hidden.end())
      run.bodies.push_back(fileBodyOf(body, run.model));
  return run;
}

/// The datums and drawings that the step itself made.
static std::vector<const Guide*> madeBy(const StepRun& run) {
  std::vector<const Guide*> result;
  for (const Output& output : run.report.result->made)
    if (const Guide* guide = run.model.guide(output.id)) result.push_back(guide);
  return result;
}

int finish(const StepRun& run, const Workpieces& pieces, const std::vector<std::string>& outputs, bool json,
           Json extra) {
  if (json) {
    Json root = extra.is_object() ? std::move(extra) : Json::object();
    root["step"] = stepJson(run.report, run.model, true);
    root["bodies"] = Json::array();
    for (const FileBody& body : run.bodies) root["bodies"].push_back(bodyJson(body));
    for (const Guide* guide : madeBy(run)) root["datums_and_drawings"].push_back(guideJson(*guide));
    print(root);
  } else {
    clearProgress();
    const Audit& audit = run.report.result->audit;
    if (audit.cuts)
      out() << "removes " << volumeText(audit.volumeRemoved) << " of " << volumeText(audit.volumeBefore) << ", balance "
            << formatNumber(audit.balance, 2) << " mm³\n";
    for (const std::string& note : withNames(audit.notes, run.model)) out() << note << "\n";
    for (const BodyId& body : audit.spared) {
      const Body* spared = run.model.find(body);
      out() << "not met: " << (spared ? spared->name : body.text()) << "\n";
    }
    for (const std::string& warning : withNames(audit.warnings, run.model)) out() << "note: " << warning << "\n";
    for (const FileBody& body : run.bodies) out() << bodyLine(body) << "\n";
    for (const Guide* guide : madeBy(run)) out() << guideLine(*guide) << "\n";
    out().flush();
  }
  if (run.bodies.empty()) std::cerr << "kervo-cli: nothing stays of the stock\n";
  for (const std::string& output : outputs) writeBodiesTo(output, run.bodies, pieces.unit());
  return done;
}

double lengthFrom(const std::string& text, const std::string& option) {
  try {
    const double value = Expression(text).evaluateAs(
        lengthDimension, unitNamed("mm"),
        [](const std::string& name) -> Quantity { throw Error("there is no dimension \"" + name + "\" here"); });
    if (std::abs(value) > tolerance::largestSize)
      throw Error("the value is beyond " + formatNumber(tolerance::largestSize) + " mm");
    return value;
  } catch (const Error& error) {
    throw UsageError(option + ": " + error.what());
  }
}

}  // namespace kervo::cli
