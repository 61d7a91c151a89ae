#include "view/body_picture.h"

#include <algorithm>
#include <set>

#include "base/parallel.h"
#include "geom/display/coarse_mesh.h"
#include "geom/kernel/call.h"
#include "view/selectable_body.h"

namespace kervo {

std::shared_ptr<const PickTrees> BodyPicture::pickTrees() const {
  const std::lock_guard lock(mutex_);
  return pickTrees_;
}

void BodyPicture::prepareForPicks() const {
  if (pickTrees()) return;
  const auto made = kernelCall("preparing picks",
                               [&] { return std::make_shared<const PickTrees>(PickTrees{SelectableBody::of(mesh)}); });
  constexpr std::size_t small = 3000;
  constexpr double share = 0.12;
  std::shared_ptr<const std::vector<std::uint32_t>> coarse;
  if (mesh.triangleCount() > small)
    coarse = std::make_shared<const std::vector<std::uint32_t>>(kervo::coarseTriangles(mesh, share));
  const std::lock_guard lock(mutex_);
  if (pickTrees_) return;
  pickTrees_ = made;
  coarse_ = coarse;
}

std::shared_ptr<const std::vector<std::uint32_t>> BodyPicture::coarseTriangles() const {
  const std::lock_guard lock(mutex_);
  return coarse_;
}

namespace {

/// The triangles of each paint are a face, in the order of the paints (meshForDisplay()).
std::vector<std::pair<int, Color>> coloredParts(const Mesh& mesh) {
  std::vector<std::pair<int, Color>> result;
  int number = 0;
  for (const Paint paint : std::set<Paint>(mesh.paints().begin(), mesh.paints().end())) {
    if (const auto color = colorOf(paint)) result.emplace_back(number, *color);
    ++number;
  }
  return result;
}

}  // namespace

std::shared_ptr<const BodyPicture> pictureOf(const BodyForm& form, Progress& progress, Picks picks, double cutFrom) {
  auto picture = std::make_shared<BodyPicture>();
  picture->form = form;
  if (const Mesh* mesh = form.mesh()) {
    picture->mesh = meshForDisplay(*mesh);
    picture->colored = coloredParts(*mesh);
    if (picks == Picks::Now) picture->prepareForPicks();
    return picture;
  }
  const Shape& shape = *form.kept();
  // The rough box is known without computing.
  constexpr double muchSmaller = 4;
  double size = shape.roughBox().diagonal();
  if (cutFrom < muchSmaller * size) size = std::max(size, cutFrom);
  picture->mesh = tessellate(shape, MeshQuality::forSize(size), progress);
  picture->faces = facesOf(shape);
  for (const auto& [number, color] : faceColors(shape)) picture->colored.emplace_back(number - 1, color);
  picture->edges = edgesOf(shape);
  picture->corners = cornersOf(shape);
  if (picks == Picks::Now) picture->prepareForPicks();
  return picture;
}

std::vector<std::shared_ptr<const BodyPicture>> picturesOf(const std::vector<PictureOrder>& orders,
                                                           Progress& progress) {
  std::vector<std::shared_ptr<const BodyPicture>> pictures(orders.size());
  inParallel(orders.size(), [&](std::size_t i) {
    pictures[i] = pictureOf(orders[i].form, progress, orders[i].picks, orders[i].cutFrom);
  });
  return pictures;
}

}  // namespace kervo
