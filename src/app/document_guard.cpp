#include "app/document_guard.h"

#include <sys/stat.h>

#include <QFileInfo>
#include <QTimer>

namespace kervo::app {

DocumentGuard::DocumentGuard(QObject* parent) : QObject(parent) {
  // A file that is replaced is not watched any more, its folder is.
  connect(&watcher_, &QFileSystemWatcher::fileChanged, this, &DocumentGuard::look);
  connect(&watcher_, &QFileSystemWatcher::directoryChanged, this, &DocumentGuard::look);
}

DocumentGuard::Stamp DocumentGuard::stampOf(const QString& path) {
  struct stat status {};
  if (path.isEmpty() || ::stat(QFile::encodeName(path).constData(), &status) != 0) return {};
  return {status.st_mtim.tv_sec * 1'000'000'000 + status.st_mtim.tv_nsec, status.st_size,
          static_cast<qint64>(status.st_ino)};
}

QString DocumentGuard::lockPath(const QString& path) {
  const QFileInfo file(QFileInfo(path).canonicalFilePath().isEmpty() ? path : QFileInfo(path).canonicalFilePath());
  return file.absolutePath() + "/." + file.fileName() + ".lock";
}

void DocumentGuard::take(const QString& path) {
  if (path != path_ || !lock_) {
    lock_.reset();
    if (!watcher_.files().isEmpty()) watcher_.removePaths(watcher_.files());
    if (!watcher_.directories().isEmpty()) watcher_.removePaths(watcher_.directories());
    path_ = path;
    if (!path.isEmpty()) {
      lock_ = std::make_unique<QLockFile>(lockPath(path));
      // Only of a process that is gone is a lock void, however old it is.
      lock_->setStaleLockTime(0);
      if (!lock_->tryLock(0)) lock_.reset();
    }
  }
  taken_ = told_ = stampOf(path);
  if (path.isEmpty()) return;
  watcher_.addPath(QFileInfo(path).absolutePath());
  if (QFileInfo::exists(path)) watcher_.addPath(path);
}

std::optional<DocumentGuard::Holder> DocumentGuard::holderOf(const QString& path) const {
  if (path.isEmpty() || (lock_ && lockPath(path) == lockPath(path_))) return std::nullopt;
  QLockFile trial(lockPath(path));
  trial.setStaleLockTime(0);
  if (trial.tryLock(0)) return std::nullopt;
  Holder holder;
  QString application;
  if (trial.error() != QLockFile::LockFailedError || !trial.getLockInfo(&holder.process, &holder.host, &application))
    return std::nullopt;
  return holder;
}

bool DocumentGuard::changedOnDisk() const {
  const Stamp now = stampOf(path_);
  return now.size >= 0 && now != taken_;
}

void DocumentGuard::look() {
  if (path_.isEmpty()) return;
  if (!watcher_.files().contains(path_) && QFileInfo::exists(path_)) watcher_.addPath(path_);
  if (writing_ || !changedOnDisk()) return;
  const Stamp now = stampOf(path_);
  if (now == told_) return;
  told_ = now;
  emit changed();
}

}  // namespace kervo::app
