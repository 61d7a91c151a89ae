// From divisions of stock bodies to a step's result: bodies, pieces, audit. Shared by all steps that cut.
#pragma once

#include <string>
#include <vector>

#include "fields/bodies_field.h"
#include "fields/pieces_field.h"
#include "geom/divide/boolean.h"
#include "model/step_inputs.h"
#include "model/step_result.h"

namespace kervo {

/// The stock of a step: what it may cut, and what it must not.
struct Stock {
  std::vector<BodyId> bodies;
  std::vector<BodyId> shielded;
};

/// The bodies picked, shielded ones apart (with a warning if they were chosen by name). Throws Error if nothing is
/// picked, or everything picked is shielded.
Stock stockOf(StepInputs& inputs, const BodiesField& field);

/// Throws Error with the numbers where so many faces would be intersected that no machine gets there. `cutterFaces`: of
/// all cutters together.
void requireFeasible(StepInputs& inputs, const std::vector<BodyId>& stock, double cutterFaces);
/// … where planes would divide `around` into so many pieces.
void requireFeasible(const std::vector<Plane>& planes, const Box& around);

/// Adds what stays of a stock body (several pieces become bodies of their own, named by their faces) and what went.
/// `cut` is a division that took something.
void addDivided(StepResult& result, StepInputs& inputs, const BodyId& body, const Division& cut);

/// Adds kept parts as bodies: one keeps `id`, several are called id/name. `label` goes into the name of the bodies.
void addKept(StepResult& result, StepInputs& inputs, const BodyId& from, const BodyId& id, const std::string& label,
             const std::vector<Shape>& parts);
/// Adds parts of a body that go. They would be called as addKept() would call them.
void addDropped(StepResult& result, StepInputs& inputs, const BodyId& from, const BodyId& id, const std::string& label,
                const std::vector<Shape>& parts);
/// Adds what a kerf or a cutter takes away, as one piece.
void addWaste(StepResult& result, const BodyId& from, const BodyId& id, const std::string& name, const Shape& waste);
/// Adds a division's volumes to the audit.
void addBalance(Audit& audit, const BodyId& body, const Division& cut);

/// Says so, once, if exact bodies were made meshes within that many mm; 0: none was.
void noteMeshed(Audit& audit, double within);
/// Says so if edges that should have gone stay in a union.
void noteSeams(Audit& audit, const Union& joined);

/// To be called last: lets the choice of pieces overrule what the step does by itself, and says which chosen pieces are
/// gone and which are new.
void settlePieces(StepResult& result, StepInputs& inputs, const PieceChoice& choice);

}  // namespace kervo
