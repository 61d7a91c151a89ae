// The document: what a person made, as a value. The model is a function of it (rebuild.h).
#pragma once

#include <map>
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "base/dimension_table.h"
#include "geom/shape.h"
#include "model/step.h"

namespace kervo {

/// What a person set on a body; what is not set comes from the step that made it.
struct BodySettings {
  std::optional<std::string> name;
  std::optional<Color> color;
  std::optional<std::string> layer;
  std::optional<bool> visible;
  std::optional<bool> shielded;
  std::optional<double> density;  ///< kg/m³
  std::optional<bool> holeMaker = {};
  bool operator==(const BodySettings&) const = default;
};

/// Dimensions, steps, body settings and brought-in shapes. Copies share their parts and are cheap.
struct Document {
  std::string unit = "mm";  ///< of bare numbers in length fields, and of lengths shown
  std::vector<DimensionRow> dimensions;
  std::vector<std::shared_ptr<const Step>> steps;
  std::map<BodyId, BodySettings> bodies;
  std::optional<Expression> wallLimit;  ///< walls thinner than this are told of
  std::map<std::string, Shape> shapes;  ///< brought-in shapes by key

  /// The step of that id, or null.
  std::shared_ptr<const Step> find(const StepId& id) const;

  // Edits give a new document; they throw Error if there is no such step or dimension.
  Document withStep(Step step) const;                       ///< added at the end
  Document withStepAt(std::size_t index, Step step) const;  ///< inserted before the step now there
  Document withReplaced(const Step& step) const;            ///< in the place of the one with its id
  Document withoutStep(const StepId& id) const;
  Document withDimension(const std::string& name, Expression expression) const;  ///< set or added
  Document withBody(const BodyId& body, BodySettings settings) const;

  /// A step id that is not taken: the kind's key and a number.
  StepId freeId(const std::string& kind) const;
};

}  // namespace kervo
