// What becomes of bodies made from profiles: new ones, joined to stock, what they have in
// common with it, or what they cut out of it.
#pragma once

#include <vector>

#include "fields/choice_field.h"
#include "fields/regions_field.h"
#include "steps/shared/divided_bodies.h"

namespace kervo {

/// As new bodies; a single one is called like the step.
void addNewBodies(StepResult& result, StepInputs& inputs, const std::vector<Shape>& shapes);
/// Joined to the stock; warns where they do not touch.
void addJoined(StepResult& result, StepInputs& inputs, const Stock& stock, const std::vector<Shape>& shapes,
               Progress& progress);
/// What each body of the stock has in common with them; false if that is nothing at all.
bool addCommon(StepResult& result, StepInputs& inputs, const Stock& stock, const std::vector<Shape>& shapes,
               Progress& progress);

/// What the stock is without them, its pieces as chosen; false if they meet none of it. The shapes' edges are shown.
bool addCut(StepResult& result, StepInputs& inputs, const Stock& stock, const std::vector<Shape>& shapes,
            const PieceChoice& pieces, Progress& progress);

/// The fields that say what becomes of a carried or turned profile, and what follows from them.
class ProfileResult {
 public:
  /// `profiles`: where open lines are refused that would have to join or cut.
  ProfileResult(FieldTable& table, const RegionsField& profiles);
  /// Throws Error if open lines are to join or cut, or the shapes meet none of the stock.
  void add(StepResult& result, StepInputs& inputs, const std::vector<Shape>& shapes, Progress& progress) const;

 private:
  enum class Then { New, Joined, Cut, Common };
  void requireSolids(const std::vector<Shape>& shapes) const;

  const RegionsField& profiles_;
  const ChoiceField<Then> then_;
  const BodiesField stock_;
  const PiecesField pieces_;
};

}  // namespace kervo
