#include "geom/openings/opening_words.h"

#include <cmath>

#include "base/say.h"

namespace kervo {

namespace {

/// Windows and doors are at least this wide and high, in mm; smaller ones are holes.
constexpr double leastWindow = 300;

bool isInWall(const Opening& opening) {
  constexpr double level = 0.5;
  return std::abs(opening.frame.normal.z) < level;
}

}  // namespace

std::string wordFor(const Opening& opening) {
  const bool large = opening.width >= leastWindow && opening.height >= leastWindow;
  if (opening.through && large && isInWall(opening) && opening.form != OpeningForm::Round)
    return opening.open ? say("door") : say("window");
  if (opening.open) return opening.through ? say("notch") : say("open pocket");
  if (opening.form == OpeningForm::Round) return say("hole");
  if (opening.form == OpeningForm::Slot) return say("slot");
  return opening.through ? say("opening") : say("pocket");
}

std::string toldOf(const Opening& opening) {
  std::string text = opening.through ? say("through") : say("blind");
  const auto add = [&](const std::string& what) { text += ", " + what; };
  if (opening.form == OpeningForm::Round)
    add(say("round"));
  else if (opening.form == OpeningForm::Free)
    add(say("free form"));
  else if (opening.sides > 0)
    add(sayCount(opening.sides, "1 side", "%1 sides"));
  if (opening.open) add(say("open to an edge"));
  if (opening.stepped) add(say("with a step"));
  return text;
}

}  // namespace kervo
