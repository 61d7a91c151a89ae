// Openings that a step changes: picked by any of their faces, closed, and cut again as the step wants them.
#pragma once

#include <functional>
#include <map>
#include <optional>
#include <string>
#include <vector>

#include "fields/bodies_field.h"
#include "fields/faces_field.h"
#include "fields/flag_field.h"
#include "geom/openings/opening_wall.h"
#include "geom/openings/openings.h"
#include "model/step_inputs.h"
#include "model/step_result.h"

namespace kervo {

/// The openings of one body, and which of them were picked.
struct BodyOpenings {
  BodyId body;
  Shape shape;
  std::vector<Opening> all;
  std::vector<int> picked;  ///< numbers in `all`, rising
  /// Those of them that go with an opening of another body, in a wall of several leaves.
  struct Leader {
    BodyId body;
    int number = 0;
  };
  std::map<int, Leader> leaders = {};

  const Opening& opening(int number) const { return all[static_cast<std::size_t>(number)]; }
  /// "window 2": its word, and its number in the body.
  std::string nameOf(int number) const;
  /// For people: the opening, or the edge of the wall.
  std::string nameOf(const Beside& beside) const;
};

/// The fields by which openings are picked.
struct OpeningFields {
  explicit OpeningFields(FieldTable& table);

  /// By body, shielded ones apart (with a warning); those that only go with others stand behind these. Throws Error if
  /// nothing is picked, a face belongs to no opening, or all bodies are shielded.
  std::vector<BodyOpenings> of(StepInputs& inputs, StepResult& result) const;

  const FacesField faces;
  const FlagField alike;
  const BodiesField leaves;
};

/// A solid that is to be cut, and why it does not fit in: asked only if that is so.
struct Recut {
  Shape solid;
  std::function<Error()> why;
};

/// What fills each of the picked openings, in their order.
std::vector<Shape> fillingsOf(const BodyOpenings& openings, Progress& progress);

/// Closes the picked openings of a body and cuts again what `become` gives for each from what filled it; nothing, if
/// that is empty. Throws Error if one of these would not lie in the body as a whole, or meets another one.
void recut(StepResult& result, const BodyOpenings& openings,
           const std::function<Recut(int number, const Shape& filling)>& become, Progress& progress);

/// Cuts solids out of a body that is changed from `before`. Throws what `why` gives if one of them does not lie in it
/// as a whole, clear of the others. `again`: what is cut out besides, wherever it lies.
void cutOpenings(StepResult& result, const BodyId& body, const Shape& before, const Shape& whole,
                 const std::vector<Recut>& recuts, Progress& progress, const std::vector<Shape>& again = {});

/// What stands in the way of a shift: the name of what is next on that side, and the room up to it; nothing if there is
/// enough.
std::optional<std::string> missingRoom(const BodyOpenings& openings, const Room& room, double toLeft, double toRight,
                                       double below, double above);

}  // namespace kervo
