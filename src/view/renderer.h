// Draws a scene with OpenGL 3.3 core: shaded bodies with ink edges, trial colours, highlights.
#pragma once

#include <QOpenGLExtraFunctions>
#include <QRgb>
#include <map>
#include <memory>
#include <optional>
#include <vector>

#include "view/camera.h"
#include "view/cut_layer.h"
#include "view/frame_layers.h"
#include "view/line_batch.h"
#include "view/look.h"
#include "view/scene.h"

namespace kervo {

enum class DrawStyle { ShadedEdges, Clear, Lines };

/// What is marked by pointer and selection.
struct Highlights {
  std::optional<Pick> hover;
  std::vector<Pick> selected;
};

class Renderer {
 public:
  /// Each of these needs the same OpenGL context to be current.
  void initialize();
  void release();
  void setScene(const Scene& scene);
  struct Frame {
    const Camera& camera;
    DrawStyle style = DrawStyle::ShadedEdges;
    bool moving = false;  ///< large models get thin edges then
    qreal pixelRatio = 1;
    ViewLook look = ViewLook::light();
    Highlights highlights = {};
  };
  void draw(const Frame& frame);

  bool initialized() const { return gl_ != nullptr; }

 private:
  /// A picture's buffers on the graphics card.
  struct GpuBody {
    std::shared_ptr<const BodyPicture> picture;
    std::uint32_t vertices = 0, indices = 0, array = 0;
    std::uint32_t coarse = 0;       ///< fewer triangles, for while the view moves; 0: none yet
    std::uint32_t coarseCount = 0;  ///< their corners
    std::uint32_t bands = 0;        ///< a number for each vertex; 0: none
    std::shared_ptr<const std::vector<float>> bandsOf = {};
    LineBatch edges;
  };
  GpuBody& gpu(const std::shared_ptr<const BodyPicture>& picture);
  void uploadCoarse(GpuBody& body);
  void uploadBands(GpuBody& body, const std::shared_ptr<const std::vector<float>>& bands);
  void release(GpuBody& body);

  /// Everything below the marks, with its depths.
  void drawBelow(const Frame& frame);
  /// Everything above the marks but for the marks' own edges.
  void drawAbove(const Frame& frame);
  void drawWhole(const Frame& frame);
  /// As drawWhole(), but draws only the marks again while nothing else changes. `target`: where it is shown in the end.
  void drawInLayers(const Frame& frame, std::uint32_t target);
  /// True if all that is marked is drawn anyway, so that marks hide nothing more.
  bool marksLieOnSolids(const Frame& frame) const;
  void drawBackground(const Frame& frame);
  void drawFaces(const Frame& frame, bool translucent);
  void drawBody(const GpuBody& body, bool coarse = false);
  /// Whether there is so much that less of it is drawn while the view moves.
  bool drawsLess(const Frame& frame) const;
  void drawFace(const GpuBody& body, int face);
  void drawHighlightedFaces(const Frame& frame);
  void drawEdges(const Frame& frame);
  void drawHighlightedEdges(const Frame& frame);
  void drawSilhouettes(const Frame& frame);
  void drawLines(const Frame& frame);
  void drawCuts(const Frame& frame);
  void drawCutLines(const Frame& frame);
  void useLines(const Frame& frame, QColor color, double width, double dash, double bias, const Hidden& hidden = {});
  /// To be called before each body's faces are drawn, and doneWithFaces() after the last one's.
  void useFaces(const Frame& frame, const SceneBody& body);
  void doneWithFaces();
  const Hidden& hiddenOf(const SceneBody& body) const;
  void setFaceColors(QColor base, double alpha, QColor hatch, double hatchPitch,
                     SurfacePaint::Kind paint = SurfacePaint::Kind::None);

  QOpenGLExtraFunctions* gl_ = nullptr;
  Shader background_, faces_, cutFaces_, lines_, cutLines_, layer_;
  Shader* bound_ = nullptr;  ///< which of those for faces draws now
  std::uint32_t emptyArray_ = 0;
  Scene scene_;
  std::map<const BodyPicture*, GpuBody> bodies_;
  std::map<SceneLine::Style, LineBatch> sceneLines_;
  std::vector<Hidden> hidden_;  ///< of each body of the scene
  CutLayer cuts_;
  struct FaceColors {
    QRgb base, hatch;
    double alpha, pitch;
    SurfacePaint::Kind paint;
    bool operator==(const FaceColors&) const = default;
  };
  std::optional<FaceColors> faceColors_;                       ///< set last, since the program was bound
  std::map<std::vector<std::size_t>, LineBatch> silhouettes_;  ///< by the sections that cut their bodies

  /// What the layers show.
  struct Layered {
    QMatrix4x4 matrix;
    DrawStyle style;
    qreal pixelRatio;
    ViewLook look;
    bool operator==(const Layered&) const = default;
  };
  FrameLayers layers_;
  std::optional<Layered> layered_;
};

}  // namespace kervo
