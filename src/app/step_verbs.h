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
/// Solids from the selected drawing's regions, surfaces from its open lines.
void startExtrude(Desk& desk);
/// The selected faces as a surface.
void startLift(Desk& desk);
/// The selected bodies moved, turned, aligned, scaled; repeated; scored; put into a group.
void startPlace(Desk& desk);
void startPattern(Desk& desk);
void startScore(Desk& desk);
void startGroup(Desk& desk);
/// Opens a closed group, or closes an open one behind everything that was done to its members.
void toggleGroup(Desk& desk, const StepId& id);
/// The selected bodies, or all damaged ones, made sound again.
void startRepair(Desk& desk);
/// Marks the selected bodies as hole-makers, or takes the mark away.
void toggleHoleMaker(Desk& desk);

/// The drawing that startCut() would take; empty if there is none.
StepId drawingToCutWith(const Desk& desk);

}  // namespace kervo::app
