// A file that was brought in, read again, and the report of what reading found.
#include <QDir>
#include <QFileDialog>
#include <QFileInfo>
#include <QPointer>
#include <QSettings>

#include "app/file_filters.h"
#include "app/files.h"
#include "app/texts.h"
#include "exchange/formats.h"
#include "exchange/kervo_file.h"
#include "exchange/reload.h"
#include "model/names_for_people.h"
#include "steps/registry.h"

namespace kervo::app {

namespace {

QString howText(const ReloadedBody& body) {
  switch (body.how) {
    case ReloadedBody::How::Same:
      return QObject::tr("as it was");
    case ReloadedBody::How::New:
      return QObject::tr("new");
    case ReloadedBody::How::Gone:
      return QObject::tr("gone");
    case ReloadedBody::How::Changed:
      break;
  }
  if (body.newFaces + body.goneFaces == 0) return QObject::tr("changed, all of its faces are found again");
  return QObject::tr("changed: %1 faces are new, %2 are gone").arg(body.newFaces).arg(body.goneFaces);
}

}  // namespace

void Files::keepPlace(const QString& path) {
  const QFileInfo file(path);
  QSettings().setValue("brought/" + file.fileName(), file.absolutePath());
}

void Files::reload(const StepId& id) {
  const auto step = desk_.session.document().find(id);
  if (!step) return;
  const QString name = QString::fromStdString(step->value("source").as<std::string>());
  const QString beside = QFileInfo(desk_.session.path()).absolutePath();
  QStringList folders{QSettings().value("brought/" + name).toString()};
  if (!desk_.session.path().isEmpty()) folders << beside;
  for (const QString& folder : folders)
    if (!folder.isEmpty() && QFileInfo(QDir(folder).filePath(name)).isFile())
      return reload(id, QDir(folder).filePath(name));
  const QString path =
      QFileDialog::getOpenFileName(window_, tr("Where %1 is now").arg(name), lastFolder(), bringInFilters());
  if (!path.isEmpty()) reload(id, path);
}

void Files::reload(const StepId& id, const QString& path) {
  const auto step = desk_.session.document().find(id);
  if (!step) return;
  const Format* format = formatOf(path.toStdString());
  const QString unit =
      format && format->unitless ? QString::fromStdString(step->value("unit").as<std::string>()) : QString();
  partsMayHelp_ = false;
  readForeign(path, unit, [this, id, path](const QString& converted) {
    const QString what = tr("Reload %1").arg(QFileInfo(path).fileName());
    desk_.worker.run(
        what,
        [this, converted, path, id, what, now = desk_.session.document()](Progress& progress) -> Worker::Then {
          const Document brought = readDocument(converted.toStdString(), allStepKinds(), progress);
          const Reloaded result = reloaded(now, id, brought);
          if (desk_.session.journal()) desk_.session.journal()->keepShapes(result.document);
          return [this, result, id, path, what] {
            takeReloaded(result, id, what);
            keepPlace(path);
          };
        },
        [this](const std::optional<Error>& error) {
          if (error) emit failed(*error);
        });
  });
}

void Files::takeReloaded(const Reloaded& result, const StepId& id, const QString& what) {
  Report report{what, QString::fromStdString(reloadText(result)), {}};
  // Names of what went are known as long as it is there.
  for (const std::string& lost : withNames(result.lost, *desk_.session.made()->model))
    report.rows.emplace_back(tr("lost"), QString::fromStdString(lost));
  for (const ReloadedBody& body : result.bodies)
    report.rows.emplace_back(QString::fromStdString(body.name), howText(body));
  for (const QString& note : reader_.flaws() + reader_.notes()) report.rows.emplace_back(tr("the file"), note);
  desk_.session.edit(what, [&](const Document& now) {
    if (!now.find(id)) return now;
    Document changed = now;
    changed.made.shapes.insert(result.document.made.shapes.begin(), result.document.made.shapes.end());
    return changed.withReplaced(*result.document.find(id));
  });
  QString text = what + ": " + report.sum;
  if (!result.lost.empty()) text += ". " + tr("%1 picks of later steps are lost").arg(result.lost.size());
  emit noticed(text, {{tr("Show the report"), [this, report] { emit reported(report); }}});
}

void Files::tellNotes() {
  const QStringList flaws = reader_.flaws(), notes = flaws + reader_.notes();
  if (notes.isEmpty()) return;
  const QString name = QFileInfo(reader_.path()).fileName();
  const QString more = notes.size() == 1 ? QString() : tr("; %1 more like this").arg(notes.size() - 1);
  const Error error =
      errorOf(notes.front() + more, name,
              flaws.isEmpty() ? QString() : tr("Cuts that stay away from such a place are made as usual"));
  Report report{tr("Reading %1").arg(name),
                tr("What the file holds that is not as it should be, and what was done about it"),
                {}};
  for (const QString& flaw : flaws) report.rows.emplace_back(tr("damaged"), flaw);
  for (const QString& note : reader_.notes()) report.rows.emplace_back(tr("mended"), note);
  emit noted(error, !flaws.isEmpty(), report);
}

}  // namespace kervo::app
