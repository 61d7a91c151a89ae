#include "app/session.h"

#include <QFileInfo>
#include <QStandardPaths>

#include "app/texts.h"
#include "model/document_edits.h"
#include "model/shown.h"

namespace kervo::app {

namespace {

constexpr std::size_t mostStates = 1000;

}  // namespace

std::filesystem::path journalHome() {
  const QString home = QStandardPaths::writableLocation(QStandardPaths::AppLocalDataLocation);
  return std::filesystem::path(home.toStdString()) / "journal";
}

Session::Session(Worker& worker, QObject* parent) : QObject(parent), worker_(worker) {
  auto nothing = std::make_shared<Made>();
  nothing->model = std::make_shared<const Model>();
  made_ = std::move(nothing);
  connect(&worker_, &Worker::made, this, [this](const std::shared_ptr<const Made>& result) {
    made_ = result;
    upToDate_ = true;
    dimensions_ = document_.made.values(made_->model->measured());
    // A body may have been hidden or renamed while its document was rebuilt.
    if (made_->document.seen == document_.seen) return emit modelChanged();
    showSeen();
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
  const bool sameMade = document.made.sameAs(document_.made), sameSeen = document.seen == document_.seen;
  if (sameMade && sameSeen) return;
  if (!sameMade || !onlyShowOrHide(document_.seen, document.seen)) {
    history_.resize(now_ + 1);
    State& state = history_.emplace_back();
    state.made = document.made;
    state.what = what;
    if (!sameSeen) state.seen.emplace(document_.seen, document.seen);
    if (history_.size() > mostStates) history_.erase(history_.begin());
    now_ = history_.size() - 1;
  }
  take(document);
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
  std::optional<Document> document = before();
  if (!document) return;
  --now_;
  take(std::move(*document));
}

void Session::redo() {
  if (!canRedo()) return;
  Document document = document_;
  const State& next = history_[++now_];
  if (const auto& seen = next.seen) document.seen = withChange(document.seen, seen->first, seen->second);
  document.made = next.made;
  take(std::move(document));
}

std::optional<Document> Session::before() const {
  if (!canUndo()) return std::nullopt;
  Document document = document_;
  if (const auto& seen = history_[now_].seen) document.seen = withChange(document.seen, seen->second, seen->first);
  document.made = history_[now_ - 1].made;
  return document;
}

void Session::rebuildAgain() {
  upToDate_ = false;
  worker_.make(document());
}

void Session::take(Document document) {
  const bool sameMade = document.made.sameAs(document_.made);
  document_ = std::move(document);
  isSaved_ = saved_ && saved_->made.sameAs(document_.made) && saved_->seen == document_.seen;
  note();
  if (sameMade) {
    emit seenChanged();
    const bool sameSections = made_->document.seen.sections == document_.seen.sections;
    showSeen();
    // All else is in the memo.
    if (!sameSections) worker_.make(document_);
  } else {
    dimensions_ = document_.made.values(made_->model->measured());
    rebuildAgain();
    emit documentChanged();
  }
  emit fileChanged();
}

void Session::showSeen() {
  if (made_->document.seen == document_.seen) return;
  auto now = std::make_shared<Made>(*made_);
  now->document.seen = document_.seen;
  now->model = std::make_shared<const Model>(shown(*made_->model, document_.seen));
  made_ = std::move(now);
  emit modelChanged();
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
    emit failed(errorOf(
        tr("%1: what you do now could not be recovered after a crash").arg(QString::fromStdString(error.happened())),
        QString::fromStdString(error.where()), tr("Save, and make room")));
  }
}

void Session::start(const Document& document, const QString& path, bool saved) {
  history_.clear();
  history_.emplace_back().made = document.made;
  now_ = 0;
  ++documentNumber_;
  saved_.reset();
  if (saved) saved_ = document;
  isSaved_ = saved;
  path_ = path;
  document_ = document;
  dimensions_ = document_.made.values();
  note();
  rebuildAgain();
  emit documentChanged();
  emit fileChanged();
}

void Session::forgetFile() {
  path_.clear();
  saved_.reset();
  isSaved_ = false;
  note();
  emit fileChanged();
}

QString Session::fileName() const {
  return path_.isEmpty() ? tr("not named yet") : QFileInfo(path_).fileName();
}

void Session::markSaved(const QString& path, const Document& written, std::uint64_t number) {
  // Another document may have come to the desk since.
  if (number != documentNumber_) return;
  path_ = path;
  saved_ = written;
  isSaved_ = written.made.sameAs(document_.made) && written.seen == document_.seen;
  note();
  emit fileChanged();
}

}  // namespace kervo::app
