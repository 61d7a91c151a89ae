// What fields see while a step is evaluated, so that they can give a kind what their values stand for.
#pragma once

#include <string>
#include <vector>

#include "base/ids.h"
#include "geom/datum.h"
#include "geom/shape.h"

namespace kervo {

class Field;
class FieldValue;
struct DrawingResult;

class Inputs {
 public:
  Inputs() = default;
  Inputs(const Inputs&) = delete;
  Inputs& operator=(const Inputs&) = delete;
  virtual ~Inputs() = default;

  /// Of the step that is evaluated.
  virtual const StepId& id() const = 0;
  virtual const FieldValue& value(const Field& field) const = 0;
  /// The values of a field's numbers, in the order in which the field gives them: mm, radians or plain. Zero in fields
  /// that do not matter.
  virtual const std::vector<double>& numbers(const Field& field) const = 0;

  /// The ids of the body and the pieces it was divided into; of all bodies for an empty id.
  virtual std::vector<BodyId> members(const BodyId& family) = 0;
  /// Whether a body is a mesh, which has no exact faces.
  virtual bool isMesh(const BodyId& body) = 0;
  /// The exact shape of an existing body. Throws Error for a mesh.
  virtual Shape shape(const BodyId& body) = 0;
  /// The datum or drawing of that id that a step before this one made; null if there is none.
  virtual const Datum* datum(const BodyId& id) = 0;
  virtual const DrawingResult* drawing(const BodyId& id) = 0;
  /// A shape stored in the document. Throws Error if it is missing.
  virtual Shape brought(const std::string& key) const = 0;

  virtual void warn(std::string text) = 0;
};

}  // namespace kervo
