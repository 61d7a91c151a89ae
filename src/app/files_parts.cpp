// Some bodies of a file: those that a person chooses, and of a broken one those that can be read.
#include <QFileDialog>
#include <QFileInfo>
#include <QSettings>

#include "app/file_filters.h"
#include "app/files.h"
#include "app/parts_dialog.h"
#include "app/texts.h"
#include "exchange/kervo_file.h"
#include "steps/registry.h"

namespace kervo::app {

void Files::offerParts(const Error& error) {
  emit noticed(QString::fromUtf8(error.what()),
               {{tr("Choose from what can be read …"), [this, path = reader_.path()] { bringInParts(path); }}});
}

void Files::bringInParts() {
  const QString path =
      QFileDialog::getOpenFileName(window_, tr("Bring in some bodies of a file"), lastFolder(), bringInFilters());
  if (path.isEmpty()) return;
  if (isCurveFile(path.toStdString())) return bringIn(path);  // asks for its layers
  bringInParts(path);
}

void Files::bringInParts(const QString& path) {
  QSettings().setValue("folder", QFileInfo(path).absolutePath());
  readForeign(path, {},
              [this, path](const QString& converted) {
                desk_.worker.run(
                    tr("Bringing in %1").arg(QFileInfo(path).fileName()),
                    [this, converted, path](Progress& progress) -> Worker::Then {
                      const Document brought = readDocument(converted.toStdString(), allStepKinds(), progress);
                      return [this, brought, path] { askForParts(brought, path); };
                    },
                    [this](const std::optional<Error>& error) {
                      if (error) emit failed(*error);
                    });
              },
              {"--parts"});
}

void Files::askForParts(const Document& brought, const QString& path) {
  auto* dialog = new PartsDialog(path, brought, reader_.lost(), window_);
  dialog->setAttribute(Qt::WA_DeleteOnClose);
  connect(dialog, &QDialog::accepted, this,
          [this, dialog, brought, path] { takeParts(brought, dialog->chosen(), path); });
  connect(dialog, &QDialog::rejected, this, [this] { emit told(tr("Nothing came in")); });
  dialog->open();
}

void Files::takeParts(const Document& brought, const std::vector<std::size_t>& numbers, const QString& path) {
  const std::vector<BroughtBody>& all = broughtIn(brought);
  std::vector<BroughtBody> chosen;
  std::map<std::string, Shape> shapes;
  for (const std::size_t number : numbers) {
    chosen.push_back(all[number]);
    shapes.emplace(chosen.back().shape, brought.made.shapes.at(chosen.back().shape));
  }
  Document part = brought;
  part.made.shapes = std::move(shapes);
  part = part.withReplaced(brought.made.steps.front()->with("bodies", std::move(chosen)));
  const auto count = static_cast<int>(numbers.size());
  desk_.worker.run(
      tr("Bringing in %1").arg(QFileInfo(path).fileName()),
      [this, part, path, count](Progress&) -> Worker::Then {
        if (desk_.session.journal()) desk_.session.journal()->keepShapes(part);
        return [this, part, path, count] {
          addBrought(part, tr("Bring in %1").arg(QFileInfo(path).fileName()));
          emit loaded();
          keepPlace(path);
          tellNotes();
          emit told(count == 1 ? tr("1 body came in") : tr("%1 bodies came in").arg(count));
        };
      },
      [this](const std::optional<Error>& error) {
        if (error) emit failed(*error);
      });
}

}  // namespace kervo::app
