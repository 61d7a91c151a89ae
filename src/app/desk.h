// What the parts of the window work on together.
#pragma once

#include "app/drawing/drawing_desk.h"
#include "app/opening_lists.h"
#include "app/sections/section_desk.h"
#include "app/selection.h"
#include "app/session.h"
#include "app/surface_looks.h"
#include "app/trial.h"
#include "app/worker.h"

namespace kervo::app {

struct Desk {
  Worker worker;
  Session session{worker};
  Selection selection;
  Trial trial{session, worker};
  DrawingDesk drawing{session, trial};
  SectionDesk sections{session, trial};
  SurfaceLooks surfaces{worker};
  OpeningLists openings{worker};

  /// The model and pictures that the view shows right now: what picks refer to.
  std::shared_ptr<const Model> shownModel;
  std::map<BodyId, Picture> shownPictures;
  /// The sections that are on where one works.
  std::vector<StepId> shownSections;
};

/// What a step of the document is called.
inline QString stepName(const Desk& desk, const Step& step) {
  return QString::fromStdString(desk.session.document().nameOf(step));
}

}  // namespace kervo::app
