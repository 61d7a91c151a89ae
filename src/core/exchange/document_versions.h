// Documents of earlier versions of the format.
#pragma once

#include <nlohmann/json_fwd.hpp>

namespace kervo {

/// Brings the JSON of a document of an earlier version up to the present one (documentVersion). Its version was checked
/// before; what is wrong in it otherwise stays as it is, for who reads it then.
void bringUpToDate(nlohmann::json& document);

}  // namespace kervo
