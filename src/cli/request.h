// One step made from arguments: what `do KIND` and the short commands have in common.
#pragma once

#include <functional>
#include <map>
#include <string>
#include <vector>

#include "cli/workpieces.h"
#include "model/step_kind.h"

namespace kervo::cli {

/// What is asked for.
struct Request {
  const StepKind* kind = nullptr;
  /// Bodies (FILE or FILE#BODY), or a document to go on with. They are what the step works on, unless its field for
  /// that is given.
  std::vector<std::string> files = {};
  /// Texts for fields, by key; see argumentHelp().
  std::map<std::string, std::vector<std::string>> texts = {};
  /// Values for fields, made once the bodies of the texts are there.
  std::function<std::map<std::string, FieldValue>(const std::map<std::string, FieldValue>& fromTexts)> more = {};
  /// Whether bodies that only cut are among the results, if the step leaves them.
  bool cuttersStay = false;
  std::vector<std::string> outputs = {};
  bool json = false;
  /// What stands first in the JSON.
  std::function<Json(const StepRun&)> extra = {};
};

/// Makes the step, prints what it did, and writes its bodies (or the document with the step). Gives an exit code;
/// throws Error, FileError, UsageError and Stopped.
int run(const Request& request);

/// What can be written for a field, and its standard.
std::string argumentHelp(const Field& field);

}  // namespace kervo::cli
