#include "view/renderer.h"

#include <QOpenGLContext>
#include <algorithm>
#include <set>

#include "view/shaders.h"

namespace kervo {

namespace {

QVector3D qt(Vector v) {
  return {float(v.x), float(v.y), float(v.z)};
}
QColor qt(const Color& color) {
  return QColor::fromRgbF(float(color.red), float(color.green), float(color.blue));
}
QColor mixed(const QColor& a, const QColor& b, double share) {
  return QColor::fromRgbF(float(a.redF() * (1 - share) + b.redF() * share),
                          float(a.greenF() * (1 - share) + b.greenF() * share),
                          float(a.blueF() * (1 - share) + b.blueF() * share));
}

struct Fill {
  QColor color;
  double alpha = 1;
  QColor hatch = {};  ///< not valid: no hatch
};

Fill fillOf(const SceneBody& body, const Renderer::Frame& frame) {
  const double clear = frame.style == DrawStyle::Clear ? 0.35 : 1;
  switch (body.role) {
    case Role::Plain:
      return {qt(body.color), clear};
    case Role::Stock:
      return {mixed(qt(body.color), frame.look.teal, 0.35), clear};
    case Role::Cutter:
      return {mixed(qt(body.color), frame.look.violet, 0.7), 0.32};
    case Role::Waste:
      return {frame.look.ochreLight, clear, frame.look.ochre};
    case Role::Added:
      return {mixed(frame.look.textBack, frame.look.teal, 0.25), clear, frame.look.teal};
    case Role::Piece:
      return {ViewLook::pieceFill(body.tint), clear};
    case Role::Behind:
      return {qt(body.color), 0.25};
    case Role::Datum:
    case Role::Drawing:
      return {frame.look.axes[2], 0.07};
  }
  return {};
}

/// Whether what is shown on surfaces is shown on a body in that role.
bool takesPaint(Role role) {
  return role == Role::Plain || role == Role::Stock || role == Role::Added || role == Role::Piece;
}

}  // namespace

void Renderer::initialize() {
  gl_ = QOpenGLContext::currentContext()->extraFunctions();
  background_.link(*gl_, shader::backgroundVertex, shader::backgroundFragment);
  faces_.link(*gl_, shader::faceVertex, shader::faceFragment);
  cutFaces_.link(*gl_, shader::faceVertex, shader::faceFragment, true);
  lines_.link(*gl_, shader::lineVertex, shader::lineFragment);
  cutLines_.link(*gl_, shader::lineVertex, shader::lineFragment, true);
  layer_.link(*gl_, shader::backgroundVertex, shader::layerFragment);
  cuts_.initialize(*gl_);
  gl_->glGenVertexArrays(1, &emptyArray_);
  setScene(Scene(scene_));
}

void Renderer::release() {
  if (!gl_) return;
  for (auto& [picture, body] : bodies_) release(body);
  bodies_.clear();
  for (auto& [style, batch] : sceneLines_) batch.release(*gl_);
  sceneLines_.clear();
  for (auto& [cutBy, batch] : silhouettes_) batch.release(*gl_);
  silhouettes_.clear();
  layers_.release(*gl_);
  layered_.reset();
  gl_->glDeleteVertexArrays(1, &emptyArray_);
  for (Shader* shader : {&background_, &faces_, &cutFaces_, &lines_, &cutLines_, &layer_}) shader->release();
  cuts_.release();
  gl_ = nullptr;
}

void Renderer::release(GpuBody& body) {
  for (std::uint32_t* buffer : {&body.vertices, &body.indices, &body.coarse, &body.bands})
    if (*buffer) gl_->glDeleteBuffers(1, buffer);
  if (body.array) gl_->glDeleteVertexArrays(1, &body.array);
  body.edges.release(*gl_);
}

void Renderer::setScene(const Scene& scene) {
  scene_ = scene;
  layered_.reset();
  hidden_.clear();
  for (const SceneBody& body : scene_.bodies) hidden_.push_back(kervo::hiddenOf(scene_, body));
  if (!gl_) return;
  cuts_.set(scene_);
  std::set<const BodyPicture*> wanted;
  for (const SceneBody& body : scene.bodies) wanted.insert(body.picture.get());
  for (auto it = bodies_.begin(); it != bodies_.end();) {
    if (wanted.count(it->first)) {
      ++it;
    } else {
      release(it->second);
      it = bodies_.erase(it);
    }
  }
  for (const SceneLine::Style style : {SceneLine::Style::Drawing, SceneLine::Style::Cutter, SceneLine::Style::Fault,
                                       SceneLine::Style::Net, SceneLine::Style::Level, SceneLine::Style::Left}) {
    std::vector<float> points;
    std::vector<BodyMesh::Range> ranges;
    for (const SceneLine& line : scene.lines) {
      if (line.style != style) continue;
      ranges.push_back({static_cast<std::uint32_t>(points.size() / 3), static_cast<std::uint32_t>(line.points.size())});
      for (const Point& p : line.points) points.insert(points.end(), {float(p.x), float(p.y), float(p.z)});
    }
    sceneLines_[style].fill(*gl_, points, ranges);
  }
}

Renderer::GpuBody& Renderer::gpu(const std::shared_ptr<const BodyPicture>& picture) {
  const auto known = bodies_.find(picture.get());
  if (known != bodies_.end()) {
    // A trial is shown before its pictures are all done.
    if (known->second.coarse == 0) uploadCoarse(known->second);
    return known->second;
  }
  GpuBody& body = bodies_[picture.get()];
  body.picture = picture;
  const BodyMesh& mesh = picture->mesh;
  const auto bytes = [](const auto& list) { return static_cast<qopengl_GLsizeiptr>(list.size() * sizeof(list[0])); };
  gl_->glGenVertexArrays(1, &body.array);
  gl_->glBindVertexArray(body.array);
  gl_->glGenBuffers(1, &body.vertices);
  gl_->glBindBuffer(GL_ARRAY_BUFFER, body.vertices);
  gl_->glBufferData(GL_ARRAY_BUFFER, bytes(mesh.points) + bytes(mesh.normals), nullptr, GL_STATIC_DRAW);
  gl_->glBufferSubData(GL_ARRAY_BUFFER, 0, bytes(mesh.points), mesh.points.data());
  gl_->glBufferSubData(GL_ARRAY_BUFFER, bytes(mesh.points), bytes(mesh.normals), mesh.normals.data());
  for (const auto& [location, offset] : {std::pair(0u, qopengl_GLsizeiptr(0)), std::pair(1u, bytes(mesh.points))}) {
    gl_->glEnableVertexAttribArray(location);
    gl_->glVertexAttribPointer(location, 3, GL_FLOAT, GL_FALSE, 0, reinterpret_cast<const void*>(offset));
  }
  gl_->glGenBuffers(1, &body.indices);
  gl_->glBindBuffer(GL_ELEMENT_ARRAY_BUFFER, body.indices);
  gl_->glBufferData(GL_ELEMENT_ARRAY_BUFFER, bytes(mesh.triangles), mesh.triangles.data(), GL_STATIC_DRAW);
  gl_->glBindVertexArray(0);
  uploadCoarse(body);
  body.edges.fill(*gl_, mesh.edgePoints, mesh.edges);
  return body;
}

void Renderer::uploadCoarse(GpuBody& body) {
  const auto triangles = body.picture->coarseTriangles();
  if (!triangles) return;
  gl_->glGenBuffers(1, &body.coarse);
  gl_->glBindVertexArray(0);
  gl_->glBindBuffer(GL_ELEMENT_ARRAY_BUFFER, body.coarse);
  gl_->glBufferData(GL_ELEMENT_ARRAY_BUFFER, static_cast<qopengl_GLsizeiptr>(triangles->size() * sizeof(std::uint32_t)),
                    triangles->data(), GL_STATIC_DRAW);
  body.coarseCount = static_cast<std::uint32_t>(triangles->size());
}

void Renderer::uploadBands(GpuBody& body, const std::shared_ptr<const std::vector<float>>& bands) {
  constexpr GLuint location = 2;
  const bool fits = bands && bands->size() * 3 == body.picture->mesh.points.size();
  if (!fits || body.bandsOf == bands) return;
  body.bandsOf = bands;
  if (body.bands == 0) gl_->glGenBuffers(1, &body.bands);
  gl_->glBindVertexArray(body.array);
  gl_->glBindBuffer(GL_ARRAY_BUFFER, body.bands);
  gl_->glBufferData(GL_ARRAY_BUFFER, static_cast<qopengl_GLsizeiptr>(bands->size() * sizeof(float)), bands->data(),
                    GL_STATIC_DRAW);
  gl_->glEnableVertexAttribArray(location);
  gl_->glVertexAttribPointer(location, 1, GL_FLOAT, GL_FALSE, 0, nullptr);
  gl_->glBindVertexArray(0);
}

void Renderer::draw(const Frame& frame) {
  if (!gl_) return;
  // All state is set in every frame: whoever draws the rest of the window changes it.
  const QSize size = frame.camera.viewport();
  gl_->glViewport(0, 0, size.width(), size.height());
  gl_->glDisable(GL_STENCIL_TEST);
  gl_->glDisable(GL_SCISSOR_TEST);
  gl_->glDisable(GL_CULL_FACE);
  gl_->glColorMask(GL_TRUE, GL_TRUE, GL_TRUE, GL_TRUE);
  gl_->glDepthFunc(GL_LEQUAL);
  GLint target = 0;
  gl_->glGetIntegerv(GL_DRAW_FRAMEBUFFER_BINDING, &target);
  if (!frame.moving && marksLieOnSolids(frame) && layers_.resize(*gl_, size)) {
    drawInLayers(frame, static_cast<std::uint32_t>(target));
  } else {
    gl_->glBindFramebuffer(GL_FRAMEBUFFER, static_cast<GLuint>(target));
    drawWhole(frame);
  }
  gl_->glDepthMask(GL_TRUE);
  gl_->glDisable(GL_DEPTH_TEST);
  gl_->glDisable(GL_BLEND);
  gl_->glBindVertexArray(0);
  gl_->glUseProgram(0);
}

bool Renderer::marksLieOnSolids(const Frame& frame) const {
  const auto solid = [&](const Pick& pick) {
    const SceneBody* body = scene_.find(pick.body);
    return (pick.kind != Pick::Kind::Face && pick.kind != Pick::Kind::Body) || !body || fillOf(*body, frame).alpha >= 1;
  };
  const Highlights& marks = frame.highlights;
  if (frame.style == DrawStyle::Lines) return marks.selected.empty() && !marks.hover;
  return std::all_of(marks.selected.begin(), marks.selected.end(), solid) && (!marks.hover || solid(*marks.hover));
}

void Renderer::drawWhole(const Frame& frame) {
  drawBelow(frame);
  // The face below a mark hides what is behind it. With depths of its own the mark would cut into ink that lies on it.
  gl_->glDepthMask(marksLieOnSolids(frame) ? GL_FALSE : GL_TRUE);
  drawHighlightedFaces(frame);
  drawAbove(frame);
  drawHighlightedEdges(frame);
}

void Renderer::drawInLayers(const Frame& frame, std::uint32_t target) {
  const Layered wanted{frame.camera.matrix(), frame.style, frame.pixelRatio, frame.look};
  if (layered_ != wanted) {
    layers_.bind(*gl_, FrameLayers::Layer::Below);
    drawBelow(frame);
    layers_.bind(*gl_, FrameLayers::Layer::Above);
    gl_->glClearColor(0, 0, 0, 0);
    gl_->glClear(GL_COLOR_BUFFER_BIT);
    drawAbove(frame);
    layered_ = wanted;
  }
  layers_.copy(*gl_, FrameLayers::Layer::Below, layers_.framebuffer(FrameLayers::Layer::Whole));
  gl_->glDisable(GL_BLEND);
  gl_->glEnable(GL_DEPTH_TEST);
  gl_->glDepthMask(GL_FALSE);
  drawHighlightedFaces(frame);
  gl_->glDisable(GL_DEPTH_TEST);
  gl_->glEnable(GL_BLEND);
  gl_->glBlendFunc(GL_ONE, GL_ONE_MINUS_SRC_ALPHA);
  layer_.bind();
  layer_.set("layer", 0);
  gl_->glActiveTexture(GL_TEXTURE0);
  gl_->glBindTexture(GL_TEXTURE_2D, layers_.texture(FrameLayers::Layer::Above));
  gl_->glBindVertexArray(emptyArray_);
  gl_->glDrawArrays(GL_TRIANGLES, 0, 3);
  gl_->glBindTexture(GL_TEXTURE_2D, 0);
  gl_->glEnable(GL_DEPTH_TEST);
  gl_->glBlendFunc(GL_SRC_ALPHA, GL_ONE_MINUS_SRC_ALPHA);
  drawHighlightedEdges(frame);
  layers_.copy(*gl_, FrameLayers::Layer::Whole, target);
}

void Renderer::drawBelow(const Frame& frame) {
  gl_->glDisable(GL_BLEND);
  gl_->glDepthMask(GL_TRUE);
  gl_->glClear(GL_DEPTH_BUFFER_BIT);
  drawBackground(frame);
  gl_->glEnable(GL_DEPTH_TEST);
  gl_->glEnable(GL_POLYGON_OFFSET_FILL);
  if (frame.style != DrawStyle::Lines) drawFaces(frame, false);
  gl_->glDisable(GL_POLYGON_OFFSET_FILL);
  if (frame.style != DrawStyle::Lines) drawCuts(frame);
}

namespace {

CutLayer::Looks looksOf(const Renderer::Frame& frame) {
  return {frame.camera.matrix(), frame.camera.pixelSize(), float(frame.pixelRatio), frame.look};
}

}  // namespace

void Renderer::drawCuts(const Frame& frame) {
  if (cuts_.empty()) return;
  cuts_.drawFaces(looksOf(frame), [&](const SceneBody& body) {
    const Fill fill = fillOf(body, frame);
    return CutLayer::BodyFill{fill.color, fill.alpha, fill.hatch};
  });
}

void Renderer::drawAbove(const Frame& frame) {
  gl_->glEnable(GL_BLEND);
  gl_->glBlendFuncSeparate(GL_SRC_ALPHA, GL_ONE_MINUS_SRC_ALPHA, GL_ONE, GL_ONE_MINUS_SRC_ALPHA);
  gl_->glEnable(GL_DEPTH_TEST);
  gl_->glDepthMask(GL_FALSE);
  if (frame.style != DrawStyle::Lines) drawFaces(frame, true);
  drawEdges(frame);
  drawSilhouettes(frame);
  drawCutLines(frame);
  drawLines(frame);
}

void Renderer::drawBackground(const Frame& frame) {
  gl_->glDisable(GL_DEPTH_TEST);
  background_.bind();
  background_.set("top", rgb(frame.look.backgroundTop));
  background_.set("bottom", rgb(frame.look.backgroundBottom));
  gl_->glBindVertexArray(emptyArray_);
  gl_->glDrawArrays(GL_TRIANGLES, 0, 3);
}

void Renderer::setFaceColors(QColor base, double alpha, QColor hatch, double hatchPitch, SurfacePaint::Kind paint) {
  const FaceColors wanted{base.rgba(), hatch.rgba(), alpha, hatchPitch, paint};
  if (faceColors_ == wanted) return;
  faceColors_ = wanted;
  bound_->set("baseColor", rgb(base));
  bound_->set("hatchColor", rgb(hatch));
  bound_->set("alpha", float(alpha));
  bound_->set("hatchPitch", float(hatchPitch));
  bound_->set("paint", static_cast<int>(paint));
}

void Renderer::useFaces(const Frame& frame, const SceneBody& body) {
  const Hidden& hidden = hiddenOf(body);
  Shader& wanted = hidden.empty() ? faces_ : cutFaces_;
  if (bound_ != &wanted) {
    cutFaces_.hideNothing();
    bound_ = &wanted;
    wanted.bind();
    faceColors_.reset();
    wanted.set("matrix", frame.camera.matrix());
    wanted.set("towardsEye", qt(frame.camera.towardsEye()));
    wanted.set("up", qt(frame.camera.up()));
    std::vector<QVector3D> bands;
    const int count = static_cast<int>(scene_.paint.borders.size()) + 1;
    for (int i = 0; i < count; ++i) bands.push_back(rgb(ViewLook::band(i, count)));
    wanted.set("bandCount", count);
    wanted.setArray("bandColors", bands.data(), std::min(count, 8));
  }
  if (!hidden.empty()) wanted.hide(hidden);
}

const Hidden& Renderer::hiddenOf(const SceneBody& body) const {
  static const Hidden nothing;
  const auto number = static_cast<std::size_t>(&body - scene_.bodies.data());
  return number < hidden_.size() ? hidden_[number] : nothing;
}

void Renderer::doneWithFaces() {
  cutFaces_.hideNothing();
  bound_ = nullptr;
}

void Renderer::drawFaces(const Frame& frame, bool translucent) {
  const bool less = drawsLess(frame);
  for (const SceneBody& body : scene_.bodies) {
    const Fill fill = fillOf(body, frame);
    if ((fill.alpha < 1) != translucent) continue;
    GpuBody& buffers = gpu(body.picture);
    SurfacePaint::Kind paint = takesPaint(body.role) ? scene_.paint.kind : SurfacePaint::Kind::None;
    if (paint == SurfacePaint::Kind::Bands) {
      uploadBands(buffers, body.bands);
      if (!body.bands || buffers.bandsOf != body.bands) paint = SurfacePaint::Kind::None;
    }
    useFaces(frame, body);
    const bool hatched = fill.hatch.isValid();
    setFaceColors(fill.color, fill.alpha, hatched ? fill.hatch : frame.look.ochre, hatched ? 9 * frame.pixelRatio : 0,
                  paint);
    if (translucent) {
      // What is behind first.
      gl_->glEnable(GL_CULL_FACE);
      for (const GLenum hidden : {GL_FRONT, GL_BACK}) {
        gl_->glCullFace(hidden);
        drawBody(buffers, less);
      }
      gl_->glDisable(GL_CULL_FACE);
      continue;
    }
    // Ink lies before surfaces, and surfaces before the solids that they were lifted from.
    if (body.picture->mesh.closed) {
      gl_->glPolygonOffset(2, 2);
      gl_->glEnable(GL_CULL_FACE);
      gl_->glCullFace(GL_BACK);
    } else {
      gl_->glPolygonOffset(1, 1);
      gl_->glDisable(GL_CULL_FACE);
    }
    drawBody(buffers, less);
    // Faces of a colour of their own over that, while nothing else is told by colour.
    const bool own = !less && !hatched && paint == SurfacePaint::Kind::None &&
                     (body.role == Role::Plain || body.role == Role::Stock);
    for (std::size_t i = 0; own && i < body.picture->colored.size(); ++i) {
      const auto& [face, color] = body.picture->colored[i];
      setFaceColors(body.role == Role::Stock ? mixed(qt(color), frame.look.teal, 0.35) : qt(color), 1, frame.look.ochre,
                    0);
      drawFace(buffers, face);
    }
  }
  gl_->glDisable(GL_CULL_FACE);
  doneWithFaces();
}

bool Renderer::drawsLess(const Frame& frame) const {
  constexpr std::size_t much = 150'000;
  return frame.moving && scene_.triangleCount() > much;
}

void Renderer::drawBody(const GpuBody& body, bool coarse) {
  gl_->glBindVertexArray(body.array);
  if (coarse && body.coarse != 0) {
    gl_->glBindBuffer(GL_ELEMENT_ARRAY_BUFFER, body.coarse);
    gl_->glDrawElements(GL_TRIANGLES, static_cast<GLsizei>(body.coarseCount), GL_UNSIGNED_INT, nullptr);
    gl_->glBindBuffer(GL_ELEMENT_ARRAY_BUFFER, body.indices);
    return;
  }
  gl_->glDrawElements(GL_TRIANGLES, static_cast<GLsizei>(body.picture->mesh.triangles.size()), GL_UNSIGNED_INT,
                      nullptr);
}

void Renderer::drawFace(const GpuBody& body, int face) {
  const auto& ranges = body.picture->mesh.faceTriangles;
  if (face < 0 || static_cast<std::size_t>(face) >= ranges.size()) return;
  const BodyMesh::Range range = ranges[static_cast<std::size_t>(face)];
  gl_->glBindVertexArray(body.array);
  gl_->glDrawElements(GL_TRIANGLES, static_cast<GLsizei>(range.count * 3), GL_UNSIGNED_INT,
                      reinterpret_cast<const void*>(std::size_t(range.first) * 3 * sizeof(std::uint32_t)));
}

void Renderer::drawHighlightedFaces(const Frame& frame) {
  const auto paint = [&](const Pick& pick, double share) {
    const SceneBody* body = scene_.find(pick.body);
    if (body && pick.kind == Pick::Kind::Cut && body->opened) {
      useFaces(frame, *body);
      setFaceColors(mixed(fillOf(*body, frame).color, frame.look.teal, share), 1, frame.look.ochre, 0);
      for (const std::size_t face : drawnParts(pick, *body)) drawFace(gpu(body->picture), static_cast<int>(face));
    }
    if (pick.kind == Pick::Kind::Cut && !cuts_.empty()) {
      doneWithFaces();
      return cuts_.drawMarked(looksOf(frame), pick, [&](const SceneBody& of) {
        return mixed(fillOf(of, frame).color, frame.look.teal, share);
      });
    }
    if (!body || (pick.kind != Pick::Kind::Face && pick.kind != Pick::Kind::Body)) return;
    useFaces(frame, *body);
    setFaceColors(mixed(fillOf(*body, frame).color, frame.look.teal, share), 1, frame.look.ochre, 0);
    if (pick.kind == Pick::Kind::Face) {
      for (const std::size_t face : drawnParts(pick, *body)) drawFace(gpu(body->picture), static_cast<int>(face));
      return;
    }
    gl_->glEnable(GL_CULL_FACE);
    if (!body->picture->mesh.closed) gl_->glDisable(GL_CULL_FACE);
    drawBody(gpu(body->picture));
    gl_->glDisable(GL_CULL_FACE);
  };
  for (const Pick& pick : frame.highlights.selected) paint(pick, 0.5);
  if (frame.highlights.hover &&
      (frame.highlights.hover->kind == Pick::Kind::Face || frame.highlights.hover->kind == Pick::Kind::Cut)) {
    const auto& selected = frame.highlights.selected;
    const bool already = std::find(selected.begin(), selected.end(), *frame.highlights.hover) != selected.end();
    paint(*frame.highlights.hover, already ? 0.6 : 0.18);
  }
  doneWithFaces();
}

}  // namespace kervo
