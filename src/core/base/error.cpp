#include "base/error.h"

namespace kervo {

Error::Error(std::string happened, std::string where, std::string help)
    : happened_(std::move(happened)), where_(std::move(where)), help_(std::move(help)) {
  if (!where_.empty()) text_ = where_ + ": ";
  text_ += happened_ + ".";
  if (!help_.empty()) text_ += " " + help_ + ".";
}

Error Error::within(const std::string& outer) const {
  return Error(happened_, where_.empty() ? outer : outer + ", " + where_, help_);
}

}  // namespace kervo
