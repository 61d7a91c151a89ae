// The verbs that make steps: each puts a new step on the Bench, filled from the selection.
#pragma once

#include "app/desk.h"

namespace kervo::app {

/// Block, cylinder, cone, sphere, torus; on the selected face if there is one.
void startSolid(Desk& desk, const std::string& kind);
void startPlane(Desk& desk);
enum class AfterDrawing { Nothing, Cut };
void startDrawing(Desk& desk, AfterDrawing after);
/// A cut with the selected drawing, or else the newest one that no step uses.
void startCut(Desk& desk);
void startSplit(Desk& desk);
/// The first selected body is the stock, the others cut it.
void startCombine(Desk& desk);
/// The selected edges, and those around selected faces.
void startRound(Desk& desk);

/// The drawing that startCut() would take; empty if there is none.
StepId drawingToCutWith(const Desk& desk);

}  // namespace kervo::app
