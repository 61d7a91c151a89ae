#include "view/shader.h"

#include <QCoreApplication>
#include <QVector4D>
#include <algorithm>

#include "base/error.h"
#include "view/shaders.h"

namespace kervo {

namespace {

/// As many as every driver has; half-spaces beyond them are tested pixel by pixel.
constexpr std::size_t clipDistances = 8;
constexpr std::size_t mostWalls = 96, mostRegions = 48;  // as in the shaders

QByteArray withPart(const char* source, const char* part) {
  QByteArray text(source);
  text.insert(text.indexOf('\n') + 1, part);
  return text;
}

QVector4D equation(const Plane& plane) {
  return {float(plane.normal.x), float(plane.normal.y), float(plane.normal.z), float(-dot(plane.normal, plane.origin))};
}

}  // namespace

void Shader::link(QOpenGLExtraFunctions& gl, const char* vertex, const char* fragment, bool cut) {
  gl_ = &gl;
  program_ = std::make_unique<QOpenGLShaderProgram>();
  const QByteArray vertexText = withPart(vertex, cut ? shader::cutVertexPart : "");
  const QByteArray fragmentText = withPart(fragment, cut ? shader::cutFragmentPart : "");
  const bool linked = program_->addShaderFromSourceCode(QOpenGLShader::Vertex, vertexText) &&
                      program_->addShaderFromSourceCode(QOpenGLShader::Fragment, fragmentText) && program_->link();
  if (!linked)
    throw Error(
        QCoreApplication::translate("View", "the view cannot be drawn: %1").arg(program_->log()).toStdString(),
        "OpenGL",
        QCoreApplication::translate("View", "Kervo needs OpenGL 3.3; update the graphics driver").toStdString());
}

void Shader::release() {
  program_.reset();
  locations_.clear();
}

int Shader::location(const char* name) {
  // Asking the driver by name is slow, and it is asked for every body.
  const auto [found, isNew] = locations_.try_emplace(name, -1);
  if (isNew) found->second = program_->uniformLocation(name);
  return found->second;
}

void Shader::hide(const Hidden& hidden) {
  std::vector<QVector4D> halfSpaces, walls;
  std::vector<GLint> ends;
  const auto addRegion = [&](const Clip::Region& region) {
    if (walls.size() + region.size() > mostWalls || ends.size() >= mostRegions) return;
    for (const Plane& wall : region) walls.push_back(equation(wall));
    ends.push_back(static_cast<GLint>(walls.size()));
  };
  for (const Plane& plane : hidden.halfSpaces)
    if (halfSpaces.size() < clipDistances)
      halfSpaces.push_back(equation(plane));
    else
      addRegion({plane});
  for (const Clip::Region& region : hidden.regions) addRegion(region);
  const int count = static_cast<int>(halfSpaces.size());
  set("halfSpaceCount", count);
  if (count > 0) program_->setUniformValueArray(location("halfSpaces"), halfSpaces.data(), count);
  set("regionCount", static_cast<GLint>(ends.size()));
  if (!ends.empty()) {
    program_->setUniformValueArray(location("walls"), walls.data(), static_cast<int>(walls.size()));
    program_->setUniformValueArray(location("regionEnds"), ends.data(), static_cast<int>(ends.size()));
  }
  for (int i = clipping_; i < count; ++i) gl_->glEnable(static_cast<GLenum>(GL_CLIP_DISTANCE0 + i));
  for (int i = count; i < clipping_; ++i) gl_->glDisable(static_cast<GLenum>(GL_CLIP_DISTANCE0 + i));
  clipping_ = count;
}

void Shader::hideNothing() {
  for (int i = 0; i < clipping_; ++i) gl_->glDisable(static_cast<GLenum>(GL_CLIP_DISTANCE0 + i));
  clipping_ = 0;
}

}  // namespace kervo
