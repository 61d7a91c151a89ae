#include "exchange/atomic_file.h"

#include <fcntl.h>
#include <unistd.h>

#include <cerrno>
#include <cstring>
#include <fstream>

#include "base/error.h"
#include "base/quantity.h"

namespace kervo {

namespace fs = std::filesystem;

namespace {

std::string reason(const std::error_code& code) {
  return code.message();
}

void flushToDisk(const fs::path& path) {
  const int file = ::open(path.c_str(), O_RDONLY);
  if (file < 0)
    throw FileError("the file could not be written (" + std::string(std::strerror(errno)) + ")", path.string());
  const bool done = ::fsync(file) == 0;
  const int error = errno;
  ::close(file);
  if (!done)
    throw FileError("the file could not be written to disk (" + std::string(std::strerror(error)) + ")", path.string());
}

}  // namespace

void writeAtomically(const fs::path& path, Backup backup, const std::function<void(const fs::path&)>& write) {
  fs::path folder = path.parent_path();
  if (folder.empty()) folder = ".";
  std::error_code code;
  if (!fs::is_directory(folder, code))
    throw FileError("there is no folder \"" + folder.string() + "\"", path.string(),
                    "Make the folder, or choose another place");
  if (fs::is_directory(path, code)) throw FileError("this is a folder", path.string(), "Choose a file name");
  const fs::path temporary = folder / ("." + path.filename().string() + "." + std::to_string(::getpid()) + ".part" +
                                       path.extension().string());
  try {
    write(temporary);
    flushToDisk(temporary);
    if (backup == Backup::KeepPrevious && fs::exists(path)) {
      const fs::path previous = path.string() + "~";
      fs::remove(previous, code);
      fs::create_hard_link(path, previous, code);
      if (code) fs::copy_file(path, previous, fs::copy_options::overwrite_existing);
    }
    fs::rename(temporary, path);
  } catch (const fs::filesystem_error& error) {
    fs::remove(temporary, code);
    throw FileError("the file could not be written (" + reason(error.code()) + ")", path.string(),
                    "Check the folder and its rights");
  } catch (...) {
    fs::remove(temporary, code);
    throw;
  }
}

std::uintmax_t requireReadable(const fs::path& path) {
  std::error_code code;
  const fs::file_status status = fs::status(path, code);
  if (!fs::exists(status)) throw FileError("there is no such file", path.string(), "Check the name and the folder");
  if (!fs::is_regular_file(status)) throw FileError("this is not a file", path.string());
  const std::uintmax_t size = fs::file_size(path, code);
  if (code || ::access(path.c_str(), R_OK) != 0)
    throw FileError("the file cannot be read (" + std::string(std::strerror(code ? code.value() : errno)) + ")",
                    path.string(), "Check its rights");
  return size;
}

std::string readWhole(const fs::path& path, std::uintmax_t mostBytes) {
  const std::uintmax_t size = requireReadable(path);
  if (size > mostBytes)
    throw FileError("the file is " + formatNumber(static_cast<double>(size) / 1e6, 4) + " MB, more than the " +
                        formatNumber(static_cast<double>(mostBytes) / 1e6, 4) + " MB that are read",
                    path.string());
  std::ifstream file(path, std::ios::binary);
  std::string content(size, '\0');
  file.read(content.data(), static_cast<std::streamsize>(size));
  if (!file) throw FileError("the file could not be read to its end", path.string());
  return content;
}

}  // namespace kervo
