// Assemblies by one text: "Crate / Lid".
#pragma once

#include <string>
#include <vector>

namespace kervo {

/// The names of assemblies, the outermost first, that a text gives with slashes between; none for an empty one. Throws
/// Error for a name that says nothing.
std::vector<std::string> assemblyPath(const std::string& text);
std::string textOfPath(const std::vector<std::string>& path);

}  // namespace kervo
