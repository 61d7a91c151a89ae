// What is asked about a file before it comes in: the unit of meshes; layers and joints of curves, which come into the
// drawing on the Bench or as new drawings.
#include <QFileInfo>
#include <algorithm>

#include "app/files.h"
#include "app/texts.h"
#include "app/unit_dialog.h"
#include "exchange/kervo_file.h"
#include "steps/registry.h"

namespace kervo::app {

void Files::readForeign(const QString& path, const QString& unit, const std::function<void(const QString&)>& then,
                        const QStringList& options) {
  const auto use = [this, path, then, options](const QString& converted) {
    // A colon stands before the reason to ask.
    if (!reader_.unit().contains(':')) return then(converted);
    auto* dialog = new UnitDialog(path, reader_.size(), window_);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    connect(dialog, &QDialog::accepted, this, [this, dialog, path, converted, then, options] {
      const QString chosen = dialog->unit();
      if (chosen == "mm") return then(converted);
      readForeign(path, chosen, then, options);
    });
    connect(dialog, &QDialog::rejected, this, [this] { emit told(tr("Nothing came in")); });
    dialog->open();
  };
  reader_.read(path, use, (unit.isEmpty() ? QStringList() : QStringList{"--unit", unit}) + options);
}

void Files::readCurves(const QString& path, const QStringList& options,
                       const std::function<void(const Document&)>& then) {
  partsMayHelp_ = false;
  reader_.read(
      path,
      [this, path, then](const QString& converted) {
        desk_.worker.run(
            tr("Bringing in %1").arg(QFileInfo(path).fileName()),
            [converted, then](Progress& progress) -> Worker::Then {
              const Document drawings = readDocument(converted.toStdString(), allStepKinds(), progress);
              return [drawings, then] { then(drawings); };
            },
            [this](const std::optional<Error>& error) {
              if (error) emit failed(*error);
            });
      },
      options);
}

void Files::bringInCurves(const QString& path, const CurvesWanted& wanted) {
  QStringList options;
  if (!wanted.unit.isEmpty()) options << "--unit" << wanted.unit;
  if (!wanted.gap.isEmpty()) options << "--gap" << wanted.gap;
  if (wanted.middle) options << "--middle";
  readCurves(path, options, [this, path, wanted](const Document& drawings) {
    const QString what = tr("Bring in %1").arg(QFileInfo(path).fileName());
    std::vector<std::shared_ptr<const Step>> chosen;
    for (const auto& step : drawings.made.steps) {
      const QString name = QString::fromStdString(drawings.nameOf(*step));
      if (std::find(wanted.drawings.begin(), wanted.drawings.end(), name) != wanted.drawings.end())
        chosen.push_back(step);
    }
    if (desk_.drawing.open()) {
      desk_.drawing.addCurvesOf(chosen, what);
    } else {
      desk_.session.edit(what, [&](const Document& now) {
        Document result = now;
        for (const auto& step : chosen) {
          const StepId id = result.freeId(step->kind().key());
          result = result.withStep(step->withId(id)).withStepNamed(id, drawings.nameOf(*step));
        }
        return result;
      });
      emit loaded();
    }
    tellNotes();
  });
}

}  // namespace kervo::app
