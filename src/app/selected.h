// The selection in the terms of steps, from which verbs begin.
#pragma once

#include "app/desk.h"
#include "model/selected.h"

namespace kervo::app {

/// What a pick in the view means. A part that is not there any more gives a pick of its body.
Picked picked(const Pick& pick, const Desk& desk);
/// The corner or datum that a pick takes; nothing for a pick of something else.
std::optional<PointReference> pickedPoint(const Pick& pick, const Desk& desk);

/// What is selected now, and what there is besides; made again only when something of it has changed.
class SelectedNow {
 public:
  explicit SelectedNow(const Desk& desk) : desk_(desk) {}
  const Selected& get();

 private:
  struct MadeFrom {
    std::vector<Pick> picks;
    StepId step;
    std::shared_ptr<const Made> made;
    Document document;
    int openings = 0;  ///< the lists that were known
  };
  bool isUpToDate() const;
  Selected make() const;

  const Desk& desk_;
  std::optional<MadeFrom> from_;
  Selected selected_;
};

}  // namespace kervo::app
