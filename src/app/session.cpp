#include "app/session.h"

#include <QFileInfo>
#include <QStandardPaths>

namespace kervo::app {

namespace {

constexpr std::size_t mostStates = 1000;

}  // namespace

std::filesystem::path journalHome() {
  const QString home = QStandardPaths::writableLocation(QStandardPaths::AppLocalDataLocation);
  return std::filesystem::path(home.toStdString()) / "journal";
}

Session::Session(Worker& worker, QObject* parent) : QObject(parent), worker_(worker) {
  made_ = std::make_shared<const Made>(Made{{}, std::make_shared<const Model>(), {}, 0});
  connect(&worker_, &Worker::made, this, [this](const std::shared_ptr<const Made>& result) {
    made_ = result;
    upToDate_ = true;
    emit modelChanged();
  });
  try {
    journal_ = std::make_unique<Journal>(journalHome());
  } catch (const Error& error) {
    // The window says it once it is there: work goes on without a journal.
    QMetaObject::invokeMethod(
        this, [this, error] { emit failed(error); }, Qt::QueuedConnection);
  }
}

void Session::apply(const Document& document, const QString& what) {
  history_.resize(now_ + 1);
  history_.push_back({document, what, ++lastNumber_});
  if (history_.size() > mostStates) history_.erase(history_.begin());
  now_ = history_.size() - 1;
  show();
}

void Session::edit(const QString& what, const std::function<Document(const Document&)>& change) {
  try {
    apply(change(document()), what);
  } catch (const Error& error) {
    emit failed(error);
    // Editors that already show the refused value take the old one back.
    emit documentChanged();
  }
}

void Session::undo() {
  if (!canUndo()) return;
  --now_;
  show();
}

void Session::redo() {
  if (!canRedo()) return;
  ++now_;
  show();
}

void Session::rebuildAgain() {
  upToDate_ = false;
  worker_.make(document());
}

void Session::show() {
  dimensions_ = DimensionTable(document().dimensions);
  note();
  rebuildAgain();
  emit documentChanged();
  emit fileChanged();
}

void Session::note() {
  if (!journal_) return;
  try {
    if (saved())
      journal_->clear();
    else
      journal_->append(document(), path_.toStdString());
    journalTroubleTold_ = false;
  } catch (const Error& error) {
    if (std::exchange(journalTroubleTold_, true)) return;
    emit failed(Error(error.happened() + ": what you do now could not be recovered after a crash", error.where(),
                      "Save, and make room"));
  }
}

void Session::start(const Document& document, const QString& path, bool saved) {
  history_ = {{document, {}, ++lastNumber_}};
  now_ = 0;
  firstNumber_ = lastNumber_;
  saved_.reset();
  if (saved) saved_ = lastNumber_;
  path_ = path;
  show();
}

void Session::forgetFile() {
  path_.clear();
  saved_.reset();
  note();
  emit fileChanged();
}

QString Session::fileName() const {
  return path_.isEmpty() ? tr("not named yet") : QFileInfo(path_).fileName();
}

void Session::markSaved(const QString& path, std::uint64_t state) {
  // Another document may have come to the desk since.
  if (state < firstNumber_) return;
  path_ = path;
  saved_ = state;
  note();
  emit fileChanged();
}

}  // namespace kervo::app
