// Files that are only read to be compared.
#include <QFileInfo>

#include "app/files.h"
#include "exchange/formats.h"
#include "exchange/kervo_file.h"
#include "steps/registry.h"

namespace kervo::app {

void Files::compareWithDisk(const QString& path, const std::function<void()>& then) {
  const Document here = desk_.session.document();
  readDocumentAt(
      path, tr("Comparing"),
      [this, here, path, then](const Document& there, Progress&) -> Worker::Then {
        const std::vector<DocumentDifference> differences = differencesBetween(here, there);
        return [this, differences, path, then] { emit compared(QFileInfo(path).fileName(), differences, then); };
      },
      [then](bool) { then(); });
}

void Files::readToCompare(const QString& path, const std::function<void(const Document&)>& then,
                          const std::function<void()>& failed) {
  const auto use = [then](const Document& there, Progress&) -> Worker::Then { return [then, there] { then(there); }; };
  const Format* format = formatOf(path.toStdString());
  if (format && format->holds == Format::Holds::Document)
    return readDocumentAt(path, tr("Comparing"), use, [failed](bool) { failed(); });
  partsMayHelp_ = false;
  reader_.read(path, [this, use, failed](const QString& converted) {
    desk_.worker.run(
        tr("Comparing"),
        [converted, use](Progress& progress) -> Worker::Then {
          return use(readDocument(converted.toStdString(), allStepKinds(), progress), progress);
        },
        [this, failed](const std::optional<Error>& error) {
          if (error) emit this->failed(*error);
          failed();
        });
  });
}

}  // namespace kervo::app
