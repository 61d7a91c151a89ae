// The file of the document on the desk: who else has it open, and whether somebody else changed it.
//
// A lock beside the file tells who has it open; its stamp tells whether somebody changed it.
#pragma once

#include <QFileSystemWatcher>
#include <QLockFile>
#include <QObject>
#include <memory>
#include <optional>

namespace kervo::app {

class DocumentGuard : public QObject {
  Q_OBJECT
 public:
  explicit DocumentGuard(QObject* parent = nullptr);

  /// To be called when the document of this path came to the desk, or was saved there. An empty path: no file. Locks
  /// it, if no other Kervo has it, and notes what is on the disk now.
  void take(const QString& path);
  /// Who else has the file open; nothing if nobody has, or where no lock can be made.
  struct Holder {
    qint64 process = 0;
    QString host;
  };
  std::optional<Holder> holderOf(const QString& path) const;
  /// The file is not what it was when it was taken. False for a file that is not there.
  bool changedOnDisk() const;

  /// While this runs writing, changes are its own.
  void setWriting(bool writing) { writing_ = writing; }

 signals:
  /// Somebody else changed the file; comes once for each change.
  void changed();

 private:
  struct Stamp {
    qint64 nanoseconds = 0, size = -1, inode = 0;
    bool operator==(const Stamp&) const = default;
  };
  static Stamp stampOf(const QString& path);
  static QString lockPath(const QString& path);
  void look();

  QString path_;
  Stamp taken_, told_;
  bool writing_ = false;
  std::unique_ptr<QLockFile> lock_;
  QFileSystemWatcher watcher_;
};

}  // namespace kervo::app
