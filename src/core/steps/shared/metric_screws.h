// Metric screws of coarse pitch, and the holes they need.
#pragma once

#include <optional>
#include <string>
#include <vector>

namespace kervo {

/// Lengths in mm.
struct MetricScrew {
  const char* name;                      ///< "M6"
  double diameter;                       ///< of the thread
  double pitch;                          ///< ISO 261, coarse
  double core;                           ///< of the hole before it is tapped, ISO 2306
  double close, normal, loose;           ///< clearance holes: ISO 273, fine, medium and coarse
  double counterbore, counterboreDepth;  ///< for cylinder heads of ISO 4762, sunk flush
  /// Of a countersink of 90°, in which a head of ISO 10642 lies flush: the head's edge, were it sharp.
  double countersink() const;
};

/// Smallest first.
const std::vector<MetricScrew>& metricScrews();

}  // namespace kervo
