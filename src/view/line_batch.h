// Many line segments on the graphics card, drawn wide and smooth or one pixel thin.
#pragma once

#include <QOpenGLExtraFunctions>
#include <cstdint>
#include <vector>

#include "geom/display/outline.h"
#include "geom/display/tessellate.h"

namespace kervo {

/// Belongs to the context that was current when it was filled; release() needs that context current again.
class LineBatch {
 public:
  void fill(QOpenGLExtraFunctions& gl, const std::vector<float>& points, const std::vector<BodyMesh::Range>& lines);
  void release(QOpenGLExtraFunctions& gl);
  bool empty() const { return segmentCount_ == 0; }

  void drawWide(QOpenGLExtraFunctions& gl) const { drawWide(gl, 0, segmentCount_); }
  void drawThin(QOpenGLExtraFunctions& gl) const;
  /// Only one of the lines it was filled with.
  void drawLine(QOpenGLExtraFunctions& gl, std::size_t line) const { drawLines(gl, line, 1); }
  /// … or some that it was filled with in a row.
  void drawLines(QOpenGLExtraFunctions& gl, std::size_t first, std::size_t count) const;

 private:
  void drawWide(QOpenGLExtraFunctions& gl, std::uint32_t first, std::uint32_t count) const;

  std::uint32_t vertices_ = 0, quads_ = 0, thin_ = 0, wideArray_ = 0, thinArray_ = 0;
  std::uint32_t segmentCount_ = 0;
  std::vector<BodyMesh::Range> segments_;  ///< of each line
};

}  // namespace kervo
