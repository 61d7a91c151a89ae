// Parts of a drawing and constraints in words.
#pragma once

#include <QString>
#include <string>
#include <vector>

#include "drawing/drawing.h"

namespace kervo::app {

/// What a part of a drawing is called: "line 12", "point 3", "origin".
QString spoken(const Drawing& drawing, const std::string& id);
/// "line 1 and line 2"
QString spokenList(const Drawing& drawing, const std::vector<std::string>& ids);
/// "parallel: line 1 and line 2"
QString inWords(const Drawing& drawing, const DrawnConstraint& constraint);
/// "parallel: line 1 and line 2; length: line 3"
QString spokenConstraints(const Drawing& drawing, const std::vector<std::string>& ids);

}  // namespace kervo::app
