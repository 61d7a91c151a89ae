// The one error type: what happened, where, and what would help, worded for the person at the Bench.
#pragma once

#include <exception>
#include <string>

namespace kervo {

/// A failed operation. `what()` gives all three parts as one text.
class Error : public std::exception {
 public:
  /// `happened`: a sentence without its full stop; `where`: step, body, face, file line (may be empty);
  /// `help`: what would help (may be empty).
  explicit Error(std::string happened, std::string where = {}, std::string help = {});

  const std::string& happened() const { return happened_; }
  const std::string& where() const { return where_; }
  const std::string& help() const { return help_; }
  const char* what() const noexcept override { return text_.c_str(); }

  /// The same error seen from one level further out, e.g. the field of a step.
  Error within(const std::string& outer) const;

 private:
  std::string happened_;
  std::string where_;
  std::string help_;
  std::string text_;
};

/// A file that cannot be read or written. Its own type, since callers answer it differently (another exit code).
class FileError : public Error {
 public:
  using Error::Error;
};

/// Thrown out of a long operation after Progress::requestStop(). Not an Error: nothing went wrong.
class Stopped : public std::exception {
 public:
  const char* what() const noexcept override { return "stopped"; }
};

}  // namespace kervo
