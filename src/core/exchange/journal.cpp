#include "exchange/journal.h"

#include <fcntl.h>
#include <sys/file.h>
#include <unistd.h>

#include <cstring>
#include <ctime>
#include <fstream>
#include <map>
#include <nlohmann/json.hpp>
#include <optional>
#include <tuple>

#include "base/error.h"
#include "base/identifier.h"
#include "base/say.h"
#include "exchange/atomic_file.h"
#include "exchange/document_json.h"
#include "exchange/shape_bytes.h"

namespace kervo {

namespace {

namespace fs = std::filesystem;
using nlohmann::json;

constexpr char linesName[] = "edits.jsonl";
constexpr char lockName[] = "lock";
constexpr char namePrefix[] = "session-";
constexpr std::uintmax_t mostBytes = 4'000'000'000;

FileError failed(const std::string& what, const fs::path& path) {
  return FileError(what + " (" + std::strerror(errno) + ")", path.string(), say("Check the folder and the free space"));
}

/// The file descriptor that holds the lock, or nothing if another process has it.
std::optional<int> locked(const fs::path& folder) {
  const int descriptor = open((folder / lockName).c_str(), O_RDWR | O_CREAT | O_CLOEXEC, 0600);
  if (descriptor < 0) return std::nullopt;
  if (flock(descriptor, LOCK_EX | LOCK_NB) == 0) return descriptor;
  close(descriptor);
  return std::nullopt;
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

// JSON texts, since only whole ones are compared.
using StepTexts = std::map<std::string, std::string>;

/// A document as the journal's lines build it up.
struct Content {
  std::string rest;  ///< the document without its steps
  std::vector<std::string> order;
  StepTexts steps;
};

Content contentOf(const std::string& documentText) {
  json document = json::parse(documentText);
  Content content;
  for (const json& step : document.at("steps")) {
    const auto id = step.at("id").get<std::string>();
    content.order.push_back(id);
    content.steps[id] = step.dump();
  }
  document.erase("steps");
  content.rest = document.dump();
  return content;
}

std::string textOf(const Content& content) {
  json document = json::parse(content.rest);
  document["steps"] = json::array();
  for (const std::string& id : content.order) document["steps"].push_back(json::parse(content.steps.at(id)));
  return document.dump();
}

/// What leads from one to the other.
void addChange(json& line, const Content& from, const Content& to) {
  if (from.rest != to.rest) line["change"] = json::diff(json::parse(from.rest), json::parse(to.rest));
  if (from.order != to.order) line["order"] = to.order;
  for (const auto& [id, text] : to.steps)
    if (const auto known = from.steps.find(id); known == from.steps.end() || known->second != text)
      line["put"][id] = json::parse(text);
}

/// Throws an exception of the JSON library, or std::out_of_range, for a line that fits to nothing.
Content changed(Content content, const json& line) {
  if (line.contains("change")) content.rest = json::parse(content.rest).patch(line["change"]).dump();
  // As it was written until version 1 of documents.
  if (line.contains("rest")) content.rest = line["rest"].dump();
  if (line.contains("put"))
    for (const auto& item : line["put"].items()) content.steps[item.key()] = item.value().dump();
  if (line.contains("order")) {
    content.order = line["order"].get<std::vector<std::string>>();
    StepTexts steps;
    for (const std::string& id : content.order) steps[id] = content.steps.at(id);
    content.steps = std::move(steps);
  }
  return content;
}

std::string pathText(const json& line) {
  if (!line.contains("file_bytes")) return line.at("file").get<std::string>();
  const auto bytes = line["file_bytes"].get<std::vector<unsigned char>>();
  return {bytes.begin(), bytes.end()};
}

/// What the lines that can be read come to.
struct Replay {
  Content content;
  std::string file;
  std::size_t steps = 0;
  std::size_t lost = 0;  ///< lines after them
  bool any = false;
};

/// A line that cannot be read makes those after it useless that say what changed, up to the next that holds all.
Replay replayed(const fs::path& folder) {
  std::ifstream lines(folder / linesName, std::ios::binary);
  Replay replay;
  bool follows = false;
  for (std::string text; std::getline(lines, text);) {
    // The last line has no end if it was not written whole.
    if (lines.eof()) break;
    if (text.empty()) continue;
    ++replay.lost;
    try {
      const json line = json::parse(text);
      const bool whole = line.contains("document");
      if (!whole && !follows) continue;
      Content content =
          whole ? contentOf(line["document"].get_ref<const std::string&>()) : changed(replay.content, line);
      std::string file = pathText(line);
      replay = {std::move(content), std::move(file), 0, 0, true};
      replay.steps = replay.content.order.size();
      follows = true;
    } catch (const json::exception&) {
      follows = false;
    } catch (const std::out_of_range&) {
      follows = false;
    }
  }
  return replay;
}

FileError nothingReadable(const fs::path& folder) {
  return FileError(say("the journal is damaged: it holds no whole edit"), folder.string(),
                   say("It is kept, should somebody want to look at it"));
}

}  // namespace

struct Journal::Written {
  Content content;
};

Journal::Journal(const fs::path& home) {
  std::error_code error;
  fs::create_directories(home, error);
  for (int number = 1; number < 100'000; ++number) {
    folder_ = home / (namePrefix + std::to_string(getpid()) + "-" + std::to_string(number));
    if (!fs::create_directory(folder_, error)) {
      if (error) throw FileError(say("the journal's folder cannot be made (%1)", error.message()), folder_.string());
      continue;
    }
    fs::create_directory(folder_ / "shapes", error);
    const auto descriptor = locked(folder_);
    if (!descriptor) throw failed(say("the journal cannot be locked"), folder_);
    lock_ = *descriptor;
    return;
  }
  throw FileError(say("the journal's folder is full"), home.string(), say("Remove old ones"));
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
    const auto shape = document.made.shapes.find(key);
    if (shape == document.made.shapes.end()) continue;
    writeAtomically(folder_ / "shapes" / fileNameOfStored(key), Backup::None, [&](const fs::path& temporary) {
      std::ofstream file(temporary, std::ios::binary);
      file << shapeToBytes(shape->second);
      if (!file.flush()) throw failed(say("the journal cannot be written"), temporary);
    });
    kept_.insert(key);
  }
}

void Journal::append(const Document& document, const fs::path& file) {
  const std::string documentText = documentToJson(document);
  Content now = contentOf(documentText);
  json line;
  if (isUtf8(file.string()))
    line["file"] = file.string();
  else
    line["file_bytes"] = std::vector<unsigned char>(file.native().begin(), file.native().end());
  if (last_)
    addChange(line, last_->content, now);
  else
    line["document"] = documentText;
  const std::string text = line.dump() + "\n";

  const fs::path path = folder_ / linesName;
  const int descriptor = open(path.c_str(), O_WRONLY | O_CREAT | O_APPEND | O_CLOEXEC, 0600);
  if (descriptor < 0) throw failed(say("the journal cannot be written"), path);
  const off_t before = lseek(descriptor, 0, SEEK_END);
  const bool written = write(descriptor, text.data(), text.size()) == static_cast<ssize_t>(text.size());
  const int reason = errno;
  // Half a line is taken back. Should even that fail, the next one begins on a line of its own.
  if (!written && (before < 0 || ftruncate(descriptor, before) != 0)) std::ignore = write(descriptor, "\n", 1);
  close(descriptor);
  if (!written) {
    last_.reset();
    errno = reason;
    throw failed(say("the journal cannot be written"), path);
  }
  if (!last_) last_ = std::make_unique<Written>();
  last_->content = std::move(now);
}

void Journal::clear() {
  last_.reset();
  std::error_code error;
  fs::remove(folder_ / linesName, error);
  if (error) throw FileError(say("the journal cannot be cleared (%1)", error.message()), folder_.string());
}

std::vector<Abandoned> abandonedJournals(const fs::path& home) {
  std::vector<Abandoned> result;
  std::error_code error;
  std::vector<fs::path> folders;
  for (fs::directory_iterator it(home, error), end; !error && it != end; it.increment(error))
    if (it->path().filename().string().rfind(namePrefix, 0) == 0 && fs::is_directory(it->path(), error))
      folders.push_back(it->path());
  for (const fs::path& folder : folders) {
    const auto descriptor = locked(folder);
    if (!descriptor) continue;
    const fs::path lines = folder / linesName;
    if (!fs::exists(lines, error)) {
      fs::remove_all(folder, error);
    } else {
      Abandoned found;
      found.folder = folder;
      try {
        found.when = localTime(lines);
        const Replay replay = replayed(folder);
        found.file = replay.file;
        found.steps = replay.steps;
        found.lost = replay.lost;
        if (!replay.any) found.unreadable = nothingReadable(folder).happened();
      } catch (const std::exception& trouble) {
        found.unreadable = trouble.what();
      }
      result.push_back(std::move(found));
    }
    close(*descriptor);
  }
  std::sort(result.begin(), result.end(), [](const Abandoned& a, const Abandoned& b) { return a.when > b.when; });
  return result;
}

Document recover(const Abandoned& journal, const StepKinds& kinds) {
  const Replay replay = replayed(journal.folder);
  if (!replay.any) throw nothingReadable(journal.folder);
  Document document = documentFromJson(textOf(replay.content), kinds, journal.folder.string());
  for (const std::string& key : shapeKeys(document)) {
    if (key.find_first_of("/\\.") != std::string::npos) throw nothingReadable(journal.folder);
    const fs::path path = journal.folder / "shapes" / fileNameOfStored(key);
    document.made.shapes[key] = shapeFromBytes(readWhole(path, mostBytes), path.string());
  }
  return document;
}

fs::path keepAside(const Abandoned& journal) {
  fs::path place = journal.folder.parent_path() / ("aside-" + journal.folder.filename().string());
  std::error_code error;
  fs::rename(journal.folder, place, error);
  if (error) throw FileError(say("the journal cannot be moved (%1)", error.message()), journal.folder.string());
  return place;
}

void discard(const Abandoned& journal) {
  std::error_code error;
  fs::remove_all(journal.folder, error);
  if (error) throw FileError(say("the journal cannot be removed (%1)", error.message()), journal.folder.string());
}

}  // namespace kervo
