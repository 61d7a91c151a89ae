// kervo: the window.
#include <QApplication>
#include <QCommandLineParser>
#include <QTimer>
#include <chrono>
#include <cstdio>

#include "app/application.h"
#include "app/main_window.h"
#include "base/memory.h"
#include "geom/kernel_threads.h"

namespace {

/// Prints when (nanoseconds of the clock since 1970) the first picture with bodies was on screen, and ends. For
/// bench/start.
void reportStart(kervo::app::MainWindow& window) {
  QObject::connect(&window.view(), &QOpenGLWidget::frameSwapped, &window, [&window] {
    if (window.view().scene().bodies.empty()) return;
    const auto now = std::chrono::system_clock::now().time_since_epoch();
    std::printf("%lld\n", static_cast<long long>(std::chrono::duration_cast<std::chrono::nanoseconds>(now).count()));
    std::fflush(stdout);
    QApplication::quit();
  });
}

}  // namespace

int main(int argc, char** argv) {
  using namespace kervo::app;
  kervo::requireThrowingNew();
  kervo::startKernelThreads();
  prepareSurface();
  Application application(argc, argv);
  prepareApplication(application);
  QCommandLineParser parser;
  parser.setApplicationDescription(QCoreApplication::translate("main", "Kervo cuts exact solid and surface bodies."));
  parser.addHelpOption();
  parser.addVersionOption();
  parser.addPositionalArgument(
      "file", QCoreApplication::translate("main", "A .kervo document, or a file with bodies (.step, .stp, .brep)"),
      "[file]");
  const QCommandLineOption start(
      "report-start", QCoreApplication::translate("main", "Print when the first picture was on screen, and end."));
  parser.addOption(start);
  parser.process(application);
  MainWindow window(parser.positionalArguments().value(0));
  if (parser.isSet(start)) reportStart(window);
  window.show();
  QTimer::singleShot(0, &window, &MainWindow::offerRecovery);
  return QApplication::exec();
}
