// Volume, centre of mass and inertia of a solid.
#pragma once

#include "base/progress.h"
#include "geom/shape.h"

namespace kervo {

/// Of a solid of density 1.
struct MassProperties {
  double volume = 0;       ///< mm³
  double volumeError = 0;  ///< mm³, as Shape::volumeError()
  double area = 0;         ///< mm²
  Point centroid;          ///< of the volume, in mm; of a surface that of its area is not given: all zero
  /// ∫ (|r|² I − r rᵀ) dV about the centroid along the world's axes, in mm⁵: the diagonal, and the products
  /// −∫ y z, −∫ z x, −∫ x y.
  Vector moments;
  Vector products;
};

/// By the divergence theorem over the faces: ∫ xᵢ dV = ∮ xᵢ (x·n)/4 dA and ∫ xᵢ xⱼ dV = ∮ xᵢ xⱼ (x·n)/5 dA, seen from
/// the middle of the body's box, with the faces reaching to their edges in space as in face_integrals.h. Relative error
/// 1e-9 or better for exact bodies. Throws Error if a face cannot be integrated, Stopped on request.
MassProperties massProperties(const Shape& shape, Progress& progress);

/// The moments of inertia about the principal axes through the centroid, falling; mm⁵.
Vector principalMoments(const MassProperties& properties);

}  // namespace kervo
