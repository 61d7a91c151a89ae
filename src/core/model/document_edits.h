// Edits of a document that concern more than one of its parts: order, names, what depends on what.
#pragma once

#include <vector>

#include "model/document.h"

namespace kervo {

/// The steps that name this one, directly: its bodies, planes, drawings or faces, in the order of the document. A step
/// that takes "all it touches" names none.
std::vector<StepId> stepsThatRead(const Document& document, const StepId& id);

/// The step at another place, `index` counted without it. Throws an Error that says which step stands in the way if it
/// would come before one that it reads, or after one that reads it.
Document withStepMoved(const Document& document, const StepId& id, std::size_t index);

/// The dimension under another name, here and in every expression. Throws Error if the name cannot be used.
Document withDimensionRenamed(const Document& document, const std::string& from, const std::string& to);
/// Every use of one name in expressions replaced by another.
Document withNameChanged(const Document& document, const std::string& from, const std::string& to);
/// … in those of one step.
Step withNameChanged(const Step& step, const std::string& from, const std::string& to);
/// Throws an Error that lists who uses it if anybody does.
Document withoutDimension(const Document& document, const std::string& name);
/// Where a name stands: "dimension wall", "level Roof", "step Split, field Kerf".
std::vector<std::string> usesOfDimension(const Document& document, const std::string& name);

/// What is seen with one change more: that which made `to` out of `from`. Names, looks and limits that this change does
/// not touch stay as they are now.
SeenHalf withChange(SeenHalf now, const SeenHalf& from, const SeenHalf& to);
/// Whether bodies were shown or hidden and sections switched between the two, and nothing else was done.
bool onlyShowOrHide(const SeenHalf& from, const SeenHalf& to);

}  // namespace kervo
