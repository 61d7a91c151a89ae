#include "app/foreign_reader.h"

#include <QCoreApplication>
#include <QFileInfo>
#include <QRegularExpression>

namespace kervo::app {

namespace {

constexpr int usualLimitSeconds = 600;

}  // namespace

ForeignReader::ForeignReader(QObject* parent) : QObject(parent) {
  bool given = false;
  const int wanted = qEnvironmentVariableIntValue("KERVO_READ_LIMIT_SECONDS", &given);
  limitSeconds_ = given && wanted > 0 ? wanted : usualLimitSeconds;
  limit_.setSingleShot(true);
  connect(&limit_, &QTimer::timeout, this, [this] {
    timedOut_ = true;
    if (process_) process_->kill();
  });
}

void ForeignReader::read(const QString& path, std::function<void(const QString&)> then) {
  if (busy()) {
    emit failed(Error("another file is being read", path_.toStdString(), "Wait for it, or stop it"));
    return;
  }
  path_ = path;
  then_ = std::move(then);
  stopped_ = timedOut_ = false;
  folder_ = std::make_unique<QTemporaryDir>();
  if (!folder_->isValid()) {
    emit failed(Error("there is no room for a temporary folder", folder_->path().toStdString(), "Free some space"));
    return;
  }
  process_ = new QProcess(this);
  connect(process_, &QProcess::finished, this, &ForeignReader::ended);
  connect(process_, &QProcess::errorOccurred, this, [this](QProcess::ProcessError error) {
    if (error != QProcess::FailedToStart) return;
    process_->deleteLater();
    process_ = nullptr;
    emit finished();
    emit failed(Error("the reader (kervo-cli) could not be started",
                      QCoreApplication::applicationDirPath().toStdString(), "Install Kervo again"));
  });
  limit_.start(limitSeconds_ * 1000);
  emit started(path);
  process_->start(QCoreApplication::applicationDirPath() + "/kervo-cli",
                  {"convert", path, folder_->filePath("converted.kervo")});
}

void ForeignReader::stop() {
  stopped_ = true;
  if (process_) process_->kill();
}

void ForeignReader::ended(int code, QProcess::ExitStatus status) {
  limit_.stop();
  const QString said = QString::fromLocal8Bit(process_->readAllStandardError()).trimmed();
  process_->deleteLater();
  process_ = nullptr;
  emit finished();
  notes_.clear();
  flaws_.clear();
  const QString note = "kervo-cli: note: ", flaw = "kervo-cli: damaged: ";
  for (const QString& line : said.split('\n')) {
    if (line.startsWith(note)) notes_ << line.mid(note.size());
    if (line.startsWith(flaw)) flaws_ << line.mid(flaw.size());
  }
  const std::string name = QFileInfo(path_).fileName().toStdString();
  if (stopped_) return emit failed(std::nullopt);
  if (timedOut_)
    return emit failed(FileError("reading it took longer than " + std::to_string(limitSeconds_) + " s and was ended",
                                 name, "Split the file into smaller ones"));
  if (status == QProcess::CrashExit)
    return emit failed(FileError("reading it crashed the reader; nothing came in", name, "The file is damaged"));
  if (code != 0) {
    // The last line is the reason.
    QString reason = said.section('\n', -1);
    reason.remove(QRegularExpression("^kervo-cli: "));
    while (reason.endsWith('.')) reason.chop(1);
    return emit failed(FileError(reason.toStdString(), name));
  }
  then_(folder_->filePath("converted.kervo"));
}

}  // namespace kervo::app
