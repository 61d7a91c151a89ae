// The model as a function of the document.
#pragma once

#include "base/progress.h"
#include "model/document.h"
#include "model/memo.h"
#include "model/model.h"

namespace kervo {

/// Makes all steps in order. How they are seen is not filled in: see shown(). Each result is taken from the memo if the
/// step, its numbers and all it read are the same as when it was kept, and computed and kept otherwise. A step that
/// fails keeps the bodies as they were and carries its Error; the steps after it go on where they can. Throws Stopped
/// on request; what was finished is in the memo then.
Model rebuild(const MadeHalf& made, Memo& memo, Progress& progress);

/// As above, and shown.
Model rebuild(const Document& document, Memo& memo, Progress& progress);

}  // namespace kervo
