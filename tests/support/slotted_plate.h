// A plate with a slot through it, whose rim is a chain of edges that continue one another tangentially.
#pragma once

#include "support/document_builder.h"

namespace kervo::test {

/// 40 × 40 × 5 mm, with a slot of two lines of 10 mm and two half circles of radius 2 mm.
inline std::vector<Step> slottedPlate() {
  const auto line = [](const char* id, const char* a, const char* b, const char* c, const char* d) {
    return DrawnCurve{id, "line", {Expression(a), Expression(b), Expression(c), Expression(d)}};
  };
  const auto arc = [](const char* id, const char* u, const char* from, const char* to) {
    return DrawnCurve{
        id, "arc", {Expression(u), Expression("0"), Expression("2 mm"), Expression(from), Expression(to)}};
  };
  return {block("p", "40", "40", "5", {"-20", "-20", "0"}),
          drawing("d", onFace("p", "p:top"),
                  {line("low", "-5", "-2", "5", "-2"), arc("right", "5", "-90 deg", "90 deg"),
                   line("high", "5", "2", "-5", "2"), arc("left", "-5", "90 deg", "270 deg")}),
          step("slot", "cut", {{"profiles", allOf("d")}})};
}

/// The plate with step "b" of a kind that blends one straight edge of the slot's rim by 1 mm.
inline Model blendedSlot(const char* kind, const char* sizeField) {
  std::vector<Step> steps = slottedPlate();
  steps.push_back(step(
      "b", kind,
      {{"edges", std::vector<EdgeReference>{{"p", "p:top", "slot:side:low", {}}}}, {sizeField, Expression("1 mm")}}));
  return made(documentOf(steps));
}

}  // namespace kervo::test
