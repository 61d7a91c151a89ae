// Pieces that were not there before an edit further up the Cut list.
#pragma once

#include <QString>
#include <vector>

#include "app/worker.h"

namespace kervo::app {

struct NewPiece {
  QString name;
  bool kept = true;
};

struct NewPieces {
  StepId step;
  QString stepName;
  std::vector<NewPiece> pieces;
};

/// Of the first step that has some. Only of steps that are the same but for what they work on: an edit of a step
/// itself shows its pieces on the Bench, and another document is no edit.
NewPieces newPieces(const Made& before, const Made& now);

}  // namespace kervo::app
