// A bare Qt window with an OpenGL surface that loads the same libraries as kervo: what its start is measured against.
#include <QApplication>
#include <QMainWindow>
#include <QOpenGLFunctions>
#include <QOpenGLWidget>
#include <chrono>
#include <cstdio>

#include "app/application.h"

namespace {

class Surface : public QOpenGLWidget {
 protected:
  void paintGL() override {
    QOpenGLFunctions* gl = context()->functions();
    gl->glClearColor(0.9f, 0.9f, 0.9f, 1);
    gl->glClear(GL_COLOR_BUFFER_BIT);
  }
};

}  // namespace

int main(int argc, char** argv) {
  kervo::app::prepareSurface();
  QApplication application(argc, argv);
  QMainWindow window;
  auto* surface = new Surface;
  window.setCentralWidget(surface);
  window.resize(1280, 800);
  QObject::connect(surface, &QOpenGLWidget::frameSwapped, &window, [] {
    const auto now = std::chrono::system_clock::now().time_since_epoch();
    std::printf("%lld\n", static_cast<long long>(std::chrono::duration_cast<std::chrono::nanoseconds>(now).count()));
    std::fflush(stdout);
    QApplication::quit();
  });
  window.show();
  return QApplication::exec();
}
