// What a step sees while it is evaluated: its own values, and the bodies, datums and drawings made before it.
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

/// The bodies, datums and drawings at one place in the Cut list, in their order.
struct Surroundings {
  struct Entry {
    BodyId id;
    OutputForm form;
    Key key;
    bool shielded = false;
    bool holeMaker = false;
    bool used = false;  ///< a step has read it

    const BodyForm* body() const { return std::get_if<BodyForm>(&form); }
  };
  std::vector<Entry> entries;
  std::unordered_map<BodyId, std::size_t> index;

  /// The entry of that id, or null.
  const Entry* find(const BodyId& id) const {
    const auto found = index.find(id);
    return found == index.end() ? nullptr : &entries[found->second];
  }
  Key valueOf(Read::Of of, const BodyId& id) const;
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
  bool isMesh(const BodyId& body) override;
  Shape shape(const BodyId& body) override;
  const Datum* datum(const BodyId& id) override;
  const DrawingResult* drawing(const BodyId& id) override;
  Shape brought(const std::string& key) const override;
  void warn(std::string text) override { warnings_.push_back(std::move(text)); }

  bool shielded(const BodyId& body) const;
  bool holeMaker(const BodyId& body) const;
  /// An existing body, exact or a mesh; an empty one for none.
  BodyForm form(const BodyId& body);
  /// A box around an existing body. Depends only on the box, so a change elsewhere does not touch this step.
  Box box(const BodyId& body);

  /// What is shown of the step even if it fails.
  Finding& finding() { return finding_; }

 private:
  void read(Read::Of of, const BodyId& id);
  /// What form the output of that id has, read as a whole; null if there is none, or of another kind.
  template <class Form>
  const Form* formOf(const BodyId& id);

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
