#include "app/application.h"

#include <QOpenGLContext>
#include <QSurfaceFormat>
#include <memory>

#include "app/icons.h"
#include "app/look.h"
#include "app/texts.h"
#include "app/worker.h"
#include "base/say.h"

namespace kervo::app {

bool Application::notify(QObject* receiver, QEvent* event) {
  try {
    return QApplication::notify(receiver, event);
  } catch (const Error& error) {
    emit troubled(error);
  } catch (const std::exception& error) {
    emit troubled(errorOf(tr("this should not have happened: %1").arg(error.what()), {},
                          tr("The document is as it was. Save it under another name")));
  }
  return true;
}

void prepareSurface() {
  QSurfaceFormat format;
  format.setVersion(3, 3);
  format.setProfile(QSurfaceFormat::CoreProfile);
  format.setDepthBufferSize(24);
  format.setStencilBufferSize(8);
  format.setSamples(0);
  QSurfaceFormat::setDefaultFormat(format);
  QCoreApplication::setAttribute(Qt::AA_ShareOpenGLContexts);
}

bool canDrawWithOpenGl() {
  // These have no windows that OpenGL could draw into, even where they can make a context.
  static const QStringList without{"offscreen", "minimal", "linuxfb", "vnc"};
  return !without.contains(QGuiApplication::platformName()) && QOpenGLContext().create();
}

void prepareApplication(QApplication& application) {
  QApplication::setApplicationName("kervo");
  QApplication::setApplicationDisplayName("Kervo");
  QApplication::setOrganizationName("kervo");
  QApplication::setApplicationVersion(KERVO_VERSION);
  QApplication::setDesktopFileName("kervo");
  speakWith(coreText);
  setUpLook(application);
  QApplication::setWindowIcon(applicationIcon());
}

}  // namespace kervo::app
