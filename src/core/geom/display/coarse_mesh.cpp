#include "geom/display/coarse_mesh.h"

#include <meshoptimizer.h>

namespace kervo {

std::vector<std::uint32_t> coarseTriangles(const BodyMesh& mesh, double share) {
  constexpr float farthest = 0.02F;  // of the mesh's size
  const auto wanted = static_cast<std::size_t>(share * static_cast<double>(mesh.triangleCount())) * 3;
  std::vector<std::uint32_t> triangles(mesh.triangles.size());
  const std::size_t count =
      meshopt_simplify(triangles.data(), mesh.triangles.data(), mesh.triangles.size(), mesh.points.data(),
                       mesh.points.size() / 3, 3 * sizeof(float), wanted, farthest, 0, nullptr);
  triangles.resize(count);
  return triangles;
}

}  // namespace kervo
