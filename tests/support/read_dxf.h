// What a reader that is not Kervo's finds in a DXF file (read_dxf.py, by python3-ezdxf).
#pragma once

#include <cstdio>
#include <cstdlib>
#include <filesystem>
#include <map>
#include <sstream>
#include <string>

namespace kervo::test {

/// What a command prints; a test fails if it does not end well.
inline std::string outputOf(const std::string& command) {
  std::string text;
  FILE* pipe = ::popen(command.c_str(), "r");
  if (!pipe) return text;
  std::array<char, 4096> buffer{};
  for (std::size_t count = 0; (count = std::fread(buffer.data(), 1, buffer.size(), pipe)) > 0;)
    text.append(buffer.data(), count);
  if (const int status = ::pclose(pipe); status != 0) ADD_FAILURE() << command << " ended with " << status;
  return text;
}

/// By "LAYER key": see the script.
inline std::map<std::string, double> readDxfElsewhere(const std::filesystem::path& path) {
  std::istringstream lines(
      outputOf("/usr/bin/python3 " KERVO_SOURCE_DIR "/tests/support/read_dxf.py '" + path.string() + "'"));
  std::map<std::string, double> result;
  for (std::string line; std::getline(lines, line);)
    if (const auto end = line.rfind(' '); end != std::string::npos)
      result[line.substr(0, end)] = std::stod(line.substr(end));
  return result;
}

}  // namespace kervo::test
