#include "fields/reference.h"

#include <algorithm>

#include "base/error.h"
#include "base/say.h"
#include "geom/tolerances.h"

namespace kervo {

namespace {

bool contains(const std::vector<std::string>& origins, const std::string& name) {
  return std::binary_search(origins.begin(), origins.end(), name);
}

/// The bodies to search, nearest first: the family of the named body, then all of them.
std::vector<std::vector<SearchedBody>> searchOrder(const BodyId& body, const std::vector<SearchedBody>& bodies) {
  std::vector<SearchedBody> family;
  for (const SearchedBody& candidate : bodies)
    if (candidate.id.isOfFamily(body)) family.push_back(candidate);
  if (body.empty() || family.size() == bodies.size()) return {bodies};
  return {family, bodies};
}

Error lost(const std::string& what, const std::string& name, const std::string& why) {
  return Error(say("the %1 \"%2\" %3", what, name, why), "", say("Pick the %1 again", what));
}

std::string nameOf(const EdgeReference& reference) {
  return reference.second.empty() ? say("border of %1", reference.first) : reference.first + " | " + reference.second;
}

/// How well a face fits a sample: on it, facing the same way. Sizes only break ties.
bool fits(const Face& face, const FaceReference::Sample& sample) {
  return face.distanceTo(sample.point) < tolerance::samplePoint && dot(face.normal(), sample.normal) > 0.99;
}

}  // namespace

StepId makerOf(const std::string& origin) {
  const auto maker = BodyId::read(origin.substr(0, origin.find(':')));
  return maker ? maker->step() : StepId();
}

FaceReference referenceTo(const BodyId& body, const Face& face) {
  return {body, face.origins().front(), FaceReference::Sample{face.samplePoint(), face.normal(), face.area()}};
}

EdgeReference referenceTo(const BodyId& body, const Edge& edge) {
  const auto& second = edge.secondOrigins();
  return {body, edge.firstOrigins().front(), second.empty() ? std::string() : second.front(), edge.middle()};
}

PointReference referenceTo(const BodyId& body, const Corner& corner) {
  return {body, corner.origins, corner.point};
}

FoundFace resolve(const FaceReference& reference, const std::vector<SearchedBody>& bodies) {
  for (const std::vector<SearchedBody>& searched : searchOrder(reference.body, bodies)) {
    std::vector<FoundFace> named;
    for (const SearchedBody& body : searched)
      for (const Face& face : facesOf(body.shape))
        if (contains(face.origins(), reference.name)) named.push_back({body.id, face, Found::ByName});
    if (named.empty()) continue;
    const bool oneSurface = std::all_of(named.begin(), named.end(), [&](const FoundFace& found) {
      return found.face.onSameSurface(named.front().face);
    });
    if (reference.sample && named.size() > 1) {
      std::vector<FoundFace> fitting;
      for (const FoundFace& found : named)
        if (fits(found.face, *reference.sample)) fitting.push_back(found);
      if (fitting.size() == 1) {
        fitting.front().how = oneSurface ? Found::ByName : Found::ByPosition;
        return fitting.front();
      }
    }
    if (!oneSurface)
      throw lost("face", reference.name,
                 say("was divided into %1 that lie apart, and none is surely meant", named.size()));
    return *std::max_element(named.begin(), named.end(),
                             [](const FoundFace& a, const FoundFace& b) { return a.face.area() < b.face.area(); });
  }
  if (!reference.sample) throw lost("face", reference.name, say("is no longer there"));
  std::vector<FoundFace> fitting;
  for (const SearchedBody& body : bodies)
    for (const Face& face : facesOf(body.shape))
      if (fits(face, *reference.sample)) fitting.push_back({body.id, face, Found::ByPosition});
  if (fitting.size() == 1) return fitting.front();
  throw lost("face", reference.name,
             fitting.empty() ? say("is no longer there, and no face lies in its place")
                             : say("is no longer there, and several faces lie in its place"));
}

namespace {

/// Edges grouped by the line or circle they are parts of.
std::vector<FoundEdges> byCurve(const std::vector<std::pair<BodyId, Edge>>& edges) {
  std::vector<FoundEdges> groups;
  for (const auto& entry : edges) {
    const auto group = std::find_if(groups.begin(), groups.end(), [&](const FoundEdges& candidate) {
      return candidate.edges.front().second.onSameCurve(entry.second);
    });
    if (group == groups.end())
      groups.push_back({{entry}, Found::ByName});
    else
      group->edges.push_back(entry);
  }
  return groups;
}

double distanceTo(const FoundEdges& group, Point point) {
  double nearest = Box::infinity;
  for (const auto& [body, edge] : group.edges) nearest = std::min(nearest, edge.distanceTo(point));
  return nearest;
}

/// Whether a side of an edge has that name; none for the open side.
bool isSide(const std::vector<std::string>& origins, const std::string& name) {
  return name.empty() ? origins.empty() : contains(origins, name);
}

/// The group at the sample, if one is clearly nearer than all others.
const FoundEdges* clearlyNearest(const std::vector<FoundEdges>& groups, Point sample, double limit) {
  std::vector<std::pair<double, const FoundEdges*>> order;
  order.reserve(groups.size());
  for (const FoundEdges& group : groups) order.emplace_back(distanceTo(group, sample), &group);
  std::sort(order.begin(), order.end(), [](const auto& a, const auto& b) { return a.first < b.first; });
  if (order.empty() || order.front().first > limit) return nullptr;
  if (order.size() > 1 && order[1].first < 2 * order[0].first + tolerance::samplePoint) return nullptr;
  return order.front().second;
}

}  // namespace

FoundEdges resolve(const EdgeReference& reference, const std::vector<SearchedBody>& bodies) {
  for (const std::vector<SearchedBody>& searched : searchOrder(reference.body, bodies)) {
    std::vector<std::pair<BodyId, Edge>> named;
    for (const SearchedBody& body : searched)
      for (const Edge& edge : edgesOf(body.shape)) {
        const auto& a = edge.firstOrigins();
        const auto& b = edge.secondOrigins();
        if ((isSide(a, reference.first) && isSide(b, reference.second)) ||
            (isSide(a, reference.second) && isSide(b, reference.first)))
          named.emplace_back(body.id, edge);
      }
    if (named.empty()) continue;
    std::vector<FoundEdges> groups = byCurve(named);
    if (groups.size() == 1) return groups.front();
    if (reference.sample)
      if (const FoundEdges* nearest = clearlyNearest(groups, *reference.sample, Box::infinity)) {
        FoundEdges result = *nearest;
        result.how = Found::ByPosition;
        return result;
      }
    throw lost("edge", nameOf(reference), say("may be any of %1 edges between these two faces", groups.size()));
  }
  if (!reference.sample) throw lost("edge", nameOf(reference), say("is no longer there"));
  std::vector<std::pair<BodyId, Edge>> all;
  for (const SearchedBody& body : bodies)
    for (const Edge& edge : edgesOf(body.shape))
      if (edge.distanceTo(*reference.sample) < tolerance::samplePoint) all.emplace_back(body.id, edge);
  const std::vector<FoundEdges> groups = byCurve(all);
  if (const FoundEdges* nearest = clearlyNearest(groups, *reference.sample, tolerance::samplePoint)) {
    FoundEdges result = *nearest;
    result.how = Found::ByPosition;
    return result;
  }
  throw lost("edge", nameOf(reference), say("is no longer there, and no single edge lies in its place"));
}

FoundPoint resolve(const PointReference& reference, const std::vector<SearchedBody>& bodies) {
  std::string name;
  for (const std::string& face : reference.faces) name += (name.empty() ? "" : " | ") + face;
  for (const std::vector<SearchedBody>& searched : searchOrder(reference.body, bodies)) {
    std::vector<FoundPoint> named;
    for (const SearchedBody& body : searched)
      for (const Corner& corner : cornersOf(body.shape))
        if (std::includes(corner.origins.begin(), corner.origins.end(), reference.faces.begin(),
                          reference.faces.end()) &&
            std::none_of(named.begin(), named.end(), [&](const FoundPoint& found) {
              return distance(found.point, corner.point) < tolerance::samplePoint;
            }))
          named.push_back({body.id, corner.point, Found::ByName});
    if (named.empty()) continue;
    if (named.size() == 1) return named.front();
    // Of several corners between the same faces the one nearest to the sample is meant, if that is clear.
    if (reference.sample) {
      const auto away = [&](const FoundPoint& found) { return distance(found.point, *reference.sample); };
      std::sort(named.begin(), named.end(),
                [&](const FoundPoint& a, const FoundPoint& b) { return away(a) < away(b); });
      if (away(named[1]) > 2 * away(named[0]) + tolerance::samplePoint) {
        named.front().how = away(named[0]) < tolerance::samplePoint ? Found::ByName : Found::ByPosition;
        return named.front();
      }
    }
    throw lost("point", name, say("may be any of %1 corners between these faces", named.size()));
  }
  if (reference.sample)
    for (const SearchedBody& body : bodies)
      for (const Corner& corner : cornersOf(body.shape))
        if (distance(corner.point, *reference.sample) < tolerance::samplePoint)
          return {body.id, corner.point, Found::ByPosition};
  throw lost("point", name, say("is no longer there"));
}

}  // namespace kervo
