// What a step sees while it is evaluated: its own values, and the bodies, planes and drawings made before it.
// Everything it looks at is recorded, so that its result is kept until one of these things changes.
#pragma once

#include <map>
#include <string>
#include <unordered_map>
#include <vector>

#include "base/dimension_table.h"
#include "model/document.h"
#include "model/memo.h"
#include "model/step.h"

namespace kervo {

/// The bodies, planes and drawings at one place in the Cut list.
struct Surroundings {
  struct Entry {
    BodyId id;
    Shape shape;
    Key key;
    bool shielded = false;
    bool holeMaker = false;
  };
  std::vector<Entry> bodies;
  std::unordered_map<BodyId, std::size_t> bodyIndex;
  std::unordered_map<StepId, std::pair<Plane, Key>> planes;
  std::unordered_map<StepId, std::pair<DrawingResult, Key>> drawings;

  Key valueOf(Read::What what, const std::string& id) const;
  void reindex();
};

class StepInputs {
 public:
  /// Evaluates the step's number fields. Throws an Error naming the field that has no value or breaks its rule.
  StepInputs(const Step& step, const MadeHalf& document, const DimensionTable& dimensions, const Surroundings& around);

  /// Key of the step itself with its evaluated numbers.
  const Key& ownKey() const { return ownKey_; }
  const std::vector<Read>& reads() const { return reads_; }
  const std::vector<std::string>& warnings() const { return warnings_; }

  const StepId& id() const { return step_.id(); }

  /// mm, radians or a plain number.
  double number(const std::string& field) const { return numbers_.at(field).front(); }
  Point point(const std::string& field) const;
  const std::string& choice(const std::string& field) const { return value<std::string>(field); }
  bool flag(const std::string& field) const { return value<bool>(field); }
  template <class T>
  const T& value(const std::string& field) const {
    return std::get<T>(step_.value(field));
  }
  /// The curves of a drawing, evaluated.
  std::vector<PlanarCurve> curves(const std::string& field) const;

  /// The ids of the body and the pieces it was divided into; of all bodies for an empty id.
  std::vector<BodyId> members(const BodyId& family);
  bool shielded(const BodyId& body) const;
  /// The shape of an existing body.
  Shape shape(const BodyId& body);
  /// A box around it. Depends only on the box, so a change elsewhere does not touch this step.
  Box box(const BodyId& body);
  /// The members of all bodies picked, each once. Throws Error for a body that is not there.
  std::vector<BodyId> picked(const BodyPick& pick, const std::string& field);

  bool holeMaker(const BodyId& body) const;
  /// The plane picked, with the reference to a face resolved. Throws Error if it is lost or not planar.
  Plane plane(const std::string& field);
  Plane plane(const PlanePick& pick, const std::string& field);
  Face face(const std::string& field);
  Face face(const FaceReference& reference, const std::string& field);
  /// Depths that were given to single regions, in mm.
  std::map<std::string, double> regionDepths(const std::string& field) const;
  Point point(const PointReference& reference, const std::string& field);
  FoundEdges edges(const EdgeReference& reference);
  DrawingResult drawing(const StepId& step);
  Shape brought(const std::string& key) const;

  void warn(std::string text) { warnings_.push_back(std::move(text)); }
  /// What is shown of the step even if it fails.
  Finding& finding() { return finding_; }

 private:
  std::vector<SearchedBody> searched(const BodyId& family);
  Key read(Read::What what, const std::string& id);
  FoundFace faceOf(const FaceReference& reference);
  Plane planeOf(const FaceReference& reference, const std::string& place);

  const Step& step_;
  const MadeHalf& document_;
  const Surroundings& around_;
  std::map<std::string, std::vector<double>> numbers_;
  Key ownKey_;
  std::vector<Read> reads_;
  std::vector<std::string> warnings_;
  Finding finding_;
};

}  // namespace kervo
