#include "steps/shared/metric_screws.h"

namespace kervo {

double MetricScrew::countersink() const {
  constexpr double sharpHead = 2.24;  // by which it is wider than the thread
  return sharpHead * diameter;
}

const std::vector<MetricScrew>& metricScrews() {
  static const std::vector<MetricScrew> screws{
      {"M2", 2, 0.4, 1.6, 2.2, 2.4, 2.6, 4.3, 2.3},      {"M2.5", 2.5, 0.45, 2.05, 2.7, 2.9, 3.1, 5, 2.9},
      {"M3", 3, 0.5, 2.5, 3.2, 3.4, 3.6, 6.5, 3.4},      {"M4", 4, 0.7, 3.3, 4.3, 4.5, 4.8, 8, 4.4},
      {"M5", 5, 0.8, 4.2, 5.3, 5.5, 5.8, 10, 5.4},       {"M6", 6, 1, 5, 6.4, 6.6, 7, 11, 6.4},
      {"M8", 8, 1.25, 6.8, 8.4, 9, 10, 15, 8.6},         {"M10", 10, 1.5, 8.5, 10.5, 11, 12, 18, 10.6},
      {"M12", 12, 1.75, 10.2, 13, 13.5, 14.5, 20, 12.6}, {"M16", 16, 2, 14, 17, 17.5, 18.5, 26, 16.6},
      {"M20", 20, 2.5, 17.5, 21, 22, 24, 33, 20.6},      {"M24", 24, 3, 21, 25, 26, 28, 40, 24.8},
  };
  return screws;
}

}  // namespace kervo
