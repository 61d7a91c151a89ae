// A program on the graphics card. For src/view only.
#pragma once

#include <QColor>
#include <QOpenGLExtraFunctions>
#include <QOpenGLShaderProgram>
#include <QVector3D>
#include <map>
#include <memory>
#include <string_view>

#include "view/cut_faces.h"

namespace kervo {

inline QVector3D rgb(const QColor& color) {
  return {color.redF(), color.greenF(), color.blueF()};
}

class Shader {
 public:
  /// With the context of `gl` current. `cut`: bodies may be hidden in part. Throws Error if the driver refuses.
  void link(QOpenGLExtraFunctions& gl, const char* vertex, const char* fragment, bool cut = false);
  void release();
  void bind() { program_->bind(); }
  template <class Value>
  void set(const char* name, const Value& value) {
    program_->setUniformValue(location(name), value);
  }
  template <class Value>
  void setArray(const char* name, const Value* values, int count) {
    if (count > 0) program_->setUniformValueArray(location(name), values, count);
  }
  /// What is drawn from now on is not seen there. Only for one that was linked for it.
  void hide(const Hidden& hidden);
  /// To be called before another program draws.
  void hideNothing();

 private:
  int location(const char* name);

  QOpenGLExtraFunctions* gl_ = nullptr;
  std::unique_ptr<QOpenGLShaderProgram> program_;
  std::map<std::string_view, int> locations_;
  int clipping_ = 0;  ///< clip distances that are switched on
};

}  // namespace kervo
