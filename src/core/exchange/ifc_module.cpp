// Loads the module that reads IFC4 files.
#include <dlfcn.h>

#include <filesystem>
#include <stdexcept>

#include "base/say.h"
#include "exchange/ifc_reader.h"

namespace kervo {

namespace {

/// Beside the program that runs.
IfcReading reading() {
  static const IfcReading found = [] {
    const std::filesystem::path path = std::filesystem::read_symlink("/proc/self/exe").parent_path() / KERVO_IFC_MODULE;
    void* module = ::dlopen(path.c_str(), RTLD_NOW | RTLD_LOCAL);
    if (!module) throw std::runtime_error(say("the part that reads it could not be loaded (%1)", ::dlerror()));
    return reinterpret_cast<IfcReading>(::dlsym(module, ifcReadingName));
  }();
  if (!found) throw std::runtime_error(say("the part that reads it is of another version"));
  return found;
}

}  // namespace

IfcModel ifcModelOf(const std::string& text, const std::function<void(double)>& goOn) {
  IfcModel model;
  reading()(text, goOn, model);
  return model;
}

}  // namespace kervo
