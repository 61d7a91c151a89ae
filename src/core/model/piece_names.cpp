#include "model/piece_names.h"

#include <algorithm>
#include <map>
#include <set>

#include "base/say.h"
#include "geom/topology.h"

namespace kervo {

PieceNames namePieces(const std::vector<Shape>& pieces, const BodyId& body) {
  std::vector<std::set<std::string>> origins;
  std::map<std::string, int> uses;
  for (const Shape& piece : pieces) {
    std::set<std::string>& own = origins.emplace_back();
    for (const Face& face : facesOf(piece)) own.insert(face.origins().begin(), face.origins().end());
    for (const std::string& origin : own) ++uses[origin];
  }
  PieceNames result;
  std::vector<std::size_t> unnamed;
  const std::string root = body.root() + ":";
  for (std::size_t i = 0; i < pieces.size(); ++i) {
    // The body's own faces say more to a person than those that later steps made.
    const auto isOwn = [&](const std::string& origin) { return origin.compare(0, root.size(), root) == 0; };
    auto unique = std::find_if(origins[i].begin(), origins[i].end(),
                               [&](const auto& origin) { return uses[origin] == 1 && isOwn(origin); });
    if (unique == origins[i].end())
      unique =
          std::find_if(origins[i].begin(), origins[i].end(), [&](const auto& origin) { return uses[origin] == 1; });
    if (unique == origins[i].end()) {
      unnamed.push_back(i);
      result.names.emplace_back();
      result.spoken.emplace_back();
    } else {
      result.names.push_back(isOwn(*unique) ? unique->substr(root.size()) : *unique);
      result.spoken.push_back(isOwn(*unique) ? result.names.back() : '"' + *unique + '"');
    }
  }
  std::sort(unnamed.begin(), unnamed.end(), [&](std::size_t a, std::size_t b) {
    const Point p = pieces[a].box().centre(), q = pieces[b].box().centre();
    return std::tie(p.x, p.y, p.z) < std::tie(q.x, q.y, q.z);
  });
  for (std::size_t n = 0; n < unnamed.size(); ++n)
    result.names[unnamed[n]] = result.spoken[unnamed[n]] = "part " + std::to_string(n + 1);
  result.byPosition = unnamed.size() > 1;
  return result;
}

}  // namespace kervo
