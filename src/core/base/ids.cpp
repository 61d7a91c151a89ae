#include "base/ids.h"

#include <algorithm>
#include <utility>

#include "base/error.h"
#include "base/identifier.h"
#include "base/say.h"

namespace kervo {

namespace {

constexpr char division = '/', several = '.';

/// Nothing if `text` may be a body's id.
std::string whyNotABodyId(const std::string& text) {
  const std::string root = text.substr(0, text.find(division));
  const std::size_t dot = root.find(several);
  if (std::string reason = whyNotAnId(root.substr(0, dot)); !reason.empty()) return reason;
  if (dot != std::string::npos &&
      (dot + 1 == root.size() || root.find_first_not_of("0123456789", dot + 1) != std::string::npos))
    return say("only a number may follow the . in the id of a body");
  for (std::size_t at = root.size(); at < text.size();) {
    const std::size_t end = std::min(text.find(division, at + 1), text.size());
    if (std::string reason = whyNotAPart(text.substr(at + 1, end - at - 1)); !reason.empty()) return reason;
    at = end;
  }
  return {};
}

}  // namespace

StepId::StepId(std::string text) : text_(std::move(text)) {
  if (text_.empty()) return;
  if (const std::string reason = whyNotAnId(text_); !reason.empty())
    throw Error(reason, say("step \"%1\"", text_), say("Use letters, digits, - and _"));
}

BodyId::BodyId(std::string text) : text_(std::move(text)) {
  if (text_.empty()) return;
  if (const std::string reason = whyNotABodyId(text_); !reason.empty())
    throw Error(reason, say("body \"%1\"", text_),
                say("Write it as the Cut list or \"info\" of the command line shows it"));
}

std::optional<BodyId> BodyId::read(const std::string& text) {
  if (!whyNotABodyId(text).empty()) return std::nullopt;
  return BodyId(text);
}

StepId BodyId::step() const {
  return text_.substr(0, text_.find_first_of("./"));
}

BodyId BodyId::root() const {
  return text_.substr(0, text_.find(division));
}

BodyId BodyId::part(const std::string& name) const {
  return text_ + division + name;
}

BodyId BodyId::broughtIn(const StepId& step, std::size_t number) {
  return step.text() + several + std::to_string(number);
}

bool BodyId::isOfFamily(const BodyId& family) const {
  const std::string& whole = family.text_;
  return text_.compare(0, whole.size(), whole) == 0 &&
         (text_.size() == whole.size() || text_[whole.size()] == division);
}

}  // namespace kervo
