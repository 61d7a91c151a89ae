#include "view/line_batch.h"

#include <cmath>

namespace kervo {

namespace {

/// A corner of a segment's quad: both ends, and the length along the line up to each, for dashes.
struct SegmentVertex {
  float from[3];
  float to[3];
  float lengths[2];
};

void describe(QOpenGLExtraFunctions& gl) {
  for (const auto& [location, size, offset] : {std::tuple(0u, 3, std::size_t(0)), std::tuple(1u, 3, 3 * sizeof(float)),
                                               std::tuple(2u, 2, 6 * sizeof(float))}) {
    gl.glEnableVertexAttribArray(location);
    gl.glVertexAttribPointer(location, size, GL_FLOAT, GL_FALSE, sizeof(SegmentVertex),
                             reinterpret_cast<const void*>(offset));
  }
}

}  // namespace

void LineBatch::fill(QOpenGLExtraFunctions& gl, const std::vector<float>& points,
                     const std::vector<BodyMesh::Range>& lines) {
  release(gl);
  std::vector<SegmentVertex> vertices;
  std::vector<std::uint32_t> quads, thin;
  for (const BodyMesh::Range& line : lines) {
    const auto first = static_cast<std::uint32_t>(vertices.size() / 4);
    float along = 0;
    for (std::size_t i = 1; i < line.count; ++i) {
      const float *a = &points[3 * (line.first + i - 1)], *b = &points[3 * (line.first + i)];
      const float length = std::hypot(b[0] - a[0], b[1] - a[1], b[2] - a[2]);
      const SegmentVertex vertex{{a[0], a[1], a[2]}, {b[0], b[1], b[2]}, {along, along + length}};
      const auto base = static_cast<std::uint32_t>(vertices.size());
      vertices.insert(vertices.end(), 4, vertex);
      quads.insert(quads.end(), {base, base + 1, base + 2, base + 2, base + 1, base + 3});
      thin.insert(thin.end(), {base, base + 2});
      along += length;
    }
    segments_.push_back({first, static_cast<std::uint32_t>(vertices.size() / 4) - first});
  }
  segmentCount_ = static_cast<std::uint32_t>(vertices.size() / 4);
  if (segmentCount_ == 0) return;
  gl.glGenBuffers(1, &vertices_);
  gl.glBindBuffer(GL_ARRAY_BUFFER, vertices_);
  gl.glBufferData(GL_ARRAY_BUFFER, static_cast<qopengl_GLsizeiptr>(vertices.size() * sizeof(SegmentVertex)),
                  vertices.data(), GL_STATIC_DRAW);
  for (const auto& [array, buffer, indices] :
       {std::tuple(&wideArray_, &quads_, &quads), std::tuple(&thinArray_, &thin_, &thin)}) {
    gl.glGenVertexArrays(1, array);
    gl.glBindVertexArray(*array);
    gl.glBindBuffer(GL_ARRAY_BUFFER, vertices_);
    describe(gl);
    gl.glGenBuffers(1, buffer);
    gl.glBindBuffer(GL_ELEMENT_ARRAY_BUFFER, *buffer);
    gl.glBufferData(GL_ELEMENT_ARRAY_BUFFER, static_cast<qopengl_GLsizeiptr>(indices->size() * sizeof(std::uint32_t)),
                    indices->data(), GL_STATIC_DRAW);
  }
  gl.glBindVertexArray(0);
}

void LineBatch::release(QOpenGLExtraFunctions& gl) {
  for (std::uint32_t* buffer : {&vertices_, &quads_, &thin_}) {
    if (*buffer) gl.glDeleteBuffers(1, buffer);
    *buffer = 0;
  }
  for (std::uint32_t* array : {&wideArray_, &thinArray_}) {
    if (*array) gl.glDeleteVertexArrays(1, array);
    *array = 0;
  }
  segmentCount_ = 0;
  segments_.clear();
}

void LineBatch::drawWide(QOpenGLExtraFunctions& gl, std::uint32_t first, std::uint32_t count) const {
  if (count == 0) return;
  gl.glBindVertexArray(wideArray_);
  gl.glDrawElements(GL_TRIANGLES, static_cast<GLsizei>(count * 6), GL_UNSIGNED_INT,
                    reinterpret_cast<const void*>(std::size_t(first) * 6 * sizeof(std::uint32_t)));
}

void LineBatch::drawThin(QOpenGLExtraFunctions& gl) const {
  if (segmentCount_ == 0) return;
  gl.glBindVertexArray(thinArray_);
  gl.glDrawElements(GL_LINES, static_cast<GLsizei>(segmentCount_ * 2), GL_UNSIGNED_INT, nullptr);
}

void LineBatch::drawLines(QOpenGLExtraFunctions& gl, std::size_t first, std::size_t count) const {
  if (count == 0 || first + count > segments_.size()) return;
  const BodyMesh::Range &begin = segments_[first], &end = segments_[first + count - 1];
  drawWide(gl, begin.first, end.first + end.count - begin.first);
}

}  // namespace kervo
