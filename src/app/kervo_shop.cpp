// kervo-shop: a simulated laser cutter. It reads a written DXF or SVG file, never the model.
#include <QApplication>
#include <QCommandLineParser>
#include <QMessageBox>
#include <cstdio>

#include "app/look.h"
#include "app/shop/cutter_panel.h"
#include "base/error.h"

namespace {

int print(const QString& file, const kervo::CutterSettings& settings) {
  kervo::Progress progress;
  const kervo::CutRun run = kervo::runCutter(kervo::readCurves(file.toStdString(), {}, progress), settings, progress);
  std::printf("cuts %zu\ncut_mm %.6f\nmarked_mm %.6f\ntravelled_mm %.6f\nseconds %.3f\n", run.paths.size(), run.cut,
              run.marked, run.travelled, run.seconds);
  for (const kervo::FreedPart& part : run.freed)
    std::printf("%s at_s %.3f area_mm2 %.4f\n", part.waste ? "waste" : "part", part.at, part.area);
  for (const std::string& finding : run.findings) std::printf("finding %s\n", finding.c_str());
  return run.findings.empty() ? 0 : 1;
}

}  // namespace

int main(int argc, char** argv) {
  QApplication application(argc, argv);
  QCoreApplication::setApplicationName("kervo-shop");
  QCommandLineParser parser;
  parser.setApplicationDescription(QCoreApplication::translate(
      "main", "A simulated laser cutter: what a DXF or SVG file would cut, and in which order."));
  parser.addHelpOption();
  parser.addPositionalArgument("file", QCoreApplication::translate("main", "A .dxf or .svg file"), "file");
  const QCommandLineOption report(
      "report", QCoreApplication::translate("main", "Print what would happen, and end with 1 if anything is wrong."));
  const QCommandLineOption kerf("kerf", QCoreApplication::translate("main", "Width that the beam takes, mm."), "mm",
                                "0.2");
  const QCommandLineOption feed("feed", QCoreApplication::translate("main", "Speed while it cuts, mm/s."), "mm/s",
                                "20");
  parser.addOptions({report, kerf, feed});
  parser.process(application);
  const QString file = parser.positionalArguments().value(0);
  if (file.isEmpty()) parser.showHelp(2);
  try {
    bool kerfGiven = false, feedGiven = false;
    const kervo::CutterSettings settings{.kerf = parser.value(kerf).toDouble(&kerfGiven),
                                         .feed = parser.value(feed).toDouble(&feedGiven)};
    if (!kerfGiven || !feedGiven) {
      std::fprintf(stderr, "kervo-shop: --kerf and --feed are numbers, such as 0.2\n");  // for the machine
      return 2;
    }
    if (parser.isSet(report)) return print(file, settings);
    kervo::app::setUpLook(application);
    kervo::app::CutterPanel panel;
    panel.resize(1080, 680);
    panel.open(file);
    panel.show();
    return QApplication::exec();
  } catch (const kervo::Error& error) {
    std::fprintf(stderr, "kervo-shop: %s\n", error.what());
    return 3;
  }
}
