// Bodies that sections by closed bodies cut open, and where two of them fill one place of such a cut face.
#pragma once

#include <map>
#include <memory>
#include <optional>
#include <set>
#include <string>
#include <vector>

#include "base/error.h"
#include "model/model.h"
#include "view/opened_picture.h"
#include "view/scene.h"

namespace kervo::app {

using Picture = std::shared_ptr<const BodyPicture>;

/// What closed bodies leave to be seen of a body.
struct Opened {
  std::vector<StepId> by;                        ///< the sections that cut it
  std::shared_ptr<const OpenedPicture> picture;  ///< null: it could not be cut
  std::vector<OpenedOverlap> overlaps = {};
};

/// … of all bodies, for all sets of sections that are looked at.
struct Openings {
  std::map<std::pair<BodyId, const BodyPicture*>, std::vector<Opened>> bodies;
  std::map<BodyId, Error> failed;  ///< bodies that a section could not cut, and why

  /// How a body looks while those sections are on; null where none of them cuts it, or it could not be cut.
  const Opened* find(const BodyId& body, const BodyPicture* whole, const std::vector<StepId>& on) const;
};

/// A body of which closed bodies may take something out of sight.
struct Openable {
  BodyId id;
  std::string layer;
  Picture picture;
};

/// Sections that are seen together.
using SectionSet = std::vector<StepId>;

/// Finds them, and keeps what it found until nothing uses it any more. For one thread.
class Opener {
 public:
  /// `sets`: what is looked at beside the sections that are on. `overlaps`: also those that are not known yet.
  Openings open(const std::vector<Openable>& bodies, const std::vector<StepReport>& sections,
                const std::vector<SectionSet>& sets, bool overlaps, Progress& progress);
  /// What open() does not ask for until the next call of this is forgotten then.
  void forgetUnused();

 private:
  struct Known {
    Picture whole;
    std::vector<OpenedBy> by;
    std::shared_ptr<const OpenedPicture> opened;
    std::optional<Error> error;
    bool used = true;
  };
  struct KnownOverlap {
    std::shared_ptr<const OpenedPicture> opened;
    Picture other;
    std::vector<OpenedOverlap> overlaps;
    bool used = true;
  };
  Known& opened(const Openable& body, const std::vector<OpenedBy>& by, Progress& progress);
  KnownOverlap* overlap(const std::shared_ptr<const OpenedPicture>& opened, const Openable& other, bool find,
                        Progress& progress);

  std::vector<std::unique_ptr<Known>> known_;
  std::vector<std::unique_ptr<KnownOverlap>> overlaps_;
};

}  // namespace kervo::app
