// Reads files from outside in a process of their own, so that a broken file cannot take the window down.
#pragma once

#include <QObject>
#include <QProcess>
#include <QTemporaryDir>
#include <QTimer>
#include <memory>
#include <optional>

#include "base/error.h"

namespace kervo::app {

/// One reading at a time. The result is a .kervo file in a folder that lives until the next reading.
class ForeignReader : public QObject {
  Q_OBJECT
 public:
  explicit ForeignReader(QObject* parent = nullptr);

  bool busy() const { return process_ != nullptr; }
  void read(const QString& path, std::function<void(const QString& converted)> then);
  void stop();
  void setLimit(int seconds) { limitSeconds_ = seconds; }
  QString path() const { return path_; }
  /// What the last reading mended.
  QStringList notes() const { return notes_; }
  /// Where its bodies cannot be trusted.
  QStringList flaws() const { return flaws_; }

 signals:
  void started(const QString& path);
  void finished();
  /// Nothing: it was stopped.
  void failed(const std::optional<kervo::Error>& error);

 private:
  void ended(int code, QProcess::ExitStatus status);

  QString path_;
  QStringList notes_, flaws_;
  int limitSeconds_;
  bool stopped_ = false;
  bool timedOut_ = false;
  QTimer limit_;
  QProcess* process_ = nullptr;
  std::unique_ptr<QTemporaryDir> folder_;
  std::function<void(const QString&)> then_;
};

}  // namespace kervo::app
