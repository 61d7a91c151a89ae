// The model: what a document amounts to. Immutable once published.
#pragma once

#include <map>
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "base/dimension_table.h"
#include "model/levels.h"
#include "model/step.h"
#include "model/step_result.h"

namespace kervo {

/// How a body is seen: what shown() fills in.
struct ShownAs {
  std::string name;
  std::optional<Color> color;
  std::string layer;
  bool visible = true;
  bool faded = false;                                              ///< drawn pale and seen through
  std::string level = {};                                          ///< empty: on none
  enum class Sight { Shown, Faded, Hidden } sight = Sight::Shown;  ///< by which levels are shown
  std::string material = {};
  double density = 0;                    ///< kg/m³; 0 if not known
  std::vector<std::string> within = {};  ///< the names of the assemblies that it is in, the outermost first

  /// Whether it is seen at all.
  bool inSight() const { return visible && sight != Sight::Hidden; }
  /// Whether a person or the levels keep it in the background.
  bool isPale() const { return faded || sight == Sight::Faded; }
};

/// A body as it is after the last step.
struct Body : ShownAs {
  BodyId id;
  BodyForm form;
  bool shielded = false;   ///< no step cuts it
  bool holeMaker = false;  ///< taken away from the group that it is put into

  /// @throws Error if it is a mesh.
  const Shape& shape() const { return form.exact(id); }
};

/// A datum or a drawing. It is visible until a step reads it, unless a person shows or hides it.
struct Guide : ShownAs {
  BodyId id;
  std::variant<Datum, Drawn> form;
  bool used = false;  ///< a step has read it

  const Datum* datum() const { return std::get_if<Datum>(&form); }
  const DrawingResult* drawing() const { return datum() ? nullptr : std::get<Drawn>(form).get(); }
  /// "plane", "axis", "point" or "drawing".
  const char* kindName() const { return datum() ? nameOf(*datum()) : "drawing"; }
};

enum class StepState { Made, Failed, Off };
const char* nameOf(StepState state);

/// What became of one step.
struct StepReport {
  StepId id;
  std::string kind;
  std::string label;  ///< the kind's, for people
  std::string name;   ///< what the step is called: filled in by shown()
  StepState state = StepState::Made;
  std::optional<Error> cause;  ///< of a failed step: the bodies are as they were before it
  std::optional<Error> error;  ///< the cause with the step as its place: filled in by shown()
  bool fromMemo = false;
  double seconds = 0;
  double volumeChange = 0;                   ///< mm³
  std::shared_ptr<const StepResult> result;  ///< null for a failed or switched-off step
  std::shared_ptr<const Finding> finding;    ///< also of a failed step; null if there is nothing to show

  std::string measures = {};  ///< the dimension that the step measures; empty if it measures none

  /// The drawing that the step made, or null.
  const DrawingResult* drawing() const { return result ? result->drawing() : nullptr; }
};

struct Model {
  DimensionTable dimensions;
  std::vector<LevelNow> levels;  ///< in the document's order
  std::vector<StepReport> steps;
  std::vector<Body> bodies;
  std::vector<Guide> guides;
  std::vector<StepReport> sections;  ///< what the document's sections take out of sight, in their order
  /// All outputs that were there after some step, also those that later ones used up: filled in by shown().
  std::map<BodyId, ShownAs> everShown;

  /// The body of that id, or null.
  const Body* find(const BodyId& id) const;
  /// The datum or drawing of that id, or null.
  const Guide* guide(const BodyId& id) const;
  /// How the body, datum or drawing of that id is seen, or null.
  const ShownAs* lookOf(const BodyId& id) const {
    const Body* body = find(id);
    return body ? static_cast<const ShownAs*>(body) : guide(id);
  }
  bool failed() const;
  /// What its steps measured for expressions, and why some did not.
  std::vector<MeasuredDimension> measured() const;
};

}  // namespace kervo
