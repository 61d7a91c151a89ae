// References: faces and edges named by origin, and how they are found again after a rebuild.
//
// They resolve by name in the body and its pieces, then in all bodies; the stored sample only breaks ties, or stands
// in for a name that is gone, with a warning. Nothing is guessed.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "base/ids.h"
#include "geom/topology.h"

namespace kervo {

/// A face, named by where it comes from ("block:top", "cut1:side:c7"). The sample is the fallback and the tie-breaker.
struct FaceReference {
  BodyId body;       ///< may be empty: looked for in all bodies
  std::string name;  ///< origin of the face
  struct Sample {
    Point point;
    Vector normal;
    double area = 0;
    bool operator==(const Sample&) const = default;
  };
  std::optional<Sample> sample;

  bool empty() const { return name.empty(); }
  bool operator==(const FaceReference&) const = default;
};

/// An edge, named by the origins of the faces on its two sides.
struct EdgeReference {
  BodyId body;
  std::string first, second;
  std::optional<Point> sample;  ///< a point on the edge
  bool operator==(const EdgeReference&) const = default;
};

/// A corner of a body, named by the origins of the faces that meet there; or a datum.
struct PointReference {
  BodyId body;                     ///< or the datum
  std::vector<std::string> faces;  ///< sorted
  std::optional<Point> sample;

  static PointReference ofDatum(BodyId datum) { return {std::move(datum), {}, std::nullopt}; }
  bool isDatum() const { return !body.empty() && faces.empty() && !sample; }
  bool operator==(const PointReference&) const = default;
};

/// How sure a resolved reference is. A lost one is an Error.
enum class Found { ByName, ByPosition };

struct FoundFace {
  BodyId body;
  Face face;
  Found how = Found::ByName;
};

struct FoundEdges {
  std::vector<std::pair<BodyId, Edge>> edges;  ///< several if the edge was divided into parts of one line or circle
  Found how = Found::ByName;
};

struct FoundPoint {
  BodyId body;
  Point point;
  Found how = Found::ByName;
};

/// A body among which references are looked up.
struct SearchedBody {
  BodyId id;
  Shape shape;
};

/// The step that made a face of this origin ("import1.2:face7" → import1); empty for text that is no origin.
StepId makerOf(const std::string& origin);

/// The references to what is there now, for a pick in the view.
FaceReference referenceTo(const BodyId& body, const Face& face);
EdgeReference referenceTo(const BodyId& body, const Edge& edge);
PointReference referenceTo(const BodyId& body, const Corner& corner);

/// Finds a face by name in the body or its pieces, then in all bodies. Several faces of that name that lie on one
/// surface count as one (the one at the sample, or the largest). If they do not, or the name is gone, the sample
/// decides, and `how` is ByPosition. Throws an Error that says what to pick again if nothing, or more than one face,
/// fits.
FoundFace resolve(const FaceReference& reference, const std::vector<SearchedBody>& bodies);
FoundEdges resolve(const EdgeReference& reference, const std::vector<SearchedBody>& bodies);
FoundPoint resolve(const PointReference& reference, const std::vector<SearchedBody>& bodies);

}  // namespace kervo
