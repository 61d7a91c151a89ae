// What a step sees while it is evaluated: its own values, and the bodies, planes and drawings made before it.
// Everything it looks at is recorded, so that its result is kept until one of these things changes.
#pragma once

#include <string>
#include <unordered_map>
#include <vector>

#include "base/dimension_table.h"
#include "fields/inputs.h"
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

class StepInputs : public Inputs {
 public:
  /// Evaluates the numbers of all fields that matter. Throws an Error naming the field that has no value or breaks its
  /// rule.
  StepInputs(const Step& step, const MadeHalf& document, const DimensionTable& dimensions, const Surroundings& around);

  /// Key of the step itself with its evaluated numbers.
  const Key& ownKey() const { return ownKey_; }
  const std::vector<Read>& reads() const { return reads_; }
  const std::vector<std::string>& warnings() const { return warnings_; }

  const StepId& id() const override { return step_.id(); }
  const FieldValue& value(const Field& field) const override { return step_.value(field); }
  const std::vector<double>& numbers(const Field& field) const override { return numbers_[field.index()]; }
  std::vector<BodyId> members(const BodyId& family) override;
  Shape shape(const BodyId& body) override;
  const Plane* planeFrom(const StepId& step) override;
  const DrawingResult* drawingFrom(const StepId& step) override;
  Shape brought(const std::string& key) const override;
  void warn(std::string text) override { warnings_.push_back(std::move(text)); }

  bool shielded(const BodyId& body) const;
  bool holeMaker(const BodyId& body) const;
  /// A box around an existing body. Depends only on the box, so a change elsewhere does not touch this step.
  Box box(const BodyId& body);

  /// What is shown of the step even if it fails.
  Finding& finding() { return finding_; }

 private:
  Key read(Read::What what, const std::string& id);
  const Surroundings::Entry* entry(const BodyId& body) const;

  const Step& step_;
  const MadeHalf& document_;
  const Surroundings& around_;
  std::vector<std::vector<double>> numbers_;  ///< by field
  Key ownKey_;
  std::vector<Read> reads_;
  std::vector<std::string> warnings_;
  Finding finding_;
};

}  // namespace kervo
