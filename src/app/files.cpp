#include "app/files.h"

#include <QCoreApplication>
#include <QDir>
#include <QFileDialog>
#include <QFileInfo>
#include <QMessageBox>
#include <QPushButton>
#include <QSettings>
#include <QStandardPaths>

#include "app/file_filters.h"
#include "app/texts.h"
#include "base/say.h"
#include "exchange/formats.h"
#include "exchange/kervo_file.h"
#include "exchange/step_file.h"
#include "steps/registry.h"

namespace kervo::app {

namespace {

constexpr int mostRecent = 9;

QString withEnding(const QString& path, const Format& format) {
  return QFileInfo(path).suffix().isEmpty() ? path + QString::fromStdString(format.extensions.front()) : path;
}

bool isDocument(const QString& path) {
  const Format* format = formatOf(path.toStdString());
  return format && format->holds == Format::Holds::Document;
}

/// A demo beside the built application, or where it is installed.
QString demoPath(const QString& name) {
  const QDir here(QCoreApplication::applicationDirPath());
  for (const char* folder : {"../share/kervo/demo/", "../../../demo/"})
    if (const QString path = here.filePath(folder + name + ".kervo"); QFileInfo::exists(path))
      return QDir::cleanPath(path);
  return {};
}

}  // namespace

Files::Files(Desk& desk, QWidget* window)
    : desk_(desk),
      window_(window),
      known_((QStandardPaths::writableLocation(QStandardPaths::CacheLocation) + "/known-shapes").toStdString()) {
  connect(&guard_, &DocumentGuard::changed, this, [this] {
    const QString path = desk_.session.path();
    emit noticed(tr("%1 was changed on the disk by another program.").arg(QFileInfo(path).fileName()),
                 {{tr("Compare"), [this, path] { compareWithDisk(path, [] {}); }},
                  {tr("Open what is there"), [this, path] { open(path); }}});
  });
  connect(&reader_, &ForeignReader::failed, this, [this](const std::optional<Error>& error) {
    if (error && partsMayHelp_ && reader_.partsReadable())
      offerParts(*error);
    else if (error)
      emit failed(*error);
    else
      emit told(tr("Reading was stopped; nothing came in"));
  });
}

/// A question about a document may be answered when another one is on the desk.
std::function<void()> Files::ifStillThere(std::function<void()> act) {
  return [this, number = desk_.session.documentNumber(), act = std::move(act)] {
    if (desk_.session.documentNumber() == number) return act();
    emit told(tr("That was about another document, which is not open any more"));
  };
}

void Files::askToOverwrite(const QString& text, const QString& path, std::vector<MessageChoice> choices) {
  choices.push_back({tr("Save under another name …"), ifStillThere([this] { saveAs(); })});
  choices.push_back({tr("Overwrite"), ifStillThere([this, path] { writeTo(path); })});
  choices.push_back({tr("Do not save"), [this] { afterSaving_ = {}; }});
  emit asked(text, choices);
}

void Files::askAboutChange(const QString& path) {
  const auto compare =
      ifStillThere([this, path] { compareWithDisk(path, ifStillThere([this, path] { askAboutChange(path); })); });
  askToOverwrite(tr("%1 was changed on the disk since it was opened. Saving would replace what is there.")
                     .arg(QFileInfo(path).fileName()),
                 path, {{tr("Compare"), compare}});
}

void Files::leave(std::function<void()> go, const std::function<void()>& stay) {
  if (desk_.session.saved() || desk_.session.untouched()) return go();
  QMessageBox question(window_);
  question.setWindowTitle(tr("Unsaved changes"));
  question.setText(tr("%1 has changes that are not saved.").arg(desk_.session.fileName()));
  question.setInformativeText(tr("Save them before going on?"));
  QAbstractButton* save = question.addButton(tr("Save"), QMessageBox::AcceptRole);
  QAbstractButton* drop = question.addButton(tr("Drop the changes"), QMessageBox::DestructiveRole);
  question.addButton(tr("Stay here"), QMessageBox::RejectRole);
  question.setDefaultButton(qobject_cast<QPushButton*>(save));
  question.exec();
  if (question.clickedButton() == drop) return go();
  if (question.clickedButton() != save) {
    if (stay) stay();
    return;
  }
  afterSaving_ = std::move(go);
  this->save();
}

void Files::newDocument() {
  leave([this] { start({}, {}, true); });
}

void Files::start(const Document& document, const QString& path, bool saved) {
  desk_.trial.putBack();
  desk_.selection.clear();
  const auto holder = guard_.holderOf(path);
  desk_.session.start(document, path, saved);
  guard_.take(path);
  if (!path.isEmpty()) remember(path);
  emit loaded();
  if (!holder) return;
  emit asked(tr("%1 is open in another Kervo (process %2 on %3). Who saves last replaces what the other saved.")
                 .arg(QFileInfo(path).fileName())
                 .arg(holder->process)
                 .arg(holder->host.isEmpty() ? tr("this machine") : holder->host),
             {{tr("Work on a copy"), ifStillThere([this] {
                 guard_.take({});
                 desk_.session.forgetFile();
               })},
              {tr("Go on"), [] {}}});
}

QString Files::lastFolder() const {
  return QSettings().value("folder", QDir::homePath()).toString();
}

void Files::open() {
  leave([this] {
    const QString path = QFileDialog::getOpenFileName(
        window_, tr("Open"), lastFolder(), filters(Direction::Read, std::nullopt, tr("All that Kervo opens")));
    if (!path.isEmpty()) openNow(path);
  });
}

void Files::open(const QString& path) {
  leave([this, path] { openNow(path); });
}

void Files::openNow(const QString& path) {
  if (!isCurveFile(path.toStdString())) return read(path, isDocument(path));
  // What of it is wanted is asked first.
  start({}, {}, true);
  bringIn(path);
}

void Files::openDemo(const QString& name) {
  const QString path = demoPath(name);
  if (path.isEmpty())
    emit failed(
        errorOf(tr("the demo is not there"), QCoreApplication::applicationDirPath(), tr("Install Kervo again")));
  else
    open(path);
}

void Files::take(const QString& path) {
  if (isDocument(path) || desk_.session.untouched())
    open(path);
  else
    bringIn(path);
}

void Files::prepare(const Document& document, Progress& progress) {
  if (desk_.session.journal()) desk_.session.journal()->keepShapes(document);
  // The interface thread then finds everything made.
  desk_.worker.warm(document, progress);
}

void Files::read(const QString& path, bool isOurs) {
  if (!isOurs) {
    partsMayHelp_ = true;
    readForeign(path, {}, [this, path](const QString& converted) {
      desk_.worker.run(
          tr("Opening %1").arg(QFileInfo(path).fileName()),
          [this, converted, path](Progress& progress) -> Worker::Then {
            const Document document = readDocument(converted.toStdString(), allStepKinds(), progress);
            prepare(document, progress);
            return [this, document, path] {
              start(document, {}, false);
              keepPlace(path);
              tellNotes();
            };
          },
          [this](const std::optional<Error>& error) {
            if (error) emit failed(*error);
          });
    });
    return;
  }
  readDocumentAt(
      path, tr("Opening %1").arg(QFileInfo(path).fileName()),
      [this, path](const Document& document, Progress& progress) -> Worker::Then {
        prepare(document, progress);
        return [this, document, path] { start(document, QFileInfo(path).absoluteFilePath(), true); };
      },
      [this](bool stopped) {
        if (stopped) emit told(tr("Opening was stopped"));
      });
}

void Files::readDocumentAt(const QString& path, const QString& activity,
                           const std::function<Worker::Then(const Document&, Progress&)>& use,
                           const std::function<void(bool)>& failed) {
  const auto withReader = [this, path, activity, use, failed](const std::vector<Key>& keys) {
    reader_.check(
        path,
        [this, path, activity, use, failed, keys] {
          known_.add(keys);
          readDocumentAt(path, activity, use, failed);
        },
        [failed] { failed(false); });
  };
  desk_.worker.run(
      activity,
      [this, path, use, withReader](Progress& progress) -> Worker::Then {
        Document document;
        try {
          document = readKnownDocument(path.toStdString(), allStepKinds(), known_, progress);
        } catch (const ShapesNotKnown& found) {
          return [withReader, keys = found.keys()] { withReader(keys); };
        }
        return use(document, progress);
      },
      [this, failed](const std::optional<Error>& error) {
        if (error) emit this->failed(*error);
        failed(!error);
      });
}

void Files::bringIn() {
  const QString path = QFileDialog::getOpenFileName(window_, tr("Bring in"), lastFolder(), bringInFilters());
  if (!path.isEmpty()) bringIn(path);
}

void Files::bringIn(const QString& path) {
  QSettings().setValue("folder", QFileInfo(path).absolutePath());
  if (isCurveFile(path.toStdString()))
    return readCurves(path, {}, [this, path](const Document& drawings) { emit curvesRead(path, drawings); });
  partsMayHelp_ = true;
  readForeign(path, {}, [this, path](const QString& converted) {
    desk_.worker.run(
        tr("Bringing in %1").arg(QFileInfo(path).fileName()),
        [this, converted, path](Progress& progress) -> Worker::Then {
          const Document brought = readDocument(converted.toStdString(), allStepKinds(), progress);
          if (desk_.session.journal()) desk_.session.journal()->keepShapes(brought);
          return [this, brought, path] {
            addBrought(brought, tr("Bring in %1").arg(QFileInfo(path).fileName()));
            emit loaded();
            keepPlace(path);
            tellNotes();
          };
        },
        [this](const std::optional<Error>& error) {
          if (error) emit failed(*error);
        });
  });
}

void Files::save() {
  if (desk_.session.path().isEmpty())
    saveAs();
  else
    saveTo(desk_.session.path());
}

void Files::saveAs() {
  const QString name = desk_.session.path().isEmpty()
                           ? lastFolder() + "/unnamed" + QString::fromStdString(kervoFormat().extensions.front())
                           : desk_.session.path();
  const QString path =
      QFileDialog::getSaveFileName(window_, tr("Save as"), name, filters(Direction::Write, Format::Holds::Document));
  if (path.isEmpty()) {
    afterSaving_ = {};
    return;
  }
  saveTo(withEnding(path, kervoFormat()));
}

void Files::saveTo(const QString& path) {
  if (path == desk_.session.path()) return guard_.changedOnDisk() ? askAboutChange(path) : writeTo(path);
  const auto holder = guard_.holderOf(path);
  if (!holder) return writeTo(path);
  askToOverwrite(tr("%1 is open in another Kervo (process %2). Saving would replace what is there.")
                     .arg(QFileInfo(path).fileName())
                     .arg(holder->process),
                 path, {});
}

void Files::writeTo(const QString& path) {
  guard_.setWriting(true);
  const Document document = desk_.session.document();
  const std::uint64_t number = desk_.session.documentNumber();
  desk_.worker.run(
      tr("Saving"),
      [this, document, number, path](Progress& progress) -> Worker::Then {
        known_.add(writeDocument(path.toStdString(), document, progress));
        return [this, document, number, path] {
          desk_.session.markSaved(path, document, number);
          guard_.setWriting(false);
          if (desk_.session.path() == path) guard_.take(path);
          remember(path);
          emit told(tr("Saved %1").arg(QFileInfo(path).fileName()));
          if (const auto then = std::exchange(afterSaving_, {})) then();
        };
      },
      [this](const std::optional<Error>& error) {
        guard_.setWriting(false);
        afterSaving_ = {};
        if (error) emit failed(*error);
      });
}

void Files::sendOut() {
  const QString base = desk_.session.path().isEmpty() ? lastFolder() + "/bodies"
                                                      : QFileInfo(desk_.session.path()).absolutePath() + "/" +
                                                            QFileInfo(desk_.session.path()).completeBaseName();
  QString chosen;
  const QString path = QFileDialog::getSaveFileName(window_, tr("Send out"), withEnding(base, stepFormat()),
                                                    filters(Direction::Write, Format::Holds::Bodies), &chosen);
  if (path.isEmpty()) return;
  // A name without an ending gets that of the kind that was chosen.
  const auto& formats = allFormats();
  const auto format = std::find_if(formats.begin(), formats.end(), [&](const Format* each) {
    return chosen.startsWith(QString::fromStdString(each->name) + " (");
  });
  sendOutTo(withEnding(path, format == formats.end() ? stepFormat() : **format));
}

void Files::sendOutTo(const QString& path) {
  const Document document = desk_.session.document();
  const std::shared_ptr<const Made> made = desk_.session.made();
  if (!desk_.session.upToDate()) {
    emit failed(errorOf(tr("the model is still being rebuilt"), {}, tr("Send out again when it is done")));
    return;
  }
  if (made->model->bodies.empty()) {
    emit failed(errorOf(tr("there is no body to send out"), {}, tr("Make or bring in a body first")));
    return;
  }
  desk_.worker.run(
      tr("Sending out"),
      [this, document, made, path](Progress& progress) -> Worker::Then {
        const std::vector<FileBody> bodies = bodiesOf(*made->model);
        writeBodies(path.toStdString(), bodies, {document.made.unit, ReadBack::Compare, {}, levelsOf(*made->model)},
                    progress);
        const auto count = bodies.size();
        return [this, path, count] {
          emit told(count == 1 ? tr("Sent out 1 body to %1").arg(QFileInfo(path).fileName())
                               : tr("Sent out %1 bodies to %2").arg(count).arg(QFileInfo(path).fileName()));
        };
      },
      [this](const std::optional<Error>& error) {
        if (error) emit failed(*error);
      });
}

void Files::recover(const Abandoned& journal, const std::function<void()>& stay) {
  leave([this, journal] { recoverNow(journal); }, stay);
}

void Files::recoverNow(const Abandoned& journal) {
  const auto read = [this, journal] {
    desk_.worker.run(
        tr("Recovering"),
        [this, journal](Progress&) -> Worker::Then {
          const Document document = kervo::recover(journal, allStepKinds());
          if (desk_.session.journal()) desk_.session.journal()->keepShapes(document);
          return [this, journal, document] {
            start(document, QString::fromStdString(journal.file.string()), false);
            discard(journal);
            emit told(tr("Recovered %1 steps").arg(document.made.steps.size()));
          };
        },
        [this](const std::optional<Error>& error) {
          if (error) emit failed(*error);
        });
  };
  // A crash may have been its shapes' doing.
  reader_.check(QString::fromStdString(journal.folder.string()), read, {});
}

QStringList Files::recent() const {
  return QSettings().value("recent").toStringList();
}

void Files::remember(const QString& path) {
  QSettings settings;
  settings.setValue("folder", QFileInfo(path).absolutePath());
  QStringList list = recent();
  list.removeAll(path);
  list.prepend(path);
  while (list.size() > mostRecent) list.removeLast();
  settings.setValue("recent", list);
  emit recentChanged();
}

void Files::freezeSelected() {
  FileContents contents;
  const Model& model = *desk_.session.made()->model;
  QStringList names;
  for (const BodyId& id : desk_.selection.bodies()) {
    const Body* body = model.find(id);
    if (!body) continue;
    names << QString::fromStdString(body->name);
    contents.bodies.push_back(fileBodyOf(*body, model));
    contents.bodies.back().name += ", snapshot";
  }
  if (contents.bodies.empty()) return;
  contents.unit = desk_.session.document().made.unit;
  const std::string source = tr("snapshot of %1").arg(names.join(", ")).toStdString();
  desk_.worker.run(
      tr("Freezing"),
      [this, contents, source](Progress&) -> Worker::Then {
        const Document brought = withBroughtIn({}, contents, source, allStepKinds());
        if (desk_.session.journal()) desk_.session.journal()->keepShapes(brought);
        return [this, brought] { addBrought(brought, tr("Freeze as a snapshot")); };
      },
      [this](const std::optional<Error>& error) {
        if (error) emit failed(*error);
      });
}

void Files::addBrought(const Document& brought, const QString& what) {
  desk_.session.edit(what, [&](const Document& now) {
    Document result = now;
    // The first bodies bring their unit along.
    if (now.made.steps.empty() && now.made.dimensions.empty()) result.made.unit = brought.made.unit;
    for (const Level& level : brought.made.levels)
      if (!findLevel(now.made.levels, level.name)) result.made.levels.push_back(level);
    result.made.shapes.insert(brought.made.shapes.begin(), brought.made.shapes.end());
    const Step& step = *brought.made.steps.front();
    return result.withStep(step.withId(result.freeId("import")));
  });
}

}  // namespace kervo::app
