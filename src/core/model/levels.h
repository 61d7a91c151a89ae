// Levels: the storeys of a building. A level is a named height on which new bodies and drawings are while it is worked
// on; expressions use its height by its name: "Lamp room.height".
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "base/dimension_table.h"

namespace kervo {

struct Document;

struct Level {
  std::string name;
  Expression height;       ///< above the ground plane: a length; a bare number is one in the document's unit
  std::string layer = {};  ///< of what is new on it; empty: called like the level
  bool operator==(const Level&) const = default;

  const std::string& onLayer() const { return layer.empty() ? name : layer; }
};

/// A level as it comes out.
struct LevelNow {
  std::string name;
  std::string layer;                  ///< of what is new on it
  std::optional<double> height = {};  ///< mm; nothing if its expression has no value
};

/// What is shown of the levels.
struct LevelSight {
  enum class Show { All, Below, Only };  ///< Below: those below the working level are faded, those above it hidden
  std::string working = {};              ///< where new drawings and bodies go; empty: none
  Show show = Show::All;
  bool operator==(const LevelSight&) const = default;
};

/// The level of that name, or null.
const Level* findLevel(const std::vector<Level>& levels, const std::string& name);
/// From the lowest to the highest; those without a height come last.
std::vector<LevelNow> levelsByHeight(std::vector<LevelNow> levels);

/// With a level more, or another height or layer of the one of that name. Throws Error for a name that cannot be used.
Document withLevel(const Document& document, Level level);
/// The level under another name, here, in every expression and on every body. Throws Error if it cannot be called so.
Document withLevelRenamed(const Document& document, const std::string& from, const std::string& to);
/// Throws an Error that lists who uses its height if anybody does. What is on it stays, on no level.
Document withoutLevel(const Document& document, const std::string& name);
/// The level on which new things are made; an empty name: none. Throws Error if there is no such level.
Document withWorkingLevel(const Document& document, const std::string& name);

}  // namespace kervo
