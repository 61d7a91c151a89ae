// Inside of Camera. For src/view only.
#pragma once

#include <Graphic3d_Camera.hxx>

namespace kervo {

struct KernelCamera {
  Handle(Graphic3d_Camera) camera = new Graphic3d_Camera;
};

}  // namespace kervo
