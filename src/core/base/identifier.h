// What may be an id: of a step, and of a curve in a drawing. Ids are parts of the names of bodies, faces and regions,
// in which other characters have a meaning.
#pragma once

#include <string>
#include <string_view>

namespace kervo {

/// True for well-formed UTF-8 (RFC 3629): no overlong forms, no surrogates.
bool isUtf8(std::string_view text);

/// Nothing if `id` may be an id: 1 to 200 bytes of letters of any language, digits, - and _. Otherwise the reason why
/// not.
std::string whyNotAnId(const std::string& id);

/// Nothing if `part` may follow a "/" in the id of a body: 1 to 2000 bytes of printable ASCII without " and /, and of
/// what ids may hold beyond ASCII.
std::string whyNotAPart(const std::string& part);

}  // namespace kervo
