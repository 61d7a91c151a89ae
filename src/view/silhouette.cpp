#include "view/silhouette.h"

#include <array>

namespace kervo {

namespace {

/// How far each vertex faces the eye: n·e, positive towards it.
std::vector<float> facing(const BodyMesh& mesh, const Camera& camera) {
  const std::size_t count = mesh.points.size() / 3;
  std::vector<float> result(count);
  const Vector back = camera.towardsEye();
  const Point eye = camera.eye();
  const bool parallel = camera.projection() == Projection::Parallel;
  for (std::size_t i = 0; i < count; ++i) {
    const float *p = &mesh.points[3 * i], *n = &mesh.normals[3 * i];
    const double x = parallel ? back.x : eye.x - p[0];
    const double y = parallel ? back.y : eye.y - p[1];
    const double z = parallel ? back.z : eye.z - p[2];
    result[i] = static_cast<float>(n[0] * x + n[1] * y + n[2] * z);
  }
  return result;
}

}  // namespace

std::vector<float> silhouette(const BodyMesh& mesh, const Camera& camera) {
  const std::vector<float> towards = facing(mesh, camera);
  std::vector<float> segments;
  for (std::size_t t = 0; t + 2 < mesh.triangles.size(); t += 3) {
    const std::array<std::uint32_t, 3> corner{mesh.triangles[t], mesh.triangles[t + 1], mesh.triangles[t + 2]};
    const std::array<bool, 3> front{towards[corner[0]] > 0, towards[corner[1]] > 0, towards[corner[2]] > 0};
    if (front[0] == front[1] && front[1] == front[2]) continue;
    for (int side = 0; side < 3; ++side) {
      const std::size_t a = corner[static_cast<std::size_t>(side)],
                        b = corner[static_cast<std::size_t>((side + 1) % 3)];
      if ((towards[a] > 0) == (towards[b] > 0)) continue;
      const float share = towards[a] / (towards[a] - towards[b]);
      for (std::size_t k = 0; k < 3; ++k)
        segments.push_back(mesh.points[3 * a + k] + share * (mesh.points[3 * b + k] - mesh.points[3 * a + k]));
    }
  }
  return segments;
}

}  // namespace kervo
