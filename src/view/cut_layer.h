// Cut faces on the graphics card: filled, hatched, with ink around them. For src/view only.
#pragma once

#include <QColor>
#include <QMatrix4x4>
#include <functional>

#include "view/line_batch.h"
#include "view/look.h"
#include "view/shader.h"

namespace kervo {

class CutLayer {
 public:
  /// Each of these needs the same OpenGL context to be current.
  void initialize(QOpenGLExtraFunctions& gl);
  void release();
  /// The cut faces of the scene.
  void set(const Scene& scene);

  struct Looks {
    QMatrix4x4 matrix;
    double pixelSize;  ///< mm
    float pixelRatio;
    ViewLook look;
  };
  /// How a body is drawn.
  struct BodyFill {
    QColor color;
    double alpha;
    QColor lining;  ///< of what comes or goes: its lines, in place of the section's fill; not valid: that
  };
  void drawFaces(const Looks& looks, const std::function<BodyFill(const SceneBody&)>& fillOf);
  /// A face that is marked, in that colour.
  void drawMarked(const Looks& looks, const Pick& pick, const std::function<QColor(const SceneBody&)>& colorOf);
  /// `use`: makes lines of a width (pixels) and colour, hidden in part, the ones that are drawn.
  void drawLines(const std::function<void(double width, const QColor& color, const Hidden& hidden)>& use,
                 const ViewLook& look);
  bool empty() const { return scene_.sections.empty(); }

 private:
  struct Range {
    std::uint32_t first = 0, count = 0;
  };
  void drawRange(const Range& range);
  void setFill(const Looks& looks, const CutFill& fill, const BodyFill& body);
  /// What hides a cut face: other walls, and what lies beyond its own borders.
  static Hidden aroundOf(const CutFace& face);

  QOpenGLExtraFunctions* gl_ = nullptr;
  Shader shader_;
  std::uint32_t vertices_ = 0, array_ = 0;
  Scene scene_;
  std::vector<Range> faces_, overlaps_, openings_;  ///< in the vertices
  LineBatch outlines_, meetings_;
  std::vector<Range> outlineLines_, meetingLines_, openingLines_;  ///< of each, in their batch
};

}  // namespace kervo
