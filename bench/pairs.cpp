// Divides and unites seeded pairs of bodies and checks the volumes: kervo-pairs COUNT [SEED [FIRST]]. Prints counts,
// and every pair that is wrong.
#include <cmath>
#include <cstdio>
#include <cstdlib>
#include <map>
#include <string>

#include "base/error.h"
#include "geom/divide/boolean.h"
#include "geom/topology.h"
#include "support/body_pairs.h"

using namespace kervo;

int main(int argc, char** argv) {
  const int count = argc > 1 ? std::atoi(argv[1]) : 1000;
  const unsigned seed = argc > 2 ? static_cast<unsigned>(std::atoi(argv[2])) : 20261125;
  // From another pair on, each told before it is tried: to find one that takes for ever.
  const bool tell = argc > 3;
  const int first = tell ? std::atoi(argv[3]) : 0;
  BodyPairs pairs(seed);
  Progress progress;
  int plain = 0, remedied = 0, loose = 0, refused = 0, wrong = 0;
  double worst = 0;
  std::map<std::string, int> reasons;
  for (int i = 0; i < count; ++i) {
    const auto [a, b] = pairs.next();
    if (i < first) continue;
    if (tell)
      std::fprintf(stderr, "pair %d: %s and %s\n", i, facesOf(a).front().surfaceName().c_str(),
                   facesOf(b).front().surfaceName().c_str());
    try {
      const Division ab = divide(a, {b}, progress), ba = divide(b, {a}, progress);
      const Union both = unite({a, b}, progress);
      const double scale = a.volume() + b.volume();
      const double off = std::max(std::abs(a.volume() - ab.outside.volume() - ab.inside.volume()) / a.volume(),
                                  std::abs(scale - both.shape.volume() - ab.inside.volume()) / scale);
      const bool helped = !ab.remedy.empty() || !ba.remedy.empty() || !both.remedy.empty();
      if (off <= 1e-6) {
        ++(helped ? remedied : plain);
        worst = std::max(worst, off);
      } else if (helped) {
        ++loose;
        std::printf("pair %d: off by %.2e with a remedy: %s / %s / %s\n", i, off, ab.remedy.c_str(), ba.remedy.c_str(),
                    both.remedy.c_str());
      } else {
        ++wrong;
        std::printf("pair %d: off by %.2e\n", i, off);
      }
    } catch (const Error& error) {
      ++refused;
      ++reasons[error.happened().substr(0, 70)];
    }
    if ((i + 1) % 500 == 0) {
      std::printf(
          "%d: %d plain, %d with a stated remedy, %d with a remedy beyond 1e-6, %d refused, %d wrong; worst %.1e\n",
          i + 1, plain, remedied, loose, refused, wrong, worst);
      std::fflush(stdout);
    }
  }
  std::printf(
      "%d pairs (seed %u): %d plain, %d with a stated remedy, %d with a remedy beyond 1e-6, %d refused, %d wrong; "
      "worst %.1e\n",
      count, seed, plain, remedied, loose, refused, wrong, worst);
  for (const auto& [reason, times] : reasons) std::printf("  %d × %s\n", times, reason.c_str());
  return wrong ? 1 : 0;
}
