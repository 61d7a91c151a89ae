// kervo-shop: a simulated laser cutter and printer. It reads a written DXF, SVG, 3MF or STL file, never the model.
#include <QApplication>
#include <QCommandLineParser>
#include <QMessageBox>
#include <algorithm>
#include <cstdio>
#include <iterator>

#include "app/look.h"
#include "app/shop/cutter_panel.h"
#include "app/shop/printer_panel.h"
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

int print(const QString& file, const kervo::PrinterSettings& settings) {
  kervo::Progress progress;
  const kervo::PrintRun run = kervo::runPrinter(file.toStdString(), settings, progress);
  std::printf("layers %zu\nseconds %.0f\nsolid_mm3 %.3f\n", run.layers.size(), run.seconds, run.solidVolume);
  for (const kervo::PrintedMaterial& material : run.materials)
    std::printf("material %s mm3 %.3f\n", material.color ? kervo::colorText(*material.color).c_str() : "none",
                material.volume);
  for (std::size_t i = 0; i < run.layers.size(); ++i) {
    const kervo::PrintedLayer& layer = run.layers[i];
    if (!layer.unsupported.empty()) std::printf("island layer %zu at_mm %.3f\n", i + 1, layer.top);  // for the machine
    if (!layer.thin.empty()) std::printf("thin layer %zu at_mm %.3f\n", i + 1, layer.top);           // for the machine
  }
  for (const std::string& finding : run.findings) std::printf("finding %s\n", finding.c_str());
  return run.findings.empty() ? 0 : 1;
}

bool isForPrinter(const QString& file) {
  for (const char* ending : {".3mf", ".stl", ".obj", ".ply"})
    if (file.endsWith(QLatin1String(ending), Qt::CaseInsensitive)) return true;
  return false;
}

}  // namespace

int main(int argc, char** argv) {
  QApplication application(argc, argv);
  QCoreApplication::setApplicationName("kervo-shop");
  QCommandLineParser parser;
  parser.setApplicationDescription(
      QCoreApplication::translate("main",
                                  "A simulated laser cutter and printer: what a DXF or SVG file would cut, and how a "
                                  "3MF or STL file would be printed."));
  parser.addHelpOption();
  parser.addPositionalArgument("file", QCoreApplication::translate("main", "A .dxf, .svg, .3mf or .stl file"), "file");
  const QCommandLineOption report(
      "report", QCoreApplication::translate("main", "Print what would happen, and end with 1 if anything is wrong."));
  const QCommandLineOption kerf("kerf", QCoreApplication::translate("main", "Width that the beam takes, mm."), "mm",
                                "0.2");
  const QCommandLineOption feed("feed", QCoreApplication::translate("main", "Speed while it cuts, mm/s."), "mm/s",
                                "20");
  const QCommandLineOption layer("layer", QCoreApplication::translate("main", "Height of a printed layer, mm."), "mm",
                                 "0.2");
  const QCommandLineOption nozzle("nozzle", QCoreApplication::translate("main", "Width of a printed line, mm."), "mm",
                                  "0.4");
  const QCommandLineOption fill(
      "fill", QCoreApplication::translate("main", "Share of the inside that is filled, 0 to 1."), "share", "0.2");
  const QCommandLineOption bed("bed", QCoreApplication::translate("main", "Room of the printer, mm."), "WxDxH",
                               "220x220x250");
  parser.addOptions({report, kerf, feed, layer, nozzle, fill, bed});
  parser.process(application);
  const QString file = parser.positionalArguments().value(0);
  if (file.isEmpty()) parser.showHelp(2);
  try {
    if (isForPrinter(file)) {
      const QStringList room = parser.value(bed).split('x');
      bool given[6] = {};
      const kervo::PrinterSettings settings{.layer = parser.value(layer).toDouble(&given[0]),
                                            .nozzle = parser.value(nozzle).toDouble(&given[1]),
                                            .fill = parser.value(fill).toDouble(&given[2]),
                                            .width = room.value(0).toDouble(&given[3]),
                                            .depth = room.value(1).toDouble(&given[4]),
                                            .height = room.value(2).toDouble(&given[5])};
      if (!std::all_of(std::begin(given), std::end(given), [](bool each) { return each; })) {
        std::fprintf(
            stderr, "kervo-shop: --layer, --nozzle and --fill are numbers, --bed is 220x220x250\n");  // for the machine
        return 2;
      }
      if (parser.isSet(report)) return print(file, settings);
      kervo::app::setUpLook(application);
      kervo::app::Worker worker;
      kervo::app::PrinterPanel panel(worker);
      panel.resize(1080, 680);
      panel.open(file);
      panel.show();
      return QApplication::exec();
    }
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
