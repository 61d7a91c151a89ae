#include "model/assembly_path.h"

#include "base/error.h"
#include "base/say.h"

namespace kervo {

std::vector<std::string> assemblyPath(const std::string& text) {
  constexpr const char* blank = " \t";
  std::vector<std::string> path;
  if (text.find_first_not_of(blank) == std::string::npos) return path;
  for (std::size_t from = 0; from <= text.size();) {
    const std::size_t end = std::min(text.find('/', from), text.size());
    const std::string part = text.substr(from, end - from);
    const std::size_t first = part.find_first_not_of(blank);
    if (first == std::string::npos)
      throw Error(say("an assembly has no name in \"%1\"", text), "",
                  say("Type names with slashes between: Crate / Lid"));
    path.push_back(part.substr(first, part.find_last_not_of(blank) - first + 1));
    from = end + 1;
  }
  return path;
}

std::string textOfPath(const std::vector<std::string>& path) {
  std::string text;
  for (const std::string& name : path) text += (text.empty() ? "" : " / ") + name;
  return text;
}

}  // namespace kervo
