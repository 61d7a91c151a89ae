// Reads back what was just written without the search for crossing borders.
//
// The kernel repairs each shape that it takes from a STEP file. Three quarters of that goes into a search for borders
// that cross themselves, which takes as long as the square of the borders of a face. What Kervo writes is proven sound,
// and a comparison of volumes and areas would show such a crossing.
#pragma once

#include <XSAlgo_AlgoContainer.hxx>

namespace kervo {

/// While it lives, shapes are taken from STEP files without that search. The kernel's setting is global: the caller
/// holds stepMutex().
class PlainHealing {
 public:
  PlainHealing();
  ~PlainHealing();
  PlainHealing(const PlainHealing&) = delete;
  PlainHealing& operator=(const PlainHealing&) = delete;

 private:
  Handle(XSAlgo_AlgoContainer) usual_;
};

}  // namespace kervo
