// A frame in layers on the graphics card, so that marking something redraws the marks alone. For src/view only.
#pragma once

#include <QOpenGLExtraFunctions>
#include <QSize>
#include <array>
#include <cstdint>

namespace kervo {

/// Layers of one size that share their depths: what lies below the marks, what lies above them, and both with the
/// marks between.
class FrameLayers {
 public:
  enum class Layer { Below, Above, Whole };

  /// Makes the layers, or replaces them by layers of another size. Returns false, and keeps no layers, if the graphics
  /// card refuses.
  bool resize(QOpenGLExtraFunctions& gl, QSize size);
  /// What is drawn from now on goes into that layer.
  void bind(QOpenGLExtraFunctions& gl, Layer layer);
  /// Copies a layer's colours into a framebuffer of the same size.
  void copy(QOpenGLExtraFunctions& gl, Layer layer, std::uint32_t framebuffer);
  std::uint32_t texture(Layer layer) const { return targets_[index(layer)].texture; }
  std::uint32_t framebuffer(Layer layer) const { return targets_[index(layer)].framebuffer; }
  void release(QOpenGLExtraFunctions& gl);

 private:
  struct Target {
    std::uint32_t texture = 0, framebuffer = 0;
  };
  static std::size_t index(Layer layer) { return static_cast<std::size_t>(layer); }

  std::array<Target, 3> targets_;
  std::uint32_t depth_ = 0;
  QSize size_;
};

}  // namespace kervo
