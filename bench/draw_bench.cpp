// Drawing 200 000 triangles off screen: at rest with wide edges, while the view moves, and while the pointer marks.
// Needs a display.
#include <benchmark/benchmark.h>

#include <QGuiApplication>
#include <QOffscreenSurface>
#include <QOpenGLContext>
#include <QOpenGLFramebufferObject>
#include <QOpenGLFunctions>

#include "geom/primitives.h"
#include "view/renderer.h"

namespace {

using namespace kervo;

Scene rings(int count) {
  Progress progress;
  Scene scene;
  for (int i = 0; i < count; ++i) {
    Plane place;
    place.origin = {30.0 * (i % 8), 30.0 * (i / 8), 0};
    const std::string id = "r" + std::to_string(i);
    scene.bodies.push_back(
        {id, id, pictureOf(makeTorus(id, place, 9, 4), progress), {0.6, 0.7, 0.7}, Role::Plain, 0, true});
  }
  return scene;
}

enum class What { Rest, Moving, Marking };

void draw(benchmark::State& state, What what) {
  if (qEnvironmentVariableIsEmpty("DISPLAY")) return state.SkipWithError("no display: run it under xvfb-run");
  int argc = 0;
  static QGuiApplication application(argc, nullptr);
  QSurfaceFormat format;
  format.setVersion(3, 3);
  format.setProfile(QSurfaceFormat::CoreProfile);
  QOpenGLContext context;
  context.setFormat(format);
  QOffscreenSurface surface;
  surface.setFormat(format);
  surface.create();
  if (!context.create() || !context.makeCurrent(&surface)) return state.SkipWithError("no OpenGL 3.3");
  QOpenGLFramebufferObject target({1280, 800}, QOpenGLFramebufferObject::CombinedDepthStencil);
  Renderer renderer;
  renderer.initialize();
  const Scene scene = rings(48);
  renderer.setScene(scene);
  Camera camera;
  camera.setViewport({1280, 800});
  camera.setScene(scene.box());
  camera.look(StandardView::Home, scene.box());
  target.bind();
  int face = 0;
  for (auto _ : state) {
    Highlights marks;
    if (what == What::Marking)
      marks.hover = Pick{Pick::Kind::Face, "r" + std::to_string(++face % 48), 0};
    else
      camera.orbit(scene.box().centre(), 3, 1);
    renderer.draw({camera, DrawStyle::ShadedEdges, what == What::Moving, 1, ViewLook::light(), marks});
    context.functions()->glFinish();
  }
  state.counters["triangles"] = static_cast<double>(scene.triangleCount());
  renderer.release();
}

BENCHMARK_CAPTURE(draw, rest, What::Rest)->Name("frame/at rest")->Unit(benchmark::kMillisecond);
BENCHMARK_CAPTURE(draw, moving, What::Moving)->Name("frame/moving")->Unit(benchmark::kMillisecond);
BENCHMARK_CAPTURE(draw, marking, What::Marking)->Name("frame/pointer over faces")->Unit(benchmark::kMillisecond);

}  // namespace
