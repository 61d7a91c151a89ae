// A face's surface made larger than the face, as what a cut reaches from or to.
#pragma once

#include <string>

#include "geom/topology.h"

namespace kervo {

/// The whole surface that `face` lies on, or as much of it as covers `box`, as a surface named `name`. Planes,
/// cylinders, cones, spheres and tori are enlarged; a free-form face is extended tangentially over its borders if it is
/// not trimmed, and taken as it is otherwise. Moved by `offset`.
Shape enlarged(const Face& face, const Box& box, const std::string& name, Vector offset = {});

}  // namespace kervo
