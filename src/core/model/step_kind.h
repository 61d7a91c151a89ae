// The kinds of step: each describes itself by a table and its fields, and evaluates its steps.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "base/progress.h"
#include "fields/field.h"
#include "model/selected.h"
#include "model/step_result.h"

namespace kervo {

class Step;
class StepInputs;

/// In which menu a kind stands. Hidden: steps of it are made in another way.
enum class KindMenu { Hidden, Draw, Cut, Surface, Arrange, Check };

/// A verb that begins with a drawing and goes on with a step of the kind that takes it.
struct DrawFirst {
  std::string key;
  std::string label;
  std::string offered;  ///< on the Bench, while a planar face is selected
  std::string shortcut = {};
  std::string help = {};
};

/// What stands over a well of the Bench, and beside that.
struct WellTitle {
  std::string title = {};
  std::string note = {};
};
/// Where a kind's wells are called otherwise than stock, cutter and reach.
struct WellTitles {
  WellTitle stock = {}, cutter = {}, reach = {};
};

/// What there is to say about a kind, all of it in one place.
struct KindTable {
  std::string key;    ///< in files and on the command line: "cut"; also the name of its icon
  std::string label;  ///< for people, and what its steps are called: "Cut"
  KindMenu menu = KindMenu::Hidden;
  std::string verb = {};  ///< in the menu, if not the label: "Round edges"
  std::string shortcut = {};
  std::string help = {};
  bool startsGroup = false;  ///< a line stands before it in the menu
  bool needsBodies = true;   ///< cannot begin before there is one
  Makes makes = Makes::Bodies;
  bool mends = false;  ///< makes damaged bodies sound
  bool takesMeshes = false;
  bool places = false;  ///< moves bodies, or copies of them, by its fields x, y and z
  /// Its steps can be opened (switched off), so that what they took can be changed, and closed again.
  bool opens = false;
  std::string ofOpening = {};  ///< it changes openings: its word beside the list of them
  std::optional<DrawFirst> drawFirst = {};
  WellTitles wells = {};
  std::string command = {};  ///< another name for it on the command line
};

/// A kind of step. One object a kind, without state; its fields are members.
class StepKind : public FieldTable {
 public:
  explicit StepKind(KindTable table) : table_(std::move(table)) {}

  const KindTable& table() const { return table_; }
  const std::string& key() const { return table_.key; }
  const std::string& label() const { return table_.label; }
  Makes makes() const { return table_.makes; }

  /// What a new step begins with.
  virtual void startFrom(const Selected&, Start&) const {}
  /// How the empty Bench offers it for a selection: "Round its edges …"; nothing if it does not.
  virtual std::optional<std::string> offered(const Selected&) const { return std::nullopt; }
  /// The field with the name of the dimension that its steps measure; null if they measure none.
  virtual const FieldOf<std::string>* nameOfMeasured() const { return nullptr; }
  /// The name of the dimension that a step of this kind measures; empty if it measures none.
  std::string measures(const Step& step) const;
  /// The result for these inputs. Throws Error; Stopped on request.
  virtual StepResult evaluate(StepInputs& inputs, Progress& progress) const = 0;

 private:
  KindTable table_;
};

/// All kinds, by key.
class StepKinds {
 public:
  explicit StepKinds(std::vector<const StepKind*> kinds) : kinds_(std::move(kinds)) {}
  const std::vector<const StepKind*>& all() const { return kinds_; }
  /// The kind of that key, or null.
  const StepKind* find(const std::string& key) const;
  /// The kind whose steps bring bodies in, make drawings, mend bodies, place them, cut them open for the eye,
  /// or measure them: one of each.
  const StepKind& bringingIn() const;
  const StepKind& drawing() const;
  const StepKind& mending() const;
  const StepKind& placing() const;
  const StepKind& cuttingOpen() const;
  const StepKind& measuring() const;

 private:
  std::vector<const StepKind*> kinds_;
};

}  // namespace kervo
