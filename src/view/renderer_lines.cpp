// The renderer's lines: edges, silhouettes, outlines of cut faces, marks.
#include <algorithm>

#include "view/renderer.h"
#include "view/silhouette.h"

namespace kervo {

namespace {

/// With more triangles, edges are one pixel thin while the view moves.
constexpr std::size_t largeModel = 60'000;
constexpr double edgeWidth = 1.35, markedWidth = 3.2, cutterWidth = 1.7, faultWidth = 4, netWidth = 1.2;
constexpr double edgeBias = 6e-4, cutBias = 7e-4, markedBias = 9e-4;

}  // namespace

void Renderer::useLines(const Frame& frame, QColor color, double width, double dash, double bias,
                        const Hidden& hidden) {
  cutLines_.hideNothing();
  Shader& lines = hidden.empty() ? lines_ : cutLines_;
  lines.bind();
  const QSize size = frame.camera.viewport();
  lines.set("matrix", frame.camera.matrix());
  lines.set("viewport", QVector2D(float(size.width()), float(size.height())));
  lines.set("lineColor", QVector4D(rgb(color), color.alphaF()));
  lines.set("width", float(width < 0 ? width : width * frame.pixelRatio));
  lines.set("dash", float(dash));
  lines.set("bias", float(bias));
  if (!hidden.empty()) lines.hide(hidden);
}

void Renderer::drawEdges(const Frame& frame) {
  const bool thin = frame.moving && scene_.triangleCount() > largeModel;
  const double dash = 11 * frame.camera.pixelSize() * frame.pixelRatio;
  // One setting for all bodies of a role: most scenes have one role only.
  std::optional<Role> used;
  for (const SceneBody& body : scene_.bodies) {
    const GpuBody& buffers = gpu(body.picture);
    const Hidden& hidden = hiddenOf(body);
    const bool sameRole = used == body.role && hidden.empty();
    used = hidden.empty() ? std::optional(body.role) : std::nullopt;
    if (body.role == Role::Cutter) {
      if (!sameRole) useLines(frame, frame.look.violet, cutterWidth, dash, edgeBias, hidden);
      buffers.edges.drawWide(*gl_);
    } else if (body.isGuide()) {
      if (!sameRole) useLines(frame, frame.look.axes[2], cutterWidth, body.role == Role::Datum ? dash : 0, markedBias);
      buffers.edges.drawWide(*gl_);
    } else if (thin) {
      if (!sameRole) useLines(frame, frame.look.ink, -1, 0, edgeBias, hidden);
      buffers.edges.drawThin(*gl_);
    } else {
      QColor ink = body.role == Role::Waste   ? frame.look.ochre
                   : body.role == Role::Added ? frame.look.teal
                                              : frame.look.ink;
      if (body.role == Role::Behind) ink.setAlphaF(0.4f);
      if (!sameRole) useLines(frame, ink, edgeWidth, 0, edgeBias, hidden);
      buffers.edges.drawWide(*gl_);
    }
  }
  cutLines_.hideNothing();
}

void Renderer::drawSilhouettes(const Frame& frame) {
  if (frame.moving && scene_.triangleCount() > largeModel) return;
  // Together for all bodies that the same sections cut.
  std::map<std::vector<std::size_t>, std::vector<float>> points;
  std::map<std::vector<std::size_t>, const Hidden*> hidden;
  for (const SceneBody& body : scene_.bodies) {
    if (body.role == Role::Cutter || body.role == Role::Behind || body.isGuide()) continue;
    const std::vector<float> more = silhouette(body.picture->mesh, frame.camera);
    std::vector<float>& all = points[body.cutBy];
    all.insert(all.end(), more.begin(), more.end());
    hidden[body.cutBy] = &hiddenOf(body);
  }
  for (auto& [cutBy, batch] : silhouettes_)
    if (!points.contains(cutBy)) points[cutBy];
  for (const auto& [cutBy, all] : points) {
    std::vector<BodyMesh::Range> segments;
    for (std::uint32_t i = 0; i < all.size() / 6; ++i) segments.push_back({2 * i, 2});
    LineBatch& batch = silhouettes_[cutBy];
    batch.fill(*gl_, all, segments);
    if (batch.empty()) continue;
    useLines(frame, frame.look.ink, edgeWidth, 0, edgeBias, *hidden.at(cutBy));
    batch.drawWide(*gl_);
  }
  cutLines_.hideNothing();
}

void Renderer::drawHighlightedEdges(const Frame& frame) {
  const auto mark = [&](const Pick& pick, QColor color) {
    const SceneBody* body = scene_.find(pick.body);
    if (!body) return;
    useLines(frame, color, markedWidth, 0, markedBias, hiddenOf(*body));
    const GpuBody& buffers = gpu(body->picture);
    const auto& faceEdges = body->picture->mesh.faceEdges;
    if (pick.kind == Pick::Kind::Body || pick.kind == Pick::Kind::Guide) buffers.edges.drawWide(*gl_);
    for (const std::size_t part : drawnParts(pick, *body)) {
      if (pick.kind == Pick::Kind::Edge) buffers.edges.drawLine(*gl_, part);
      if (pick.kind == Pick::Kind::Face && part < faceEdges.size())
        for (const std::uint32_t edge : faceEdges[part]) buffers.edges.drawLine(*gl_, edge);
    }
  };
  for (const Pick& pick : frame.highlights.selected) mark(pick, frame.look.teal);
  if (frame.highlights.hover) mark(*frame.highlights.hover, frame.look.ink);
  cutLines_.hideNothing();
}

void Renderer::drawLines(const Frame& frame) {
  const double dash = 11 * frame.camera.pixelSize() * frame.pixelRatio;
  if (const LineBatch& drawn = sceneLines_[SceneLine::Style::Drawing]; !drawn.empty()) {
    useLines(frame, frame.look.axes[2], cutterWidth, 0, markedBias);
    drawn.drawWide(*gl_);
  }
  if (const LineBatch& net = sceneLines_[SceneLine::Style::Net]; !net.empty()) {
    useLines(frame, frame.look.violet, netWidth, 0, markedBias);
    net.drawWide(*gl_);
  }
  if (const LineBatch& left = sceneLines_[SceneLine::Style::Left]; !left.empty()) {
    useLines(frame, frame.look.ochre, netWidth, 0, markedBias);
    left.drawWide(*gl_);
  }
  if (const LineBatch& level = sceneLines_[SceneLine::Style::Level]; !level.empty()) {
    // Above the section's plane, or below what is drawn in full.
    gl_->glDisable(GL_DEPTH_TEST);
    QColor fine = frame.look.ink;
    fine.setAlphaF(0.4f);
    useLines(frame, fine, netWidth, 0, markedBias);
    level.drawWide(*gl_);
    gl_->glEnable(GL_DEPTH_TEST);
  }
  if (const LineBatch& fault = sceneLines_[SceneLine::Style::Fault]; !fault.empty()) {
    // Seen through everything: it lies inside a body.
    gl_->glDisable(GL_DEPTH_TEST);
    useLines(frame, frame.look.vermilion, faultWidth, 0, markedBias);
    fault.drawWide(*gl_);
    gl_->glEnable(GL_DEPTH_TEST);
  }
  const LineBatch& cutter = sceneLines_[SceneLine::Style::Cutter];
  if (cutter.empty()) return;
  useLines(frame, frame.look.violet, cutterWidth, dash, markedBias);
  cutter.drawWide(*gl_);
  // Hidden parts show faintly.
  gl_->glDisable(GL_DEPTH_TEST);
  QColor faint = frame.look.violet;
  faint.setAlphaF(0.35f);
  useLines(frame, faint, cutterWidth, dash, markedBias);
  cutter.drawWide(*gl_);
  gl_->glEnable(GL_DEPTH_TEST);
}

void Renderer::drawCutLines(const Frame& frame) {
  if (cuts_.empty()) return;
  cuts_.drawLines([&](double width, const QColor& color,
                      const Hidden& hidden) { useLines(frame, color, width, 0, cutBias, hidden); },
                  frame.look);
  cutLines_.hideNothing();
}

}  // namespace kervo
