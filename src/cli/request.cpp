#include "cli/request.h"

#include <algorithm>
#include <filesystem>
#include <sstream>

#include "cli/terminal.h"
#include "exchange/kervo_file.h"
#include "fields/bodies_field.h"
#include "fields/brought_field.h"
#include "fields/cutters_field.h"
#include "steps/registry.h"

namespace kervo::cli {

namespace {

/// Turns texts into values of fields, bringing bodies in where they name some.
class Arguments {
 public:
  Arguments(const Request& request, Workpieces& pieces) : request_(request), pieces_(pieces) {}

  std::map<std::string, FieldValue> fields() {
    std::map<std::string, FieldValue> values;
    for (const Field* field : request_.kind->fields()) {
      const auto found = request_.texts.find(field->key());
      if (found != request_.texts.end())
        values.emplace(field->key(), valueOf(*field, found->second));
      else if (field->well() == Well::Stock && !bodies_.empty() && dynamic_cast<const BodiesField*>(field) &&
               !request_.texts.contains(field->key()) && !stockGiven_)
        values.emplace(field->key(), BodyPick::only(bodies_));
      stockGiven_ |= field->well() == Well::Stock && values.contains(field->key());
    }
    return values;
  }

  /// Bodies of all files that are no document to go on with.
  void takeFiles() {
    for (const std::string& file : request_.files) {
      if (isDocumentFile(file) && file == request_.files.front()) {
        pieces_.goOnWith(file);
        continue;
      }
      for (const BodyId& body : pieces_.add(file)) bodies_.push_back(body);
    }
  }

  const std::vector<BodyId>& onlyCutting() const { return onlyCutting_; }

 private:
  FieldValue valueOf(const Field& field, const std::vector<std::string>& texts) {
    if (dynamic_cast<const BodiesField*>(&field)) return bodies(field, texts);
    if (dynamic_cast<const CuttersField*>(&field)) return cutters(field, texts);
    if (texts.size() > 1) throw UsageError("--" + field.key() + " is given several times");
    return fromText(field, texts.front());
  }

  static FieldValue fromText(const Field& field, const std::string& text) {
    const std::string option = "--" + field.key();
    try {
      FieldValue value = field.fromText(text, option);
      field.check(value);
      return value;
    } catch (const FileError& error) {
      throw UsageError(error.what());
    } catch (const Error& error) {
      throw UsageError(option + ": " + error.what());
    }
  }

  std::vector<BodyId> bodiesNamed(const Field& field, const std::string& text) {
    std::vector<BodyId> result = listed(text);
    if (!result.empty()) return result;
    if (pieces_.goesOn() && !std::filesystem::exists(text) && !std::filesystem::exists(text.substr(0, text.rfind('#'))))
      throw UsageError("--" + field.key() + ": there is no body and no file \"" + text + "\"");
    result = pieces_.add(text);
    if (field.well() == Well::Cutter) onlyCutting_.insert(onlyCutting_.end(), result.begin(), result.end());
    return result;
  }

  /// Of the document gone on with: a body by id or name (in which commas may stand), or several with commas between.
  std::vector<BodyId> listed(const std::string& text) const {
    std::vector<BodyId> result = pieces_.find(text);
    if (!result.empty() || text.find(',') == std::string::npos) return result;
    std::istringstream parts(text);
    for (std::string part; std::getline(parts, part, ',');) {
      const std::vector<BodyId> found = pieces_.find(part);
      if (found.empty()) return {};
      result.insert(result.end(), found.begin(), found.end());
    }
    return result;
  }

  FieldValue bodies(const Field& field, const std::vector<std::string>& texts) {
    if (texts.size() == 1 && texts.front() == "all") return BodyPick::everything();
    BodyPick pick;
    // Files come before those named for the field.
    if (field.well() == Well::Stock) pick.bodies = bodies_;
    for (const std::string& text : texts)
      for (const BodyId& body : bodiesNamed(field, text))
        if (std::find(pick.bodies.begin(), pick.bodies.end(), body) == pick.bodies.end()) pick.bodies.push_back(body);
    return pick;
  }

  FieldValue cutters(const Field& field, const std::vector<std::string>& texts) {
    std::vector<CutterPick> result;
    for (const std::string& text : texts) {
      if (!text.empty() && (text.front() == '{' || text.front() == '[')) {
        const FieldValue value = fromText(field, text.front() == '{' ? "[" + text + "]" : text);
        const auto& several = value.as<std::vector<CutterPick>>();
        result.insert(result.end(), several.begin(), several.end());
      } else if (text == "xy" || text == "xz" || text == "yz") {
        result.push_back(CutterPick::of(PlanePick::standard(text)));
      } else if (const StepId drawing = pieces_.drawing(text); !drawing.empty()) {
        result.push_back(CutterPick::of(RegionPick{drawing}));
      } else if (std::count(text.begin(), text.end(), ',') == 5 && !std::filesystem::exists(text)) {
        result.push_back(pieces_.addPlane(text, "--" + field.key()));
      } else {
        for (const BodyId& body : bodiesNamed(field, text)) result.push_back(CutterPick::ofBody(body));
      }
    }
    return result;
  }

  const Request& request_;
  Workpieces& pieces_;
  std::vector<BodyId> bodies_, onlyCutting_;
  bool stockGiven_ = false;
};

}  // namespace

int run(const Request& request) {
  for (const std::string& output : request.outputs) requireWritable(output);
  Workpieces pieces;
  Arguments arguments(request, pieces);
  arguments.takeFiles();
  std::map<std::string, FieldValue> fields = arguments.fields();
  if (request.more)
    for (auto& [key, value] : request.more(fields)) fields.insert_or_assign(key, value);
  const Step step(pieces.document().freeId(request.kind->key()), *request.kind, fields);
  const StepRun run = runStep(pieces, step, request.cuttersStay ? std::vector<BodyId>() : arguments.onlyCutting());
  for (const std::string& output : request.outputs)
    if (isDocumentFile(output)) writeDocument(output, pieces.document().withStep(step), progress());
  std::vector<std::string> bodyFiles;
  std::copy_if(request.outputs.begin(), request.outputs.end(), std::back_inserter(bodyFiles),
               [](const std::string& output) { return !isDocumentFile(output); });
  return finish(run, pieces, bodyFiles, request.json, request.extra ? request.extra(run) : Json());
}

std::string argumentHelp(const Field& field) {
  std::string text = field.label();
  if (!field.allowed().empty()) text += " (" + field.allowed() + ")";
  if (!field.help().empty()) text += ". " + field.help();
  if (!field.when().words.empty()) text += ". While " + field.when().words;
  return field.isNothing(field.standard()) ? text : text + ". If not given: " + field.text(field.standard());
}

}  // namespace kervo::cli
