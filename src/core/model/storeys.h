// Working storey by storey: the plan of a level, what lies above and below it, and copies of levels.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "model/model.h"
#include "model/step_kind.h"

namespace kervo {

/// The level whose plan a section shows: its plane is the height of that level. Nothing for any other section.
std::optional<std::string> levelOfPlan(const Document& document, const Step& section);
/// The level whose plan is on; nothing if none is.
std::optional<std::string> planShown(const Document& document);

/// The document with the plan of a level on, which becomes the working one, and all other sections off. The plan is a
/// section 1.2 m above the level: the one there is, or a new one. `sections`: the kind that cuts open for the eye.
/// Throws Error if there is no such level.
Document withPlanOf(const Document& document, const std::string& level, const StepKind& sections);
/// … with it off again.
Document withoutPlan(const Document& document);

/// The next level below and the next above one.
std::vector<std::string> levelsBeside(const std::vector<LevelNow>& levels, const std::string& level);

/// A new level with copies of what is on another one: of its bodies one step, whose copies follow them; of drawings at
/// its height drawings of their own, at the new one's. `placing`: the kind that places bodies. Throws Error for a name
/// that cannot be used, or if nothing is on the level.
Document withLevelCopied(const Document& document, const Model& model, const std::string& from, const Level& to,
                         const StepKind& placing);

}  // namespace kervo
