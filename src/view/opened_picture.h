// Bodies that sections by closed bodies cut open: their pictures, and which of their parts are parts of the whole body.
#pragma once

#include <memory>
#include <vector>

#include "base/ids.h"
#include "base/progress.h"
#include "view/body_picture.h"

namespace kervo {

/// A closed body of whose inside, or outside, nothing is seen.
struct OpenedBy {
  StepId section;
  Shape body;
  bool outside = false;

  bool operator==(const OpenedBy& other) const {
    return section == other.section && outside == other.outside && &body.body() == &other.body.body();
  }
};

/// What is seen of a body.
struct OpenedPicture {
  std::shared_ptr<const BodyPicture> picture;  ///< null: nothing is left
  /// The numbers that its faces, edges and corners have in the picture of the whole body; -1 for new ones.
  std::vector<int> faces, edges, corners;
  /// The new faces, and the sections that made them.
  struct CutFace {
    std::size_t face;
    StepId section;
  };
  std::vector<CutFace> cutFaces;
};

/// A place of a cut face that another body fills as well.
struct OpenedOverlap {
  StepId section;
  BodyId other;
  std::vector<Point> triangles;  ///< three corners each
};

/// Where the cut faces of a body lie inside of another solid, by the checked division. Throws as openedPicture() does.
std::vector<OpenedOverlap> overlapsOf(const OpenedPicture& opened, const BodyPicture& other, const BodyId& otherId,
                                      Progress& progress);

/// By the checked division. Throws Error for a mesh, and where the division does not succeed; Stopped on request.
std::shared_ptr<const OpenedPicture> openedPicture(const BodyPicture& whole, const std::vector<OpenedBy>& by,
                                                   Progress& progress);

}  // namespace kervo
