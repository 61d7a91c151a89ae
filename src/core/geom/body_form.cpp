#include "geom/body_form.h"

#include "base/error.h"
#include "base/say.h"
#include "geom/instance.h"

namespace kervo {

const Shape* BodyForm::shape() const {
  const Shape* exact = kept();
  return exact ? plain(exact) : nullptr;
}

const Shape& BodyForm::exact(const std::string& id) const {
  if (const Shape* exact = shape()) return *exact;
  throw Error(say("\"%1\" is a mesh, which has no exact faces", id), "",
              say("Choose an exact body; Split, Combine, Cut, Place and Pattern take meshes"));
}

bool BodyForm::empty() const {
  return std::visit([](const auto& form) { return form.empty(); }, form_);
}

BodyKind BodyForm::kind() const {
  const Shape* exact = kept();
  return !exact ? BodyKind::Mesh : exact->empty() ? BodyKind::Solid : exact->kind();
}

double BodyForm::volume() const {
  return std::visit([](const auto& form) { return form.volume(); }, form_);
}

double BodyForm::volumeError() const {
  return kept() ? kept()->volumeError() : 0;
}

double BodyForm::area() const {
  return std::visit([](const auto& form) { return form.area(); }, form_);
}

Box BodyForm::box() const {
  return std::visit([](const auto& form) { return form.box(); }, form_);
}

Box BodyForm::roughBox() const {
  return kept() ? kept()->roughBox() : mesh()->box();
}

bool BodyForm::watertight() const {
  return std::visit([](const auto& form) { return form.watertight(); }, form_);
}

bool BodyForm::hasFlawedFaces() const {
  return kept() ? kept()->hasFlawedFaces() : !watertight() || volume() < 0;
}

const void* BodyForm::identity() const {
  if (const Mesh* triangles = mesh()) return triangles->identity();
  return empty() ? nullptr : &kept()->body();
}

}  // namespace kervo
