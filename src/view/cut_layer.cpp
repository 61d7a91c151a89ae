#include "view/cut_layer.h"

#include <algorithm>
#include <cmath>

#include "model/hatches.h"
#include "view/shaders.h"

namespace kervo {

namespace {

constexpr double thickInk = 2.6, thinInk = 1.35, meetingInk = 1.6;
constexpr double hatchInk = 1.1;

QColor qt(const Color& color) {
  return QColor::fromRgbF(float(color.red), float(color.green), float(color.blue));
}

struct Vertex {
  float point[3];
  float onPlane[2];
};

Vertex vertexOf(const Plane& plane, PlanePoint at) {
  const Point point = plane.at(at.u, at.v);
  return {{float(point.x), float(point.y), float(point.z)}, {float(at.u), float(at.v)}};
}

void addLine(std::vector<float>& points, std::vector<BodyMesh::Range>& lines, const Polyline& line) {
  lines.push_back({static_cast<std::uint32_t>(points.size() / 3), static_cast<std::uint32_t>(line.size())});
  for (const Point& p : line) points.insert(points.end(), {float(p.x), float(p.y), float(p.z)});
}

}  // namespace

void CutLayer::initialize(QOpenGLExtraFunctions& gl) {
  gl_ = &gl;
  shader_.link(gl, shader::cutVertex, shader::cutFragment, true);
  gl.glGenBuffers(1, &vertices_);
  gl.glGenVertexArrays(1, &array_);
  gl.glBindVertexArray(array_);
  gl.glBindBuffer(GL_ARRAY_BUFFER, vertices_);
  gl.glEnableVertexAttribArray(0);
  gl.glVertexAttribPointer(0, 3, GL_FLOAT, GL_FALSE, sizeof(Vertex), nullptr);
  gl.glEnableVertexAttribArray(1);
  gl.glVertexAttribPointer(1, 2, GL_FLOAT, GL_FALSE, sizeof(Vertex),
                           reinterpret_cast<const void*>(offsetof(Vertex, onPlane)));
  gl.glBindVertexArray(0);
}

void CutLayer::release() {
  if (!gl_) return;
  gl_->glDeleteBuffers(1, &vertices_);
  gl_->glDeleteVertexArrays(1, &array_);
  outlines_.release(*gl_);
  meetings_.release(*gl_);
  shader_.release();
  scene_ = {};
  gl_ = nullptr;
}

void CutLayer::set(const Scene& scene) {
  const bool same = scene.cuts == scene_.cuts;
  scene_ = scene;
  if (!scene.cuts) scene_.sections.clear();
  if (same || !scene.cuts) return;
  const CutFaces& cuts = *scene.cuts;
  std::vector<Vertex> vertices;
  const auto rangeFrom = [&](std::size_t first) {
    return Range{static_cast<std::uint32_t>(first), static_cast<std::uint32_t>(vertices.size() - first)};
  };
  std::vector<float> points;
  std::vector<BodyMesh::Range> lines;
  faces_.clear();
  outlineLines_.clear();
  for (const CutFace& face : cuts.faces()) {
    const std::size_t first = vertices.size(), firstLine = lines.size();
    if (face.filled)
      for (const PlanePoint& at : cuts.trianglesOf(face)) vertices.push_back(vertexOf(face.wall.plane, at));
    faces_.push_back(rangeFrom(first));
    const auto addOutline = [&](const std::vector<PlanePoint>& outline, bool closed) {
      Polyline line;
      for (const PlanePoint& at : outline) line.push_back(face.wall.plane.at(at.u, at.v));
      if (closed) line.push_back(line.front());
      addLine(points, lines, line);
    };
    for (const auto& loop : face.outline->loops) addOutline(loop, true);
    for (const auto& line : face.outline->open) addOutline(line, false);
    outlineLines_.push_back(
        {static_cast<std::uint32_t>(firstLine), static_cast<std::uint32_t>(lines.size() - firstLine)});
  }
  openings_.clear();
  openingLines_.clear();
  for (const CutFaces::Opening& opening : cuts.openings()) {
    const std::size_t first = vertices.size(), firstLine = lines.size();
    const BodyMesh& mesh = scene_.bodies[opening.body].picture->mesh;
    const BodyMesh::Range triangles = mesh.faceTriangles[opening.face];
    for (std::size_t i = std::size_t{3} * triangles.first; i < std::size_t{3} * (triangles.first + triangles.count);
         ++i) {
      const float* p = &mesh.points[std::size_t{3} * mesh.triangles[i]];
      const Vector local = opening.plane.coordinates({p[0], p[1], p[2]});
      vertices.push_back({{p[0], p[1], p[2]}, {float(local.x), float(local.y)}});
    }
    openings_.push_back(rangeFrom(first));
    for (const std::uint32_t edge : mesh.faceEdges[opening.face]) {
      Polyline line;
      const BodyMesh::Range range = mesh.edges[edge];
      for (std::size_t i = range.first; i < range.first + range.count; ++i)
        line.push_back({mesh.edgePoints[3 * i], mesh.edgePoints[3 * i + 1], mesh.edgePoints[3 * i + 2]});
      addLine(points, lines, line);
    }
    openingLines_.push_back(
        {static_cast<std::uint32_t>(firstLine), static_cast<std::uint32_t>(lines.size() - firstLine)});
  }
  outlines_.fill(*gl_, points, lines);
  overlaps_.clear();
  for (const CutMark& overlap : cuts.overlaps()) {
    const std::size_t first = vertices.size();
    for (const Point& p : overlap.triangles)
      vertices.push_back({{float(p.x), float(p.y), float(p.z)}, {float(p.x + p.z), float(p.y + p.z)}});
    overlaps_.push_back(rangeFrom(first));
  }
  points.clear();
  lines.clear();
  meetingLines_.clear();
  for (const CutMark& meeting : cuts.meetings()) {
    const std::size_t firstLine = lines.size();
    for (const Polyline& line : meeting.lines) addLine(points, lines, line);
    meetingLines_.push_back(
        {static_cast<std::uint32_t>(firstLine), static_cast<std::uint32_t>(lines.size() - firstLine)});
  }
  meetings_.fill(*gl_, points, lines);
  gl_->glBindBuffer(GL_ARRAY_BUFFER, vertices_);
  gl_->glBufferData(GL_ARRAY_BUFFER, static_cast<qopengl_GLsizeiptr>(vertices.size() * sizeof(Vertex)), vertices.data(),
                    GL_DYNAMIC_DRAW);
}

Hidden CutLayer::aroundOf(const CutFace& face) {
  Hidden hidden = face.hidden;
  for (const Plane& border : face.wall.borders)
    hidden.halfSpaces.push_back({border.origin, border.x * -1, border.y, border.normal * -1});
  return hidden;
}

void CutLayer::setFill(const Looks& looks, const CutFill& fill, const BodyFill& body) {
  const Hatch* hatch = fill.by == CutFill::By::Hatch ? findHatch(fill.hatch) : nullptr;
  const bool goes = body.lining.isValid();
  const Hatch* lines = goes ? findHatch("lining") : hatch;
  const double scale = goes ? 3 * looks.pixelSize : fill.scale;
  shader_.set("baseColor", rgb(fill.by == CutFill::By::Own && !goes ? qt(fill.color) : body.color));
  shader_.set("lineColor", rgb(goes ? body.lining : looks.look.ink));
  shader_.set("alpha", float(body.alpha));
  shader_.set("lineWidth", float(hatchInk * looks.pixelRatio));
  shader_.set("pixel", float(looks.pixelSize));
  QVector4D families[4];
  QVector3D dashes[4];
  int count = 0;
  for (std::size_t i = 0; lines && i < lines->lines.size() && count < 4; ++i, ++count) {
    const HatchLines& family = lines->lines[i];
    const double angle = family.angle + fill.turn;
    families[count] = {float(std::cos(angle)), float(std::sin(angle)), float(family.spacing * scale),
                       float(family.offset * scale)};
    dashes[count] = {float(family.dash * scale), float(family.gap * scale), float(family.shift * scale)};
  }
  shader_.set("lineCount", count);
  shader_.setArray("lines", families, count);
  shader_.setArray("dashes", dashes, count);
}

void CutLayer::drawFaces(const Looks& looks, const std::function<BodyFill(const SceneBody&)>& fillOf) {
  const CutFaces& cuts = *scene_.cuts;
  shader_.bind();
  shader_.set("matrix", looks.matrix);
  gl_->glBindVertexArray(array_);
  for (std::size_t i = 0; i < cuts.faces().size(); ++i) {
    const CutFace& face = cuts.faces()[i];
    const BodyFill body = fillOf(scene_.bodies[face.body]);
    if (faces_[i].count == 0) continue;
    setFill(looks, scene_.sections[face.section].cut->fill, body);
    shader_.hide(aroundOf(face));
    if (body.alpha < 1) {
      gl_->glEnable(GL_BLEND);
      gl_->glBlendFuncSeparate(GL_SRC_ALPHA, GL_ONE_MINUS_SRC_ALPHA, GL_ONE, GL_ONE_MINUS_SRC_ALPHA);
      gl_->glDepthMask(GL_FALSE);
    }
    drawRange(faces_[i]);
    gl_->glDisable(GL_BLEND);
    gl_->glDepthMask(GL_TRUE);
  }
  gl_->glEnable(GL_POLYGON_OFFSET_FILL);
  gl_->glPolygonOffset(-1, -1);
  for (std::size_t i = 0; i < cuts.openings().size(); ++i) {
    const CutFaces::Opening& opening = cuts.openings()[i];
    setFill(looks, scene_.sections[opening.section].cut->fill, fillOf(scene_.bodies[opening.body]));
    shader_.hide(opening.hidden);
    drawRange(openings_[i]);
  }
  // Two bodies in one place: crossed lines over both.
  CutFill crossed;
  crossed.by = CutFill::By::Hatch;
  crossed.hatch = "insulation";
  crossed.scale = 2 * looks.pixelSize * looks.pixelRatio;
  for (std::size_t i = 0; i < cuts.overlaps().size(); ++i) {
    setFill(looks, crossed, {looks.look.vermilion, 1, false});
    shader_.hide(cuts.overlaps()[i].hidden);
    drawRange(overlaps_[i]);
  }
  gl_->glDisable(GL_POLYGON_OFFSET_FILL);
  shader_.hideNothing();
}

void CutLayer::drawRange(const Range& range) {
  gl_->glDrawArrays(GL_TRIANGLES, static_cast<GLint>(range.first), static_cast<GLsizei>(range.count));
}

void CutLayer::drawMarked(const Looks& looks, const Pick& pick,
                          const std::function<QColor(const SceneBody&)>& colorOf) {
  const auto face = scene_.cuts->find(scene_, pick);
  if (!face || faces_[*face].count == 0) return;
  const CutFace& meant = scene_.cuts->faces()[*face];
  shader_.bind();
  shader_.set("matrix", looks.matrix);
  gl_->glBindVertexArray(array_);
  setFill(looks, scene_.sections[meant.section].cut->fill, {colorOf(scene_.bodies[meant.body]), 1, {}});
  shader_.set("baseColor", rgb(colorOf(scene_.bodies[meant.body])));
  shader_.hide(aroundOf(meant));
  drawRange(faces_[*face]);
  shader_.hideNothing();
}

void CutLayer::drawLines(const std::function<void(double width, const QColor& color, const Hidden& hidden)>& use,
                         const ViewLook& look) {
  const CutFaces& cuts = *scene_.cuts;
  for (std::size_t i = 0; i < cuts.faces().size(); ++i) {
    const CutFace& face = cuts.faces()[i];
    const SceneBody& body = scene_.bodies[face.body];
    if (outlineLines_[i].count == 0) continue;
    // A body that ought to be closed and is not shows where.
    const std::vector<BodyId>& unsound = cuts.unsound();
    const bool fault = !face.filled && std::find(unsound.begin(), unsound.end(), body.id) != unsound.end();
    const QColor color = fault                       ? look.vermilion
                         : body.role == Role::Waste  ? look.ochre
                         : body.role == Role::Added  ? look.teal
                         : body.role == Role::Cutter ? look.violet
                                                     : look.ink;
    use(scene_.sections[face.section].cut->fill.thick ? thickInk : thinInk, color, aroundOf(face));
    outlines_.drawLines(*gl_, outlineLines_[i].first, outlineLines_[i].count);
  }
  for (std::size_t i = 0; i < cuts.openings().size(); ++i) {
    const CutFaces::Opening& opening = cuts.openings()[i];
    use(scene_.sections[opening.section].cut->fill.thick ? thickInk : thinInk, look.ink, opening.hidden);
    outlines_.drawLines(*gl_, openingLines_[i].first, openingLines_[i].count);
  }
  for (std::size_t i = 0; i < cuts.meetings().size(); ++i) {
    use(meetingInk, look.ink, cuts.meetings()[i].hidden);
    meetings_.drawLines(*gl_, meetingLines_[i].first, meetingLines_[i].count);
  }
}

}  // namespace kervo
