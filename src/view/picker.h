// Finds what lies under the pointer or in a rectangle. Needs no display.
#pragma once

#include <QPointF>
#include <QRectF>
#include <memory>
#include <vector>

#include "view/camera.h"
#include "view/cut_faces.h"

namespace kervo {

/// Which parts can be picked.
struct PickFilter {
  bool bodies = false;  ///< whole bodies instead of their parts
  bool faces = true;
  bool edges = true;
  bool corners = true;
  bool guides = true;  ///< datums and drawings
  bool cuts = true;    ///< faces at which sections cut bodies
  bool operator==(const PickFilter&) const = default;
};

struct Hit {
  Pick pick;
  Point point;
};

class Picker {
 public:
  Picker();
  ~Picker();

  void setScene(const Scene& scene);
  void setFilter(PickFilter filter) { filter_ = filter; }
  PickFilter filter() const { return filter_; }

  /// All that lies within `tolerance` pixels of a pixel: nearest first, smaller parts before larger ones.
  std::vector<Hit> at(QPointF pixel, double tolerance, const Camera& camera) const;
  enum class Inclusion { Inside, Touching };
  /// All in a rectangle of pixels, hidden parts too: bodies or faces as the filter says. Where anything may be picked,
  /// bodies if the rectangle holds a whole one, faces otherwise.
  std::vector<Pick> in(QRectF pixels, Inclusion inclusion, const Camera& camera) const;

 private:
  class Selection;
  /// What lies there, face or not, before the filter.
  struct Found {
    Pick pick;
    Point point;
    bool face = false;
  };
  std::vector<Found> foundAt(QPointF pixel, double tolerance, const Camera& camera) const;
  /// Without what sections hide, and with the faces at which they cut.
  std::vector<Found> withCuts(std::vector<Found> found, QPointF pixel, double tolerance, const Camera& camera) const;
  /// Faces (or edges) first, and the bodies that they make up.
  struct Boxed {
    std::vector<Pick> parts, wholeBodies, touchedBodies, guides;
  };
  Boxed boxed(QRectF pixels, bool touching, const Camera& camera) const;

  std::unique_ptr<Selection> selection_;
  PickFilter filter_;
  Scene scene_;
};

}  // namespace kervo
