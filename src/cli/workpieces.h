// Bodies named on the command line as FILE or FILE#BODY, and one step run on them.
#pragma once

#include <string>
#include <vector>

#include "cli/report.h"
#include "model/rebuild.h"

namespace kervo::cli {

/// Collects bodies from files into one document.
class Workpieces {
 public:
  /// The ids of the bodies that `spec` names: FILE takes all of a file's bodies, FILE#BODY the one (or ones) of that
  /// name. Each file is read once; documents are rebuilt. Throws UsageError for a name that is not there.
  std::vector<BodyId> add(const std::string& spec);
  std::vector<BodyId> addAll(const std::vector<std::string>& specs);
  /// Goes on with the steps of a document file. To be called first.
  void goOnWith(const std::string& path);
  bool goesOn() const { return model_.has_value(); }
  /// The bodies of that id or name after the steps so far; empty if there are none.
  std::vector<BodyId> find(const std::string& idOrName) const;
  /// The step of that id, if it is a drawing.
  StepId drawing(const std::string& id) const;
  /// A plane "x,y,z,nx,ny,nz" as a Plane step. `option` is named in errors.
  CutterPick addPlane(const std::string& text, const std::string& option);

  const Document& document() const { return document_; }
  /// The unit to write results in: the first file's, or mm.
  std::string unit() const { return unit_.empty() ? "mm" : unit_; }

 private:
  struct ReadFile {
    std::string path;
    FileContents contents;
  };
  const ReadFile& read(const std::string& path);
  BodyId bring(const FileBody& body);

  Document document_;
  std::optional<Model> model_;  ///< of the document gone on with
  std::string unit_;
  std::vector<ReadFile> files_;
  std::vector<std::pair<std::string, BodyId>> brought_;  ///< "path#number" → body
};

/// The outcome of one step on workpieces.
struct StepRun {
  Model model;
  StepReport report;
  std::vector<FileBody> bodies;  ///< what is there afterwards, without those in `hidden`
};

/// Adds the step and makes the document. Throws the Error of a step that fails. `hidden`: bodies that are not results,
/// e.g. cutters that were kept.
StepRun runStep(const Workpieces& pieces, const Step& step, const std::vector<BodyId>& hidden);

/// Prints what the step did and its bodies, and writes them to every output. `extra` goes into the JSON first.
int finish(const StepRun& run, const Workpieces& pieces, const std::vector<std::string>& outputs, bool json,
           Json extra);

/// The numbers of "x,y,z,nx,ny,nz". Throws UsageError naming the option.
std::vector<double> planeFrom(const std::string& text, const std::string& option);
/// A length such as "2mm" or "1/4 in". Throws UsageError naming the option.
double lengthFrom(const std::string& text, const std::string& option);

}  // namespace kervo::cli
