// Finds what lies under the pointer or in a rectangle. Needs no display.
#pragma once

#include <QPointF>
#include <QRectF>
#include <memory>
#include <vector>

#include "view/camera.h"
#include "view/scene.h"

namespace kervo {

/// Which parts can be picked.
struct PickFilter {
  bool bodies = false;  ///< whole bodies instead of their parts
  bool faces = true;
  bool edges = true;
  bool corners = true;
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
  /// All in a rectangle of pixels, hidden parts too: bodies if the filter says so, faces otherwise.
  std::vector<Pick> in(QRectF pixels, Inclusion inclusion, const Camera& camera) const;

 private:
  class Selection;
  std::unique_ptr<Selection> selection_;
  PickFilter filter_;
};

}  // namespace kervo
