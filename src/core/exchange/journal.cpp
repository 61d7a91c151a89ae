#include "exchange/journal.h"

#include <fcntl.h>
#include <sys/file.h>
#include <unistd.h>

#include <cstring>
#include <ctime>
#include <fstream>
#include <nlohmann/json.hpp>
#include <optional>

#include "base/error.h"
#include "exchange/atomic_file.h"
#include "exchange/document_json.h"
#include "exchange/shape_bytes.h"

namespace kervo {

namespace {

namespace fs = std::filesystem;

constexpr char linesName[] = "edits.jsonl";
constexpr char lockName[] = "lock";
constexpr char namePrefix[] = "session-";
constexpr std::uintmax_t mostBytes = 4'000'000'000;

FileError failed(const std::string& what, const fs::path& path) {
  return FileError(what + " (" + std::strerror(errno) + ")", path.string(), "Check the folder and the free space");
}

/// The file descriptor that holds the lock, or nothing if another process has it.
std::optional<int> locked(const fs::path& folder) {
  const int descriptor = open((folder / lockName).c_str(), O_RDWR | O_CREAT | O_CLOEXEC, 0600);
  if (descriptor < 0) return std::nullopt;
  if (flock(descriptor, LOCK_EX | LOCK_NB) == 0) return descriptor;
  close(descriptor);
  return std::nullopt;
}

/// The last line that was written whole.
std::string lastLine(const fs::path& folder) {
  const std::string text = readWhole(folder / linesName, mostBytes);
  const auto end = text.rfind('\n');
  if (end == std::string::npos) throw FileError("the journal holds no whole edit", folder.string());
  const auto before = end == 0 ? std::string::npos : text.rfind('\n', end - 1);
  const auto start = before == std::string::npos ? 0 : before + 1;
  return text.substr(start, end - start);
}

std::string localTime(const fs::path& path) {
  const auto written = fs::last_write_time(path);
  const auto system = std::chrono::file_clock::to_sys(written);
  const std::time_t seconds =
      std::chrono::system_clock::to_time_t(std::chrono::time_point_cast<std::chrono::system_clock::duration>(system));
  std::tm parts{};
  localtime_r(&seconds, &parts);
  char text[32];
  std::strftime(text, sizeof text, "%Y-%m-%d %H:%M", &parts);
  return text;
}

nlohmann::json parsed(const std::string& line, const fs::path& folder) {
  try {
    return nlohmann::json::parse(line);
  } catch (const nlohmann::json::exception&) {
    throw FileError("the journal is damaged", folder.string());
  }
}

}  // namespace

Journal::Journal(const fs::path& home) {
  std::error_code error;
  fs::create_directories(home, error);
  for (int number = 1; number < 100'000; ++number) {
    folder_ = home / (namePrefix + std::to_string(getpid()) + "-" + std::to_string(number));
    if (!fs::create_directory(folder_, error)) {
      if (error) throw FileError("the journal's folder cannot be made (" + error.message() + ")", folder_.string());
      continue;
    }
    fs::create_directory(folder_ / "shapes", error);
    const auto descriptor = locked(folder_);
    if (!descriptor) throw failed("the journal cannot be locked", folder_);
    lock_ = *descriptor;
    return;
  }
  throw FileError("the journal's folder is full", home.string(), "Remove old ones");
}

Journal::~Journal() {
  // A window that is closed has saved its work or was told to drop it.
  std::error_code ignored;
  fs::remove_all(folder_, ignored);
  close(lock_);
}

void Journal::keepShapes(const Document& document) {
  for (const std::string& key : shapeKeys(document)) {
    if (kept_.count(key)) continue;
    const auto shape = document.shapes.find(key);
    if (shape == document.shapes.end()) continue;
    writeAtomically(folder_ / "shapes" / (key + ".brep"), Backup::None, [&](const fs::path& temporary) {
      std::ofstream file(temporary, std::ios::binary);
      file << shapeToBytes(shape->second);
      if (!file.flush()) throw failed("the journal cannot be written", temporary);
    });
    kept_.insert(key);
  }
}

void Journal::append(const Document& document, const fs::path& file) {
  nlohmann::ordered_json line;
  line["file"] = file.string();
  line["steps"] = document.steps.size();
  line["document"] = documentToJson(document);
  const std::string text = line.dump() + "\n";
  const fs::path path = folder_ / linesName;
  const int descriptor = open(path.c_str(), O_WRONLY | O_CREAT | O_APPEND | O_CLOEXEC, 0600);
  const bool written =
      descriptor >= 0 && write(descriptor, text.data(), text.size()) == static_cast<ssize_t>(text.size());
  if (descriptor >= 0) close(descriptor);
  if (!written) throw failed("the journal cannot be written", path);
}

void Journal::clear() {
  std::error_code error;
  fs::remove(folder_ / linesName, error);
  if (error) throw FileError("the journal cannot be cleared (" + error.message() + ")", folder_.string());
}

std::vector<Abandoned> abandonedJournals(const fs::path& home) {
  std::vector<Abandoned> result;
  std::error_code error;
  for (const fs::directory_entry& entry : fs::directory_iterator(home, error)) {
    if (entry.path().filename().string().rfind(namePrefix, 0) != 0) continue;
    const auto descriptor = locked(entry.path());
    if (!descriptor) continue;
    const fs::path lines = entry.path() / linesName;
    if (!fs::exists(lines, error)) {
      fs::remove_all(entry.path(), error);
    } else {
      Abandoned found{entry.path(), {}, localTime(lines), 0};
      try {
        const nlohmann::json line = parsed(lastLine(entry.path()), entry.path());
        found.file = line.value("file", "");
        found.steps = line.value("steps", std::size_t(0));
      } catch (const FileError&) {
        // Listed all the same: recover() will say what is wrong with it.
      }
      result.push_back(std::move(found));
    }
    close(*descriptor);
  }
  std::sort(result.begin(), result.end(), [](const Abandoned& a, const Abandoned& b) { return a.when > b.when; });
  return result;
}

Document recover(const Abandoned& journal, const StepKinds& kinds) {
  const nlohmann::json line = parsed(lastLine(journal.folder), journal.folder);
  if (!line.contains("document") || !line["document"].is_string())
    throw FileError("the journal is damaged", journal.folder.string());
  Document document = documentFromJson(line["document"].get<std::string>(), kinds, journal.folder.string());
  for (const std::string& key : shapeKeys(document)) {
    if (key.find_first_of("/\\.") != std::string::npos)
      throw FileError("the journal is damaged", journal.folder.string());
    const fs::path path = journal.folder / "shapes" / (key + ".brep");
    document.shapes[key] = shapeFromBytes(readWhole(path, mostBytes), path.string());
  }
  return document;
}

void discard(const Abandoned& journal) {
  std::error_code error;
  fs::remove_all(journal.folder, error);
  if (error) throw FileError("the journal cannot be removed (" + error.message() + ")", journal.folder.string());
}

}  // namespace kervo
