// "Driven by" in the Cut list: the one text that says, and changes, what drives a step.
#pragma once

#include <QString>

#include "model/step.h"

namespace kervo::app {

/// "width × width × height", "kerf", "through", "4 circles".
QString drivenBy(const Step& step);
/// What it is, for the tooltip: "Width × Depth × Height".
QString drivenByLabel(const Step& step);
/// True if the text can be edited in place.
bool drivenByEditable(const Step& step);
/// The step with an edited text. Throws Error if it has another number of parts, or names no choice.
Step withDrivenBy(const Step& step, const std::string& name, const QString& text);

}  // namespace kervo::app
