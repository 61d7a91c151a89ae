#include "view/body_picture.h"

#include "geom/kernel/call.h"
#include "view/selectable_body.h"

namespace kervo {

std::shared_ptr<const BodyPicture> pictureOf(const Shape& shape, Progress& progress) {
  auto picture = std::make_shared<BodyPicture>();
  picture->shape = shape;
  // A curved body shows its own size; the box is known without computing.
  picture->mesh = tessellate(shape, MeshQuality::forSize(shape.roughBox().diagonal()), progress);
  picture->faces = facesOf(shape);
  picture->edges = edgesOf(shape);
  picture->corners = cornersOf(shape);
  picture->selectable = kernelCall(
      "preparing picks", [&]() -> Handle(SelectMgr_SelectableObject) { return SelectableBody::of(picture->mesh); });
  return picture;
}

}  // namespace kervo
