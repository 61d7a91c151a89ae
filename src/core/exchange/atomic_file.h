// Files that are either written whole or not at all.
#pragma once

#include <filesystem>
#include <functional>
#include <string>

namespace kervo {

enum class Backup { None, KeepPrevious };

/// Lets `write` write a file beside `path`, then puts it in its place in one step, with the rights and the owner of the
/// file that was there. With Backup::KeepPrevious that file stays as `path`~. If anything fails, `path` is as it was.
/// Links are followed: what they lead to is replaced. A pipe gets the bytes once they are all there; a device is
/// refused. Removes what killed processes left behind by this in the folder. Throws FileError.
void writeAtomically(const std::filesystem::path& path, Backup backup,
                     const std::function<void(const std::filesystem::path& temporary)>& write);

/// A text as a file of that, whole or not at all. Throws FileError.
void writeText(const std::filesystem::path& path, const std::string& text);

/// The whole file. Throws FileError if it is missing, not a file, unreadable or larger than `mostBytes`.
std::string readWhole(const std::filesystem::path& path, std::uintmax_t mostBytes);

/// Throws a FileError if the file is missing or cannot be read; gives its size in bytes.
std::uintmax_t requireReadable(const std::filesystem::path& path);

}  // namespace kervo
