#include "exchange/kervo_file.h"

#include <zip.h>

#include <functional>
#include <map>
#include <memory>
#include <tuple>

#include "base/error.h"
#include "base/parallel.h"
#include "base/say.h"
#include "exchange/atomic_file.h"
#include "exchange/document_json.h"
#include "exchange/shape_bytes.h"

namespace kervo {

namespace {

constexpr char documentName[] = "document.json";
constexpr std::uintmax_t mostDocumentBytes = 256'000'000;
constexpr std::uintmax_t mostShapeBytes = 2'000'000'000;
constexpr std::uintmax_t mostBytesInAll = 8'000'000'000;

std::string shapeFileName(const std::string& key) {
  return "shapes/" + fileNameOfStored(key);
}

/// Keys become file names: nothing else than letters, digits, - and _ may stand in one.
void requireSafeKey(const std::string& key, const std::string& fileName) {
  const bool safe =
      !key.empty() && key.size() <= 100 &&
      key.find_first_not_of("0123456789abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ-_") == std::string::npos;
  if (!safe)
    throw FileError(say("\"%1\" cannot be the key of a shape", key), fileName, say("Use letters, digits, - and _"));
}

struct CloseZip {
  void operator()(zip_t* archive) const { zip_discard(archive); }
};
using Zip = std::unique_ptr<zip_t, CloseZip>;

Zip openZip(const std::filesystem::path& path, int flags) {
  int code = 0;
  zip_t* archive = zip_open(path.c_str(), flags, &code);
  if (archive) return Zip(archive);
  zip_error_t error;
  zip_error_init_with_code(&error, code);
  const std::string reason = zip_error_strerror(&error);
  zip_error_fini(&error);
  throw FileError(say("this is not a readable .kervo file (%1)", reason), path.string(),
                  say("If a file of that name with ~ at its end lies beside it, that is the version before"));
}

std::string entry(zip_t* archive, const std::string& name, std::uintmax_t most, const std::string& fileName) {
  zip_stat_t info;
  zip_stat_init(&info);
  if (zip_stat(archive, name.c_str(), 0, &info) != 0 || !(info.valid & ZIP_STAT_SIZE))
    throw FileError(say("\"%1\" is missing in it", name), fileName, say("The file is damaged, or not a .kervo file"));
  if (info.size > most) throw FileError(say("\"%1\" in it is too large (%2 bytes)", name, info.size), fileName);
  // Shapes shrink to a third; what shrinks to a hundredth was made to fill the memory.
  constexpr std::uintmax_t harmless = 16'000'000, mostTimes = 100;
  if (info.size > harmless && (info.valid & ZIP_STAT_COMP_SIZE) && info.size / mostTimes > info.comp_size)
    throw FileError(say("\"%1\" in it would grow from %2 to %3 bytes", name, info.comp_size, info.size), fileName,
                    say("The file is damaged, or was made to do harm"));
  std::string content(info.size, '\0');
  zip_file_t* file = zip_fopen(archive, name.c_str(), 0);
  const zip_int64_t read = file ? zip_fread(file, content.data(), info.size) : -1;
  // The library compares the checksum when it comes to the end, which is behind the last byte.
  char beyond = 0;
  const bool ended = file && zip_fread(file, &beyond, 1) == 0;
  const bool whole = file && zip_fclose(file) == 0 && ended && read == static_cast<zip_int64_t>(info.size);
  if (!whole)
    throw FileError(say("\"%1\" in it is damaged", name), fileName,
                    say("Use the version before (the file with ~ at its end)"));
  return content;
}

Document completed(Document document, const std::string& fileName, const KnownShapes* known, Progress& progress,
                   const std::function<std::string(const std::string& name)>& read) {
  std::uintmax_t total = 0;
  struct Stored {
    std::string key, bytes;
    Shape shape = {};
  };
  std::vector<Stored> stored;
  std::vector<Key> unknown;
  for (const std::string& key : shapeKeys(document)) {
    progress.throwIfStopped();
    requireSafeKey(key, fileName);
    const std::string name = shapeFileName(key);
    std::string bytes = read(name);
    total += bytes.size();
    if (total > mostBytesInAll) throw FileError(say("its shapes take more than 8 GB"), fileName);
    if (known)
      if (const Key content = shapeBytesKey(bytes); !known->holds(content)) unknown.push_back(content);
    stored.push_back({key, std::move(bytes)});
  }
  if (!unknown.empty()) throw ShapesNotKnown(fileName, std::move(unknown));
  inParallel(stored.size(), [&](std::size_t i) {
    progress.throwIfStopped();
    Stored& each = stored[i];
    each.shape = shapeFromBytes(each.bytes, fileName + ", " + shapeFileName(each.key));
    std::string().swap(each.bytes);
  });
  for (Stored& each : stored) document.made.shapes[each.key] = std::move(each.shape);
  return document;
}

bool looksLikeZip(const std::filesystem::path& path) {
  return formatOf(path) != &documentTextFormat();
}

/// `known`: null if any shape may be read.
Document readWith(const std::filesystem::path& path, const StepKinds& kinds, const KnownShapes* known,
                  Progress& progress) {
  requireReadable(path);
  const std::string fileName = path.string();
  if (!looksLikeZip(path)) {
    Document document = documentFromJson(readWhole(path, mostDocumentBytes), kinds, fileName);
    return completed(std::move(document), fileName, known, progress,
                     [&](const std::string& name) { return readWhole(path.parent_path() / name, mostShapeBytes); });
  }
  const Zip archive = openZip(path, ZIP_RDONLY | ZIP_CHECKCONS);
  Document document =
      documentFromJson(entry(archive.get(), documentName, mostDocumentBytes, fileName), kinds, fileName);
  return completed(std::move(document), fileName, known, progress,
                   [&](const std::string& name) { return entry(archive.get(), name, mostShapeBytes, fileName); });
}

}  // namespace

const Format& kervoFormat() {
  static const Format format{.name = "Kervo",
                             .extensions = {".kervo"},
                             .mimeTypes = {"application/x-kervo"},
                             .holds = Format::Holds::Document,
                             .carries = "everything",
                             .documentsWritten = true};
  return format;
}

const Format& documentTextFormat() {
  static const Format format{.name = later("Kervo document as text"),
                             .extensions = {".json"},
                             .holds = Format::Holds::Document,
                             .carries = later("everything; brought-in shapes lie beside it")};
  return format;
}

Document readDocument(const std::filesystem::path& path, const StepKinds& kinds, Progress& progress) {
  return readWith(path, kinds, nullptr, progress);
}

Document readKnownDocument(const std::filesystem::path& path, const StepKinds& kinds, const KnownShapes& known,
                           Progress& progress) {
  return readWith(path, kinds, &known, progress);
}

namespace {

/// Reads the archive back: every entry holds, byte for byte, what was written. Shapes are stored as the kernel has them
/// in memory, so that equal bytes are equal bodies.
void requireStored(const std::filesystem::path& written,
                   const std::vector<std::pair<std::string, std::string>>& entries, const std::string& fileName) {
  const Zip archive = openZip(written, ZIP_RDONLY | ZIP_CHECKCONS);
  for (const auto& [name, content] : entries)
    if (entry(archive.get(), name, content.size(), fileName) != content)
      throw FileError(say("\"%1\" is not read back as it was written", name), fileName,
                      say("Check the disk, and save to another place"));
}

}  // namespace

std::vector<Key> writeDocument(const std::filesystem::path& path, const Document& document, Progress& progress) {
  std::vector<Key> keys;
  // The archive keeps pointers to these until it is closed.
  std::vector<std::pair<std::string, std::string>> entries{{documentName, documentToJson(document)}};
  for (const std::string& key : shapeKeys(document)) {
    progress.throwIfStopped();
    requireSafeKey(key, path.string());
    const auto found = document.made.shapes.find(key);
    if (found == document.made.shapes.end())
      throw FileError(say("the shape \"%1\" of a step is missing", key), path.string());
    entries.emplace_back(shapeFileName(key), shapeToBytes(found->second));
    keys.push_back(shapeBytesKey(entries.back().second));
  }
  writeAtomically(path, Backup::KeepPrevious, [&](const std::filesystem::path& temporary) {
    Zip archive = openZip(temporary, ZIP_CREATE | ZIP_TRUNCATE);
    for (const auto& [name, content] : entries) {
      zip_source_t* source = zip_source_buffer(archive.get(), content.data(), content.size(), 0);
      const zip_int64_t index = source ? zip_file_add(archive.get(), name.c_str(), source, ZIP_FL_ENC_UTF_8) : -1;
      if (index < 0) {
        if (source) zip_source_free(source);
        throw FileError(say("\"%1\" could not be added", name), path.string());
      }
      // A fixed date makes equal documents equal files.
      zip_file_set_dostime(archive.get(), static_cast<zip_uint64_t>(index), 0, 0x5821, 0);
    }
    if (zip_close(archive.get()) != 0)
      throw FileError(say("the file could not be written (%1)", zip_strerror(archive.get())), path.string(),
                      say("Check the folder and the free space"));
    std::ignore = archive.release();  // zip_close() has freed it
    requireStored(temporary, entries, path.string());
  });
  return keys;
}

}  // namespace kervo
