#include "app/recovery.h"

#include <QFileInfo>

namespace kervo::app {

void Recovery::offer() {
  for (const Abandoned& journal : abandonedJournals(journalHome()))
    journal.unreadable.empty() ? ask(journal) : keepUnreadable(journal);
}

void Recovery::ask(const Abandoned& journal) {
  const QString name = journal.file.empty() ? tr("a document without a name")
                                            : QFileInfo(QString::fromStdString(journal.file.string())).fileName();
  const QString steps = journal.steps == 1 ? tr("1 step") : tr("%1 steps").arg(journal.steps);
  QString text = tr("Kervo ended unexpectedly while %1 was not saved (%2, last edit %3).")
                     .arg(name, steps, QString::fromStdString(journal.when));
  if (journal.lost > 0) text += " " + tr("Its last %1 edits cannot be read.").arg(journal.lost);
  const auto throwAway = [this, journal] {
    try {
      discard(journal);
    } catch (const Error& error) {
      message_.show(error);
    }
  };
  const auto recover = [this, journal] { files_.recover(journal, [this, journal] { ask(journal); }); };
  message_.ask(text, {{tr("Recover"), recover}, {tr("Later"), [] {}}, {tr("Throw away"), throwAway}});
}

void Recovery::keepUnreadable(const Abandoned& journal) {
  try {
    const std::filesystem::path place = keepAside(journal);
    message_.ask(tr("Unsaved work of %1 cannot be recovered: %2. What is left of it was kept in %3.")
                     .arg(journal.when.empty() ? tr("an earlier run") : QString::fromStdString(journal.when),
                          QString::fromStdString(journal.unreadable), QString::fromStdString(place.string())),
                 {{tr("Close"), [] {}}});
  } catch (const Error& error) {
    message_.show(error);
  }
}

}  // namespace kervo::app
