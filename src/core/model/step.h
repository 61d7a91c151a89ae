// Steps as values, and the kinds of step: their fields, described by tables, and how they are evaluated.
#pragma once

#include <map>
#include <memory>
#include <optional>
#include <string>
#include <variant>
#include <vector>

#include "base/expression.h"
#include "base/hash.h"
#include "base/progress.h"
#include "geom/shape.h"
#include "model/reference.h"
#include "model/step_result.h"

namespace kervo {

/// A plane to cut, draw or place on: a standard one, the result of a Plane step, a planar face, or one built on the
/// spot.
struct PlanePick {
  enum class Kind {
    Standard,
    OfStep,
    OnFace,
    Midway,  ///< between two planar faces
    Points,  ///< through three corners
    Across   ///< an edge, or the axis of a round face
  };
  Kind kind = Kind::Standard;
  std::string name = "xy";                  ///< Standard: xy, xz or yz; OfStep: the step's id
  FaceReference face;                       ///< OnFace, Midway: the first one, Across: unless it is an edge
  FaceReference other = {};                 ///< Midway: the second one
  std::vector<PointReference> points = {};  ///< Points: three
  std::vector<EdgeReference> edge = {};     ///< Across: one, or none for a face
  bool operator==(const PlanePick&) const = default;

  static PlanePick midway(FaceReference a, FaceReference b) {
    return {Kind::Midway, "", std::move(a), std::move(b), {}, {}};
  }
  static PlanePick through(std::vector<PointReference> points) {
    return {Kind::Points, "", {}, {}, std::move(points), {}};
  }
  static PlanePick across(EdgeReference edge) { return {Kind::Across, "", {}, {}, {}, {std::move(edge)}}; }
  static PlanePick across(FaceReference face) { return {Kind::Across, "", std::move(face), {}, {}, {}}; }
};

/// Which bodies: those named, or all that the step touches.
struct BodyPick {
  bool all = false;
  std::vector<BodyId> bodies;
  bool operator==(const BodyPick&) const = default;
};

/// Regions of a drawing, by name, or all of them.
struct RegionPick {
  StepId drawing;
  bool all = true;
  std::vector<std::string> regions;
  std::map<std::string, Expression> depths = {};  ///< of regions that go another depth than the step says
  bool operator==(const RegionPick&) const = default;
};

/// One thing that cuts: a plane, a face, a body, or what is drawn.
struct CutterPick {
  enum class Kind { Plane, Face, Body, Drawing };
  Kind kind = Kind::Plane;
  PlanePick plane;
  FaceReference face;
  BodyId body;
  RegionPick drawing;  ///< all: its open lines, or its regions if there are none
  bool operator==(const CutterPick&) const = default;

  static CutterPick of(PlanePick plane) { return {Kind::Plane, std::move(plane), {}, {}, {}}; }
  static CutterPick of(FaceReference face) { return {Kind::Face, {}, std::move(face), {}, {}}; }
  static CutterPick ofBody(BodyId body) { return {Kind::Body, {}, {}, std::move(body), {}}; }
  static CutterPick of(RegionPick drawing) { return {Kind::Drawing, {}, {}, {}, std::move(drawing)}; }
};

/// Which pieces stay and which go, where that differs from what the step does by itself. By name, never by order.
struct PieceChoice {
  std::vector<BodyId> keep, drop;
  /// All the pieces that there were when this was chosen, so that one that appears later is announced.
  std::vector<BodyId> known;
  bool operator==(const PieceChoice&) const = default;
};

/// A drawn curve: its kind and the numbers the kind takes, as expressions.
struct DrawnCurve {
  std::string id;
  std::string kind;
  std::vector<Expression> numbers;
  bool operator==(const DrawnCurve&) const = default;
};

/// A body from a file, its shape stored in the document under a key.
struct BroughtBody {
  std::string shape;
  std::string name;
  std::optional<Color> color;
  std::string layer;
  std::map<int, Color> faceColors;  ///< of single faces, by number from 1
  bool operator==(const BroughtBody&) const = default;
};

using FieldValue =
    std::variant<Expression, std::string, bool, std::vector<Expression>, PlanePick, BodyPick, FaceReference,
                 std::vector<EdgeReference>, RegionPick, std::vector<DrawnCurve>, std::vector<BroughtBody>,
                 std::vector<CutterPick>, PieceChoice, std::vector<PointReference>, std::vector<FaceReference>>;

enum class FieldType {
  Length,
  Angle,
  Number,
  Choice,
  Flag,
  Text,
  Placement,
  Plane,
  Bodies,
  Face,
  Edges,
  Regions,
  Curves,
  Brought,
  Cutters,
  Pieces,
  Points,
  Faces
};

/// Which numbers a field takes.
enum class NumberRule { Any, Positive, NotNegative };

/// Which part of the Bench a field stands in.
enum class Well { Setup, Stock, Cutter, Reach, Pieces };

/// One field of a step kind. From these the file, the command line and the Bench are made.
struct FieldSpec {
  std::string key;    ///< in files and on the command line
  std::string label;  ///< for people
  FieldType type;
  Well well = Well::Setup;
  std::string defaultText = {};  ///< an expression, a choice, "true"/"false", a plane, "all"; as in a file
  NumberRule rule = NumberRule::Any;
  std::vector<std::string> choices = {};  ///< of a choice; of a placement: what its three numbers are called
  std::string help = {};
  /// If not empty: the field matters only while that other field matters and has one of these values.
  std::string whenField = {};
  std::vector<std::string> whenValues = {};
};

class StepInputs;

/// A kind of step. One object a kind, without state.
class StepKind {
 public:
  virtual ~StepKind() = default;
  virtual const std::string& key() const = 0;    ///< in files: "cut"
  virtual const std::string& label() const = 0;  ///< for people: "Cut"
  virtual const std::vector<FieldSpec>& fields() const = 0;
  /// The result for these inputs. Throws Error; Stopped on request.
  virtual StepResult evaluate(StepInputs& inputs, Progress& progress) const = 0;

  /// The field of that key, or null.
  const FieldSpec* field(const std::string& key) const;
};

/// All kinds, by key.
class StepKinds {
 public:
  explicit StepKinds(std::vector<const StepKind*> kinds) : kinds_(std::move(kinds)) {}
  const std::vector<const StepKind*>& all() const { return kinds_; }
  /// The kind of that key, or null.
  const StepKind* find(const std::string& key) const;

 private:
  std::vector<const StepKind*> kinds_;
};

/// One entry of the Cut list. An immutable value.
class Step {
 public:
  /// Fields not given take their defaults. Throws Error for a field that the kind does not have, or of another type.
  Step(StepId id, const StepKind& kind, std::map<std::string, FieldValue> fields, bool on = true);

  const StepId& id() const { return id_; }
  const StepKind& kind() const { return *kind_; }
  bool on() const { return on_; }
  const FieldValue& value(const std::string& key) const { return fields_.at(key); }
  const std::map<std::string, FieldValue>& fields() const { return fields_; }
  /// Key of everything but numbers: kind, id, picks, choices.
  const Key& fixedKey() const { return fixedKey_; }

  /// The same step with one field changed.
  Step with(const std::string& key, FieldValue value) const;
  Step switched(bool on) const;

 private:
  StepId id_;
  const StepKind* kind_;
  std::map<std::string, FieldValue> fields_;
  bool on_;
  Key fixedKey_;
};

/// Whether a field matters with the step's present choices.
bool matters(const Step& step, const FieldSpec& field);

/// The value that a field has when nothing is given. `defaultText` as in its table.
FieldValue defaultValue(const FieldSpec& field);
/// Throws Error unless the value is of the type that the field takes.
void requireType(const FieldSpec& field, const FieldValue& value);

}  // namespace kervo
