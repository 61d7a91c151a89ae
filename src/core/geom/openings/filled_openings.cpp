#include <algorithm>

#include "geom/divide/boolean.h"
#include "geom/openings/crossing.h"
#include "geom/openings/filled.h"

namespace kervo {

FilledOpenings filled(const Shape& solid, const std::vector<Opening>& all, const std::vector<int>& numbers,
                      Progress& progress) {
  const auto opening = [&](int number) -> const Opening& { return all[static_cast<std::size_t>(number)]; };
  std::vector<std::vector<int>> faces;
  std::vector<std::size_t> group;  // for each number, which of these it is in
  for (const int number : numbers) {
    const std::vector<int>& its = opening(number).crossing.empty() ? opening(number).faces : opening(number).crossing;
    const auto known = std::find(faces.begin(), faces.end(), its);
    group.push_back(static_cast<std::size_t>(known - faces.begin()));
    if (known == faces.end()) faces.push_back(its);
  }
  const Filled whole = filled(solid, faces, progress);
  FilledOpenings result{{whole.body, {}}, {}};
  for (std::size_t i = 0; i < numbers.size(); ++i)
    result.fillings.push_back(opening(numbers[i]).crossing.empty()
                                  ? whole.fillings[group[i]]
                                  : intersect({whole.body, roundHole(solid, opening(numbers[i]))}, progress));
  for (int other = 0; other < static_cast<int>(all.size()); ++other) {
    const bool given = std::find(numbers.begin(), numbers.end(), other) != numbers.end();
    if (!given && !opening(other).crossing.empty() &&
        std::find(faces.begin(), faces.end(), opening(other).crossing) != faces.end())
      result.again.push_back(intersect({whole.body, roundHole(solid, opening(other))}, progress));
  }
  return result;
}

}  // namespace kervo
