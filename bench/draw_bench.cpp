// Drawing off screen: 200 000 triangles at rest with wide edges, while the view moves, and while the pointer marks; 34
// 000, 200 000 and a million with and without a section, and while one is dragged. Needs a display.
#include <benchmark/benchmark.h>

#include <QGuiApplication>
#include <QOffscreenSurface>
#include <QOpenGLContext>
#include <QOpenGLFramebufferObject>
#include <QOpenGLFunctions>
#include <cmath>

#include "geom/primitives.h"
#include "model/section_cut.h"
#include "view/cut_faces.h"
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

enum class What { Rest, Moving, Marking, Ruler };

/// A plane through the middle of all rings, along y.
SceneSection sectionAt(double y) {
  auto cut = std::make_shared<SectionCut>();
  const Plane plane = Plane::through({0, y, 0}, {0, -1, 0});
  cut->clip.regions = {{plane}};
  cut->plane = plane;
  return {"section1", "A", "", cut};
}

void cutBy(Scene& scene, const SceneSection& section) {
  scene.sections = {section};
  for (SceneBody& body : scene.bodies) body.cutBy = {0};
  auto cuts = scene.cuts ? std::make_shared<CutFaces>(*scene.cuts) : std::make_shared<CutFaces>();
  cuts->update(scene);
  scene.cuts = cuts;
}

/// `count`: of rings, some 8 200 triangles each.
void drawScene(benchmark::State& state, What what, int count, bool section) {
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
  Scene scene = rings(count);
  const Box box = scene.box();
  if (section) cutBy(scene, sectionAt(box.centre().y));
  renderer.setScene(scene);
  Camera camera;
  camera.setViewport({1280, 800});
  camera.setScene(scene.box());
  camera.look(StandardView::Home, scene.box());
  target.bind();
  int face = 0;
  double place = 0;
  for (auto _ : state) {
    Highlights marks;
    if (what == What::Ruler) {
      place = std::fmod(place + 0.37, 20);
      cutBy(scene, sectionAt(box.centre().y - 10 + place));
      renderer.setScene(scene);
    } else if (what == What::Marking)
      marks.hover = Pick{Pick::Kind::Face, "r" + std::to_string(++face % 48), 0};
    else
      camera.orbit(scene.box().centre(), 3, 1);
    const bool moving = what == What::Moving || what == What::Ruler;
    renderer.draw({camera, DrawStyle::ShadedEdges, moving, 1, ViewLook::light(), marks});
    context.functions()->glFinish();
  }
  state.counters["triangles"] = static_cast<double>(scene.triangleCount());
  renderer.release();
}

void draw(benchmark::State& state, What what) {
  drawScene(state, what, 48, false);
}

void drawMany(benchmark::State& state, What what, bool section) {
  drawScene(state, what, static_cast<int>(state.range(0)), section);
}

BENCHMARK_CAPTURE(draw, rest, What::Rest)->Name("frame/at rest")->Unit(benchmark::kMillisecond);
BENCHMARK_CAPTURE(draw, moving, What::Moving)->Name("frame/moving")->Unit(benchmark::kMillisecond);
BENCHMARK_CAPTURE(draw, marking, What::Marking)->Name("frame/pointer over faces")->Unit(benchmark::kMillisecond);
BENCHMARK_CAPTURE(drawMany, rest, What::Rest, false)
    ->Name("section/none, at rest")
    ->Arg(4)
    ->Arg(25)
    ->Arg(122)
    ->Unit(benchmark::kMillisecond);
BENCHMARK_CAPTURE(drawMany, cut, What::Rest, true)
    ->Name("section/one, at rest")
    ->Arg(4)
    ->Arg(25)
    ->Arg(122)
    ->Unit(benchmark::kMillisecond);
BENCHMARK_CAPTURE(drawMany, turned, What::Moving, true)
    ->Name("section/one, turning")
    ->Arg(4)
    ->Arg(25)
    ->Arg(122)
    ->Unit(benchmark::kMillisecond);
BENCHMARK_CAPTURE(drawMany, plain, What::Moving, false)
    ->Name("section/none, turning")
    ->Arg(4)
    ->Arg(25)
    ->Arg(122)
    ->Unit(benchmark::kMillisecond);
BENCHMARK_CAPTURE(drawMany, ruler, What::Ruler, true)
    ->Name("section/dragged on the ruler")
    ->Arg(4)
    ->Arg(25)
    ->Arg(122)
    ->Unit(benchmark::kMillisecond);

}  // namespace
