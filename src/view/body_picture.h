// All that is needed to draw a body and to pick its parts, made in a worker and immutable from then on
// (what picks search may follow later).
#pragma once

#include <memory>
#include <mutex>
#include <vector>

#include "base/progress.h"
#include "fields/reference.h"
#include "geom/body_form.h"
#include "geom/display/tessellate.h"
#include "geom/topology.h"

namespace kervo {

struct PickTrees;

class BodyPicture {
 public:
  BodyForm form;  ///< of nothing in pictures of datums and drawings
  BodyMesh mesh;
  std::vector<Face> faces;  ///< by the mesh's numbers
  std::vector<Edge> edges;
  std::vector<Corner> corners;
  /// Faces with a colour of their own, by the mesh's numbers; of a mesh the triangles of one paint are a face.
  std::vector<std::pair<int, Color>> colored;

  /// What picks search, with its trees built; null until prepareForPicks() was called. From any thread.
  std::shared_ptr<const PickTrees> pickTrees() const;
  /// Fewer triangles, as corners, for while the view moves; null for a small mesh, and until prepareForPicks() was
  /// called. From any thread.
  std::shared_ptr<const std::vector<std::uint32_t>> coarseTriangles() const;
  /// Takes longer than all the rest of a picture. From any thread.
  void prepareForPicks() const;

 private:
  mutable std::mutex mutex_;
  mutable std::shared_ptr<const PickTrees> pickTrees_;
  mutable std::shared_ptr<const std::vector<std::uint32_t>> coarse_;
};

/// Whether a picture is ready for picks at once, or when prepareForPicks() is called.
enum class Picks { Now, Later };
/// `cutFrom`: the size in mm of the body that it is a piece of, 0 for none. A piece that is not much smaller keeps the
/// meshes of that body's faces.
std::shared_ptr<const BodyPicture> pictureOf(const BodyForm& form, Progress& progress, Picks picks = Picks::Now,
                                             double cutFrom = 0);

/// A picture that is wanted, as of pictureOf().
struct PictureOrder {
  BodyForm form;
  Picks picks = Picks::Now;
  double cutFrom = 0;
};
/// Of several bodies side by side, in their order.
std::vector<std::shared_ptr<const BodyPicture>> picturesOf(const std::vector<PictureOrder>& orders, Progress& progress);

/// What a pick takes: a whole body, one of its parts by its number in the picture, a datum or drawing, or the face at
/// which a section cuts a body, by its number in the scene.
struct Pick {
  enum class Kind { Body, Face, Edge, Corner, Guide, Cut };
  Kind kind = Kind::Body;
  BodyId body;
  int index = 0;
  std::optional<Point> place = {};  ///< where it was clicked, if it was
  /// The same part, wherever it was clicked.
  bool operator==(const Pick& other) const { return kind == other.kind && body == other.body && index == other.index; }
};

}  // namespace kervo
