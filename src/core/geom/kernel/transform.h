// Between Kervo's motions and the kernel's.
#pragma once

#include <gp_Trsf.hxx>

#include "geom/motion.h"

namespace kervo {

inline gp_Trsf toTrsf(const Motion& motion) {
  const auto& m = motion.rows();
  const Vector t = motion.moving();
  gp_Trsf transform;
  transform.SetValues(m[0].x, m[0].y, m[0].z, t.x, m[1].x, m[1].y, m[1].z, t.y, m[2].x, m[2].y, m[2].z, t.z);
  return transform;
}

}  // namespace kervo
