// kervo: the window.
#include <QApplication>
#include <QCommandLineParser>
#include <QTimer>

#include "app/application.h"
#include "app/main_window.h"

int main(int argc, char** argv) {
  using namespace kervo::app;
  prepareSurface();
  QApplication application(argc, argv);
  prepareApplication(application);
  QCommandLineParser parser;
  parser.setApplicationDescription("Kervo cuts exact solid and surface bodies.");
  parser.addHelpOption();
  parser.addVersionOption();
  parser.addPositionalArgument("file", "A .kervo document, or a file with bodies (.step, .stp, .brep)", "[file]");
  parser.process(application);
  MainWindow window;
  window.show();
  const QStringList files = parser.positionalArguments();
  window.openFirst(files.value(0));
  QTimer::singleShot(0, &window, &MainWindow::offerRecovery);
  return QApplication::exec();
}
