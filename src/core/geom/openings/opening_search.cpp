#include "geom/openings/opening_search.h"

#include <algorithm>
#include <map>

#include "geom/openings/crossing.h"

namespace kervo {

namespace {

/// Borders that turn by less run straight on, in radians.
constexpr double straight = 0.02;
/// So many edges may lie between what lies in and the surface that a notch ends on: chamfers, rounds.
constexpr int mostAdded = 4;

}  // namespace

OpeningSearch::OpeningSearch(const FaceNet& net) : net_(net), mouthsAt_(net.edges().size()) {
  findMouths();
}

bool OpeningSearch::bendsOut(const std::vector<int>& edges) const {
  bool convex = false;
  for (const int e : edges) {
    const BorderEdge& edge = net_.edge(e);
    if (edge.beyond < 0 || edge.bend == EdgeBend::Concave) return false;
    convex |= edge.bend == EdgeBend::Convex;
  }
  return convex;
}

void OpeningSearch::findMouths() {
  for (const SheetBorder& border : net_.borders()) {
    if (border.inner && bendsOut(border.edges)) mouths_.push_back({border.sheet, border.edges, true, -1});
    if (!border.inner) findNotches(border);
  }
  for (std::size_t m = 0; m < mouths_.size(); ++m)
    for (const int e : mouths_[m].edges) mouthsAt_[static_cast<std::size_t>(e)].push_back(static_cast<int>(m));
}

void OpeningSearch::findNotches(const SheetBorder& border) {
  const int count = static_cast<int>(border.edges.size());
  const auto edgeAt = [&](int i) -> const BorderEdge& {
    return net_.edge(border.edges[static_cast<std::size_t>((i % count + count) % count)]);
  };
  // Stretches between places where the border turns left; within each, from the first place where it turns right to
  // the last.
  int begin = -1;
  for (int i = 0; i < count && begin < 0; ++i)
    if (edgeAt(i).turn > straight || edgeAt(i).turnAtEnd > straight) begin = i + 1;
  if (begin < 0) return;
  int first = -1, last = -1;
  const auto turnsRight = [&](int from, int to) {
    if (first < 0) first = from;
    last = to;
  };
  const auto end = [&] {
    if (first >= 0)
      if (auto notch = notchOf(border, first, last - first + 1)) mouths_.push_back(std::move(*notch));
    first = last = -1;
  };
  for (int i = begin; i < begin + count; ++i) {
    const BorderEdge& edge = edgeAt(i);
    if (edge.turn > straight) end();
    if (edge.turn < -straight) turnsRight(i, i);
    if (edge.turnAtEnd > straight) end();
    if (edge.turnAtEnd < -straight) turnsRight(i, i + 1);
  }
  end();
}

std::optional<Mouth> OpeningSearch::notchOf(const SheetBorder& border, int first, int count) const {
  const int all = static_cast<int>(border.edges.size());
  const auto numberAt = [&](int i) { return border.edges[static_cast<std::size_t>((i % all + all) % all)]; };
  for (int added = 0; added <= mostAdded; ++added)
    for (int before = 0; before <= added; ++before) {
      const int from = first - before, length = count + added;
      if (length >= all) continue;
      const BorderEdge &enter = net_.edge(numberAt(from - 1)), &leave = net_.edge(numberAt(from + length));
      if (!net_.onSameSurface(enter.beyond, leave.beyond) || !goesOn(enter, leave)) continue;
      Mouth mouth{border.sheet, {}, false, enter.beyond};
      for (int i = 0; i < length; ++i) mouth.edges.push_back(numberAt(from + i));
      const bool endsInside = std::any_of(mouth.edges.begin(), mouth.edges.end(),
                                          [&](int e) { return net_.onSameSurface(net_.edge(e).beyond, enter.beyond); });
      if (!endsInside && bendsOut(mouth.edges)) return mouth;
    }
  return std::nullopt;
}

/// From the end of one edge it is straight on to the beginning of another, which leads on that way.
bool OpeningSearch::goesOn(const BorderEdge& from, const BorderEdge& to) {
  const std::vector<gp_Pnt> a = placesAlong(from.edge), b = placesAlong(to.edge);
  const gp_Vec gap(a.back(), b.front());
  return gap.Dot(gp_Vec(a[a.size() - 2], a.back())) > 0 && gap.Dot(gp_Vec(b[0], b[1])) > 0;
}

/// The edges of a sheet in an open opening that lie on its open side: those next to the surface that it ends on, up to
/// the next mouth or inner corner.
std::set<int> OpeningSearch::openSideOf(int sheet, const Mouth& mouth) const {
  std::set<int> result;
  for (const int b : net_.bordersOf(sheet)) {
    const std::vector<int>& edges = net_.borders()[static_cast<std::size_t>(b)].edges;
    const int count = static_cast<int>(edges.size());
    const auto numberAt = [&](int i) { return edges[static_cast<std::size_t>((i % count + count) % count)]; };
    const auto goesOn = [&](int e) {
      const BorderEdge& edge = net_.edge(e);
      return edge.bend == EdgeBend::Convex && !isMouthEdge(e) && edge.twin >= 0 && !isMouthEdge(edge.twin);
    };
    for (int i = 0; i < count; ++i) {
      if (!net_.onSameSurface(net_.edge(numberAt(i)).beyond, mouth.beside)) continue;
      for (const int way : {1, -1})
        for (int k = i; k - i < count && i - k < count && goesOn(numberAt(k)); k += way) result.insert(numberAt(k));
    }
  }
  return result;
}

std::optional<FoundOpening> OpeningSearch::from(const Mouth& mouth) const {
  FoundOpening opening;
  opening.open = !mouth.closed;
  std::set<int> reached;  // mouth edges, from within
  std::vector<int> waiting;
  const auto isOutside = [&](int sheet) {
    return sheet == mouth.sheet || (mouth.beside >= 0 && net_.onSameSurface(sheet, mouth.beside));
  };
  const auto take = [&](int sheet) {
    if (opening.sheets.insert(sheet).second) waiting.push_back(sheet);
  };
  for (const int e : mouth.edges) {
    const int beyond = net_.edge(e).beyond;
    if (isOutside(beyond)) return std::nullopt;
    take(beyond);
  }
  std::set<int> rest;
  while (!waiting.empty()) {
    const int sheet = waiting.back();
    waiting.pop_back();
    const std::set<int> openSide = mouth.closed ? std::set<int>() : openSideOf(sheet, mouth);
    for (const int b : net_.bordersOf(sheet))
      for (const int e : net_.borders()[static_cast<std::size_t>(b)].edges) {
        const BorderEdge& edge = net_.edge(e);
        if (edge.beyond < 0) return std::nullopt;
        if (isMouthEdge(edge.twin))
          reached.insert(edge.twin);
        else if (isMouthEdge(e))
          continue;  // another one begins in its side
        else if (isOutside(edge.beyond) || openSide.contains(e))
          rest.insert(e);
        else
          take(edge.beyond);
      }
  }
  if (mouth.closed && !rest.empty()) return std::nullopt;
  // It comes out at mouths that it reaches all along.
  std::set<int> covered;
  for (std::size_t m = 0; m < mouths_.size(); ++m) {
    const Mouth& each = mouths_[m];
    if (opening.sheets.contains(each.sheet)) continue;
    if (!std::all_of(each.edges.begin(), each.edges.end(), [&](int e) { return reached.contains(e); })) continue;
    opening.mouths.push_back(static_cast<int>(m));
    opening.open |= !each.closed;
    covered.insert(each.edges.begin(), each.edges.end());
  }
  for (const int e : reached)
    if (!covered.contains(e) && !opening.sheets.contains(net_.edge(e).sheet) &&
        (mouth.closed || !isOutside(net_.edge(e).sheet)))
      return std::nullopt;
  return opening;
}

std::vector<FoundOpening> OpeningSearch::found() {
  std::map<std::set<int>, FoundOpening> bySheets;
  for (const Mouth& mouth : mouths_)
    if (auto opening = from(mouth)) bySheets.emplace(opening->sheets, std::move(*opening));
  std::vector<FoundOpening> openings;
  for (auto& [sheets, opening] : bySheets) openings.push_back(std::move(opening));
  joinSteps(openings);
  takeContents(openings);
  splitCrossings(net_, mouths_, openings);
  return openings;
}

Point OpeningSearch::middleOf(const Mouth& mouth) const {
  Box box;
  for (const int e : mouth.edges)
    for (const gp_Pnt& place : placesAlong(net_.edge(e).edge)) box.add(fromPnt(place));
  return box.centre();
}

/// A hole that begins in the middle of the floor of another one goes on from it: the two are one, with a step.
void OpeningSearch::joinSteps(std::vector<FoundOpening>& openings) const {
  const auto concentric = [&](const Mouth& outer, const Mouth& inner) {
    const auto floor = net_.faceOf(inner.sheet).plane();
    if (!floor) return false;
    const Point a = middleOf(outer), b = middleOf(inner);
    const Point way = (b - a) - floor->normal * dot(b - a, floor->normal);
    return length(way) < tolerance::samplePoint;
  };
  for (bool changed = true; changed;) {
    changed = false;
    for (std::size_t o = 0; o < openings.size() && !changed; ++o)
      for (std::size_t i = 0; i < openings.size() && !changed; ++i) {
        FoundOpening& outer = openings[o];
        const FoundOpening& inner = openings[i];
        if (o == i || outer.open || inner.open || outer.mouths.empty()) continue;
        for (const int m : inner.mouths) {
          const Mouth& step = mouths_[static_cast<std::size_t>(m)];
          if (!outer.sheets.contains(step.sheet) || net_.bordersOf(step.sheet).size() != 2) continue;
          if (!concentric(mouths_[static_cast<std::size_t>(outer.mouths.front())], step)) continue;
          outer.sheets.insert(inner.sheets.begin(), inner.sheets.end());
          for (const int other : inner.mouths)
            if (other != m) outer.mouths.push_back(other);
          outer.stepped = true;
          openings.erase(openings.begin() + static_cast<std::ptrdiff_t>(i));
          changed = true;
          break;
        }
      }
  }
}

/// Holes that begin in the sides of an opening and come out nowhere else go with it.
void OpeningSearch::takeContents(std::vector<FoundOpening>& openings) const {
  const std::vector<FoundOpening> alone = openings;
  for (FoundOpening& opening : openings)
    for (const FoundOpening& each : alone) {
      const bool within = std::all_of(each.mouths.begin(), each.mouths.end(), [&](int m) {
        return opening.sheets.contains(mouths_[static_cast<std::size_t>(m)].sheet);
      });
      if (within && !each.mouths.empty()) opening.sheets.insert(each.sheets.begin(), each.sheets.end());
    }
}

}  // namespace kervo
