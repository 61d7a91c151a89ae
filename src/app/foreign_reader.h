// Reads files from outside in a process of their own, so that a broken file cannot take the window down.
//
// That process has a limit of time and of memory. Shapes stored in a document or a journal are checked in one too,
// unless this person's Kervo has read or written the same bytes before (exchange/known_shapes.h).
#pragma once

#include <QObject>
#include <QProcess>
#include <QStringList>
#include <QTemporaryDir>
#include <QTimer>
#include <functional>
#include <memory>
#include <optional>

#include "base/error.h"

namespace kervo::app {

/// One reading at a time, with a limit of time and memory. The result is a .kervo file in a folder that lives until the
/// next reading.
class ForeignReader : public QObject {
  Q_OBJECT
 public:
  explicit ForeignReader(QObject* parent = nullptr);
  /// Ends what is being read.
  ~ForeignReader() override;

  bool busy() const { return process_ != nullptr; }
  /// `options`: more arguments of the conversion.
  void read(const QString& path, std::function<void(const QString& converted)> then, const QStringList& options = {});
  /// Reads a document, or the shapes of a journal's folder, to see that it can be read. One of the two is called, after
  /// failed() if that is emitted.
  void check(const QString& path, std::function<void()> then, std::function<void()> otherwise);
  void stop();
  void setLimit(int seconds) { limitSeconds_ = seconds; }
  QString path() const { return path_; }
  /// What the last reading mended.
  QStringList notes() const { return notes_; }
  /// Where its bodies cannot be trusted.
  QStringList flaws() const { return flaws_; }
  /// Parts of a broken file that could not be read.
  QStringList lost() const { return lost_; }
  /// A broken file was refused of which some bodies can be read.
  bool partsReadable() const { return partsReadable_; }
  /// Of curves: what their coordinates were taken for, "px" or "px: the file does not say its unit", and how large
  /// they are.
  QString unit() const { return unit_; }
  QString size() const { return size_; }

 signals:
  void started(const QString& path);
  void finished();
  /// Nothing: it was stopped.
  void failed(const std::optional<kervo::Error>& error);

 private:
  void run(const QString& path, const QStringList& arguments, std::function<void()> then,
           std::function<void()> otherwise);
  void fail(const std::optional<kervo::Error>& error);
  kervo::Error alreadyReading() const;
  void ended(int code, QProcess::ExitStatus status);

  QString path_;
  QStringList notes_, flaws_, lost_;
  bool partsReadable_ = false;
  QString unit_, size_;
  int limitSeconds_;
  int limitMegabytes_;
  bool stopped_ = false;
  bool timedOut_ = false;
  QTimer limit_;
  QProcess* process_ = nullptr;
  std::unique_ptr<QTemporaryDir> folder_;
  std::function<void()> then_, otherwise_;
};

}  // namespace kervo::app
