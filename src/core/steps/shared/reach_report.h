// Why cutters do not cut: collected body by body, told as one Error, with offers of what would help.
#pragma once

#include <string>
#include <vector>

#include "geom/surface/reach_gap.h"
#include "model/step_inputs.h"
#include "steps/shared/cutters.h"

namespace kervo {

/// The fields that an offer may change.
struct OfferFields {
  const CuttersField& cutters;
  const ExtentFields& reach;
  const LengthField& kerf;
};

class ReachReport {
 public:
  explicit ReachReport(const OfferFields& fields) : fields_(fields) {}

  /// `why`: "lies entirely behind the plane".
  void add(const BodyId& body, const std::string& why);

  /// Finds out why a cutter does not divide a body.
  void explain(StepInputs& inputs, const BodyId& body, const Shape& stock, const ResolvedCutter& cutter, bool finite,
               Progress& progress);
  /// For a cutter that divides the body but ends inside it elsewhere.
  void warnOfGap(StepInputs& inputs, const BodyId& body, const Shape& stock, const ResolvedCutter& cutter,
                 const ReachGap& gap, Progress& progress);

  /// Throws an Error with everything found, offers put into the step's finding.
  [[noreturn]] void fail(StepInputs& inputs) const;
  /// Gaps of bodies that were spared, when others were cut.
  void warn(StepInputs& inputs) const;

 private:
  void offer(StepInputs& inputs, const Shape& stock, const ResolvedCutter& cutter, const ReachGap& gap,
             Progress& progress);

  OfferFields fields_;
  /// What is said of bodies that a cutter does not even touch: the words, and the bodies.
  std::vector<std::pair<std::string, std::vector<BodyId>>> others_;
  std::vector<std::string> gaps_;
  std::string help_;
};

}  // namespace kervo
