#include "geom/mesh.h"

#include <bit>
#include <span>
#include <stdexcept>

#include "geom/mesh/mesh_edges.h"

namespace kervo {

namespace {

/// Each counted once.
std::size_t countOpenEdges(std::size_t pointCount, const std::vector<Mesh::Triangle>& triangles) {
  const MeshEdges edges(pointCount, triangles);
  std::size_t open = 0;
  for (std::uint32_t from = 0; from < pointCount; ++from)
    for (const MeshEdges::Edge& edge : std::span(edges.begin(from), edges.end(from))) {
      // Several triangles may run along it.
      if (edges.joins(from, edge.to) || edges.triangleOf(from, edge.to) != edge.triangle) continue;
      if (from < edge.to || edges.times(edge.to, from) == 0) ++open;
    }
  return open;
}

std::uint64_t hashOf(const Point& point) {
  std::uint64_t hash = 0;
  for (const double value : {point.x, point.y, point.z}) {
    // 0 and -0 are one place.
    hash ^=
        std::bit_cast<std::uint64_t>(value == 0 ? 0.0 : value) + 0x9e3779b97f4a7c15ULL + (hash << 6U) + (hash >> 2U);
    hash *= 0xff51afd7ed558ccdULL;
    hash ^= hash >> 32U;
  }
  return hash;
}

}  // namespace

Mesh::Mesh(std::vector<Point> points, std::vector<Triangle> triangles, Extra extra) {
  if (triangles.empty()) return;
  if (!extra.paints.empty() && extra.paints.size() != triangles.size())
    throw std::invalid_argument("a paint for every triangle");  // for the machine
  auto content = std::make_shared<Content>();
  for (const Triangle& triangle : triangles)
    for (const std::uint32_t corner : triangle) content->box.add(points.at(corner));
  const Point middle = content->box.centre();
  double volume = 0;
  for (const Triangle& triangle : triangles) {
    const Point a = points[triangle[0]], b = points[triangle[1]], c = points[triangle[2]];
    const Vector twice = cross(b - a, c - a);
    content->area += length(twice) / 2;
    // From the middle of the box, so that a far-away mesh loses no digits.
    volume += dot(a - middle, twice) / 6;
  }
  content->openEdges = countOpenEdges(points.size(), triangles);
  if (content->openEdges == 0) content->volume = volume;
  content->points = std::move(points);
  content->triangles = std::move(triangles);
  content->extra = std::move(extra);
  content_ = std::move(content);
}

const std::vector<Point>& Mesh::points() const {
  static const std::vector<Point> none;
  return content_ ? content_->points : none;
}

const std::vector<Mesh::Triangle>& Mesh::triangles() const {
  static const std::vector<Triangle> none;
  return content_ ? content_->triangles : none;
}

const std::vector<Paint>& Mesh::paints() const {
  static const std::vector<Paint> none;
  return content_ ? content_->extra.paints : none;
}

Point Mesh::openPlace() const {
  const MeshEdges edges(points().size(), triangles());
  for (std::uint32_t from = 0; from < points().size(); ++from)
    for (const MeshEdges::Edge& edge : std::span(edges.begin(from), edges.end(from)))
      if (!edges.joins(from, edge.to)) return (points()[from] + points()[edge.to]) * 0.5;
  throw std::out_of_range("no edge lies open");  // for the machine
}

Mesh Mesh::with(Extra extra) const {
  Mesh result;
  if (empty()) return result;
  auto content = std::make_shared<Content>(*content_);
  content->extra = std::move(extra);
  result.content_ = std::move(content);
  return result;
}

void Welder::expect(std::size_t points) {
  points_.reserve(points);
  while (slots_.size() < 2 * points) grow();
}

void Welder::grow() {
  slots_.assign(slots_.empty() ? 1024 : 2 * slots_.size(), 0);
  for (std::size_t i = 0; i < points_.size(); ++i) {
    std::size_t slot = hashOf(points_[i]) & (slots_.size() - 1);
    while (slots_[slot] != 0) slot = (slot + 1) & (slots_.size() - 1);
    slots_[slot] = static_cast<std::uint32_t>(i + 1);
  }
}

std::uint32_t Welder::numberOf(const Point& point) {
  if (2 * (points_.size() + 1) > slots_.size()) grow();
  std::size_t slot = hashOf(point) & (slots_.size() - 1);
  while (slots_[slot] != 0) {
    if (points_[slots_[slot] - 1] == point) return slots_[slot] - 1;
    slot = (slot + 1) & (slots_.size() - 1);
  }
  points_.push_back(point);
  slots_[slot] = static_cast<std::uint32_t>(points_.size());
  return slots_[slot] - 1;
}

}  // namespace kervo
