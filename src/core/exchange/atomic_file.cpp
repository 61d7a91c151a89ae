#include "exchange/atomic_file.h"

#include <fcntl.h>
#include <sys/stat.h>
#include <unistd.h>

#include <cerrno>
#include <chrono>
#include <csignal>
#include <cstring>
#include <fstream>
#include <optional>
#include <string_view>
#include <tuple>

#include "base/error.h"
#include "base/quantity.h"
#include "base/say.h"

namespace kervo {

namespace fs = std::filesystem;

namespace {

std::string reason(const std::error_code& code) {
  return code.message();
}

void flushToDisk(const fs::path& path) {
  const int file = ::open(path.c_str(), O_RDONLY);
  if (file < 0)
    throw FileError(say("the file could not be written (%1)", std::string(std::strerror(errno))), path.string());
  const bool done = ::fsync(file) == 0;
  const int error = errno;
  ::close(file);
  if (!done)
    throw FileError(say("the file could not be written to disk (%1)", std::string(std::strerror(error))),
                    path.string());
}

}  // namespace

namespace {

/// What the path leads to: links at its end are followed, also to where nothing is yet.
fs::path withoutLinks(fs::path path) {
  constexpr int mostLinks = 40;
  std::error_code code;
  for (int i = 0; fs::is_symlink(fs::symlink_status(path, code)); ++i) {
    if (i == mostLinks)
      throw FileError(say("the links go round in a circle"), path.string(), say("Choose another place"));
    const fs::path target = fs::read_symlink(path, code);
    if (code) throw FileError(say("the link cannot be followed (%1)", reason(code)), path.string());
    path = path.parent_path() / target;
  }
  return path;
}

/// Files are called .NAME.PROCESS.part.EXTENSION while they are written.
fs::path temporaryName(const fs::path& folder, const fs::path& name) {
  return folder /
         ("." + name.filename().string() + "." + std::to_string(::getpid()) + ".part" + name.extension().string());
}

/// The process that writes a file of that name; nothing if it is none of them. The archive library adds an ending of
/// its own while it writes.
std::optional<pid_t> writerOf(const std::string& name) {
  constexpr std::string_view mark = ".part";
  const std::size_t end = name.rfind(mark);
  if (name.front() != '.' || end == std::string::npos || end < 2) return std::nullopt;
  if (const std::size_t after = end + mark.size(); after < name.size() && name[after] != '.') return std::nullopt;
  const std::size_t dot = name.rfind('.', end - 1);
  const std::string number = name.substr(dot + 1, end - dot - 1);
  constexpr std::size_t mostDigits = 9;
  if (dot == 0 || number.empty() || number.size() > mostDigits ||
      number.find_first_not_of("0123456789") != std::string::npos)
    return std::nullopt;
  return static_cast<pid_t>(std::stoi(number));
}

/// Removes files of that kind whose process is gone. One of another machine may still be at work on a shared folder:
/// only old ones go.
void removeLeftovers(const fs::path& folder) {
  constexpr auto oldEnough = std::chrono::minutes(10);
  std::error_code code;
  for (fs::directory_iterator it(folder, code), end; !code && it != end; it.increment(code)) {
    const std::optional<pid_t> writer = writerOf(it->path().filename().string());
    if (!writer) continue;
    const bool running = ::kill(*writer, 0) == 0 || errno != ESRCH;
    std::error_code ignored;
    const auto written = fs::last_write_time(it->path(), ignored);
    if (running || ignored || fs::file_time_type::clock::now() - written < oldEnough) continue;
    fs::remove(it->path(), ignored);
  }
}

/// Rights and owner of the file that is replaced. The owner can be kept only where the system allows it.
void takeOver(const fs::path& from, const fs::path& to) {
  struct stat was {};
  if (::stat(from.c_str(), &was) != 0) return;
  std::ignore = ::chown(to.c_str(), was.st_uid, was.st_gid);
  if (::chmod(to.c_str(), was.st_mode & 07777) != 0)
    throw FileError(say("its rights could not be kept (%1)", std::string(std::strerror(errno))), to.string());
}

/// A pipe is written once everything is there, so that a failure sends nothing.
void writeToPipe(const fs::path& path, const std::function<void(const fs::path&)>& write) {
  const fs::path temporary = temporaryName(fs::temp_directory_path(), path);
  std::error_code code;
  try {
    write(temporary);
    std::ifstream from(temporary, std::ios::binary);
    std::ofstream to(path, std::ios::binary);
    to << from.rdbuf();
    if (!to.flush())
      throw FileError(say("the pipe could not be written to"), path.string(), say("Check what reads from it"));
  } catch (...) {
    fs::remove(temporary, code);
    throw;
  }
  fs::remove(temporary, code);
}

}  // namespace

void writeAtomically(const fs::path& asked, Backup backup, const std::function<void(const fs::path&)>& write) {
  std::error_code code;
  const fs::file_status there = fs::status(asked, code);
  if (fs::is_fifo(there)) return writeToPipe(asked, write);
  if (fs::is_directory(there)) throw FileError(say("this is a folder"), asked.string(), say("Choose a file name"));
  if (fs::exists(there) && !fs::is_regular_file(there))
    throw FileError(say("this is a device, not a file"), asked.string(), say("Choose a file name"));
  const fs::path path = withoutLinks(asked);
  fs::path folder = path.parent_path();
  if (folder.empty()) folder = ".";
  if (!fs::is_directory(folder, code))
    throw FileError(say("there is no folder \"%1\"", folder.string()), asked.string(),
                    say("Make the folder, or choose another place"));
  removeLeftovers(folder);
  const fs::path temporary = temporaryName(folder, path);
  try {
    write(temporary);
    flushToDisk(temporary);
    takeOver(path, temporary);
    if (backup == Backup::KeepPrevious && fs::exists(path)) {
      // Never without one of them, whenever this process is killed.
      const fs::path previous = path.string() + "~", next = temporaryName(folder, previous.filename());
      fs::remove(next, code);
      fs::create_hard_link(path, next, code);
      if (code) fs::copy_file(path, next, fs::copy_options::overwrite_existing);
      fs::rename(next, previous);
      // Two names of one file are not renamed.
      fs::remove(next, code);
    }
    fs::rename(temporary, path);
  } catch (const fs::filesystem_error& error) {
    fs::remove(temporary, code);
    throw FileError(say("the file could not be written (%1)", reason(error.code())), asked.string(),
                    say("Check the folder and its rights"));
  } catch (...) {
    fs::remove(temporary, code);
    throw;
  }
}

std::uintmax_t requireReadable(const fs::path& path) {
  std::error_code code;
  const fs::file_status status = fs::status(path, code);
  if (!fs::exists(status))
    throw FileError(say("there is no such file"), path.string(), say("Check the name and the folder"));
  if (!fs::is_regular_file(status)) throw FileError(say("this is not a file"), path.string());
  const std::uintmax_t size = fs::file_size(path, code);
  if (code || ::access(path.c_str(), R_OK) != 0)
    throw FileError(say("the file cannot be read (%1)", std::string(std::strerror(code ? code.value() : errno))),
                    path.string(), say("Check its rights"));
  return size;
}

void writeText(const std::filesystem::path& path, const std::string& text) {
  writeAtomically(path, Backup::None, [&](const std::filesystem::path& temporary) {
    std::ofstream file(temporary, std::ios::binary);
    file.write(text.data(), static_cast<std::streamsize>(text.size()));
    file.close();
    if (!file) throw FileError(say("the file could not be written"), path.string(), say("Check the space on the disk"));
  });
}

std::string readWhole(const fs::path& path, std::uintmax_t mostBytes) {
  const std::uintmax_t size = requireReadable(path);
  if (size > mostBytes)
    throw FileError(
        say("the file is %1 MB, more than the %2 MB that are read", formatNumber(static_cast<double>(size) / 1e6, 4),
            formatNumber(static_cast<double>(mostBytes) / 1e6, 4)),
        path.string());
  std::ifstream file(path, std::ios::binary);
  std::string content(size, '\0');
  file.read(content.data(), static_cast<std::streamsize>(size));
  if (!file) throw FileError(say("the file could not be read to its end"), path.string());
  return content;
}

}  // namespace kervo
