// Scenes, cameras and pictures off screen for tests of the view.
#pragma once

#include <gtest/gtest.h>

#include <QImage>
#include <QOffscreenSurface>
#include <QOpenGLContext>
#include <QOpenGLFramebufferObject>
#include <cmath>
#include <vector>

#include "view/picker.h"
#include "view/renderer.h"

namespace kervo::test {

inline Scene sceneOf(std::vector<std::pair<BodyId, Shape>> bodies) {
  Progress progress;
  Scene scene;
  for (auto& [id, shape] : bodies)
    scene.bodies.push_back({id, id, pictureOf(shape, progress), {0.2, 0.6, 0.4}, Role::Plain, 0, true});
  return scene;
}

inline Camera cameraFor(const Scene& scene, StandardView view) {
  Camera camera;
  camera.setViewport({800, 600});
  camera.setScene(scene.box());
  camera.look(view, scene.box());
  return camera;
}

class PixelTest : public testing::Test {
 protected:
  void SetUp() override {
    QSurfaceFormat format;
    format.setVersion(3, 3);
    format.setProfile(QSurfaceFormat::CoreProfile);
    context_.setFormat(format);
    ASSERT_TRUE(context_.create());
    surface_.setFormat(format);
    surface_.create();
    ASSERT_TRUE(context_.makeCurrent(&surface_));
    renderer_.initialize();
  }
  void TearDown() override {
    renderer_.release();
    context_.doneCurrent();
  }

  QImage draw(const Scene& scene, const Camera& camera, const Highlights& highlights = {},
              DrawStyle style = DrawStyle::ShadedEdges) {
    QOpenGLFramebufferObject target(camera.viewport(), QOpenGLFramebufferObject::CombinedDepthStencil);
    target.bind();
    renderer_.setScene(scene);
    renderer_.draw({camera, style, false, 1, ViewLook::light(), highlights});
    return target.toImage();
  }

  static double difference(QColor a, QColor b) {
    return std::abs(a.redF() - b.redF()) + std::abs(a.greenF() - b.greenF()) + std::abs(a.blueF() - b.blueF());
  }
  static QColor at(const QImage& image, const Camera& camera, Point point) {
    return image.pixelColor(camera.project(point).toPoint());
  }

  QOpenGLContext context_;
  QOffscreenSurface surface_;
  Renderer renderer_;
};

}  // namespace kervo::test
