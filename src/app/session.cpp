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
  if (saved_ > static_cast<std::ptrdiff_t>(now_)) saved_ = -1;
  history_.push_back({document, what});
  if (history_.size() > mostStates) {
    history_.erase(history_.begin());
    --saved_;
  }
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
  } catch (const Error& error) {
    emit failed(error.within("the journal that would recover this work after a crash"));
  }
}

void Session::start(const Document& document, const QString& path, bool saved) {
  history_ = {{document, {}}};
  now_ = 0;
  saved_ = saved ? 0 : -1;
  path_ = path;
  show();
}

QString Session::fileName() const {
  return path_.isEmpty() ? tr("not named yet") : QFileInfo(path_).fileName();
}

void Session::markSaved(const QString& path, std::size_t state) {
  path_ = path;
  saved_ = static_cast<std::ptrdiff_t>(state);
  note();
  emit fileChanged();
}

}  // namespace kervo::app
