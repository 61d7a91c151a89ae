#include "app/foreign_reader.h"
#include "app/texts.h"

#include <unistd.h>
#include <QCoreApplication>
#include <QFileInfo>
#include <QRegularExpression>
#include <algorithm>
#include <utility>

namespace kervo::app {

namespace {

constexpr int usualLimitSeconds = 600;
constexpr int longestEndMs = 2000;

/// The number in an environment variable, if it holds a positive one.
std::optional<int> numberFrom(const char* variable) {
  bool given = false;
  const int number = qEnvironmentVariableIntValue(variable, &given);
  return given && number > 0 ? std::optional(number) : std::nullopt;
}

/// Two thirds of the machine's memory: the window goes on beside it.
int usualLimitMegabytes() {
  const double bytes = static_cast<double>(sysconf(_SC_PHYS_PAGES)) * static_cast<double>(sysconf(_SC_PAGE_SIZE));
  return std::max(1000, static_cast<int>(bytes / 1.5e6));
}

}  // namespace

ForeignReader::ForeignReader(QObject* parent) : QObject(parent) {
  limitSeconds_ = numberFrom("KERVO_READ_LIMIT_SECONDS").value_or(usualLimitSeconds);
  limitMegabytes_ = numberFrom("KERVO_READ_LIMIT_MB").value_or(usualLimitMegabytes());
  limit_.setSingleShot(true);
  connect(&limit_, &QTimer::timeout, this, [this] {
    timedOut_ = true;
    if (process_) process_->kill();
  });
}

ForeignReader::~ForeignReader() {
  if (!process_) return;
  process_->disconnect(this);
  process_->kill();
  process_->waitForFinished(longestEndMs);
}

void ForeignReader::read(const QString& path, std::function<void(const QString&)> then, const QStringList& options) {
  if (busy()) return emit failed(alreadyReading());
  folder_ = std::make_unique<QTemporaryDir>();
  if (!folder_->isValid())
    return fail(errorOf(tr("there is no room for a temporary folder"), folder_->path(), tr("Free some space")));
  const QString converted = folder_->filePath("converted.kervo");
  run(path, QStringList{"convert", path, converted} + options, [then = std::move(then), converted] { then(converted); },
      {});
}

void ForeignReader::check(const QString& path, std::function<void()> then, std::function<void()> otherwise) {
  if (!busy()) return run(path, {"check", path}, std::move(then), std::move(otherwise));
  emit failed(alreadyReading());
  if (otherwise) otherwise();
}

Error ForeignReader::alreadyReading() const {
  return errorOf(tr("another file is being read"), path_, tr("Wait for it, or stop it"));
}

void ForeignReader::fail(const std::optional<Error>& error) {
  emit failed(error);
  if (const auto otherwise = std::exchange(otherwise_, {})) otherwise();
}

void ForeignReader::run(const QString& path, const QStringList& arguments, std::function<void()> then,
                        std::function<void()> otherwise) {
  path_ = path;
  then_ = std::move(then);
  otherwise_ = std::move(otherwise);
  stopped_ = timedOut_ = false;
  process_ = new QProcess(this);
  connect(process_, &QProcess::finished, this, &ForeignReader::ended);
  connect(process_, &QProcess::errorOccurred, this, [this](QProcess::ProcessError error) {
    if (error != QProcess::FailedToStart) return;
    process_->deleteLater();
    process_ = nullptr;
    emit finished();
    fail(errorOf(tr("the reader (kervo-cli) could not be started"), QCoreApplication::applicationDirPath(),
                 tr("Install Kervo again")));
  });
  limit_.start(limitSeconds_ * 1000);
  emit started(path);
  process_->start(QCoreApplication::applicationDirPath() + "/kervo-cli",
                  QStringList{"--memory-limit", QString::number(limitMegabytes_)} + arguments);
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
  lost_.clear();
  partsReadable_ = false;
  unit_.clear();
  size_.clear();
  const QString note = "kervo-cli: note: ", flaw = "kervo-cli: damaged: ";  // for the machine
  const QString lost = "kervo-cli: lost: ", parts = "kervo-cli: parts: ";   // for the machine
  const QString unit = "kervo-cli: unit: ", size = "kervo-cli: size: ";     // for the machine
  for (const QString& line : said.split('\n')) {
    if (line.startsWith(note)) notes_ << line.mid(note.size());
    if (line.startsWith(flaw)) flaws_ << line.mid(flaw.size());
    if (line.startsWith(lost)) lost_ << line.mid(lost.size());
    if (line.startsWith(parts)) partsReadable_ = true;
    if (line.startsWith(unit)) unit_ = line.mid(unit.size());
    if (line.startsWith(size)) size_ = line.mid(size.size());
  }
  const QString name = QFileInfo(path_).fileName();
  if (stopped_) return fail(std::nullopt);
  if (timedOut_)
    return fail(errorOf<FileError>(tr("reading it took longer than %1 s and was ended").arg(limitSeconds_), name,
                                   tr("Split the file into smaller ones")));
  if (status == QProcess::CrashExit)
    return fail(
        errorOf<FileError>(tr("reading it crashed the reader; nothing came in"), name, tr("The file is damaged")));
  if (code != 0) {
    // The last line is the reason.
    QString reason = said.section('\n', -1);
    reason.remove(QRegularExpression("^kervo-cli: "));
    // The file's name is said once.
    if (reason.startsWith(path_ + ": ")) reason.remove(0, path_.size() + 2);
    while (reason.endsWith('.')) reason.chop(1);
    return fail(errorOf<FileError>(reason, name));
  }
  otherwise_ = {};
  if (const auto then = std::exchange(then_, {})) then();
}

}  // namespace kervo::app
