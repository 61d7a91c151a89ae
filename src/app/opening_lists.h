// The openings of the bodies that are shown, found in the worker when they are first asked for.
#pragma once

#include <QObject>
#include <map>
#include <memory>
#include <optional>
#include <set>
#include <vector>

#include "app/worker.h"
#include "geom/openings/openings.h"
#include "view/overlay.h"

namespace kervo::app {

class OpeningLists : public QObject {
  Q_OBJECT
 public:
  explicit OpeningLists(Worker& worker);

  using List = std::shared_ptr<const std::vector<Opening>>;
  /// Those of a picture's body; null while they are being found, or if they cannot be.
  List of(const Picture& picture);
  /// The number of the opening that a face lies in, if the list is known already.
  std::optional<int> known(const Picture& picture, int face) const;
  /// Grows whenever a list becomes known.
  int revision() const { return revision_; }

  /// The numbers of the openings that are listed, where they are.
  const std::vector<MeasureMark>& numbers() const { return numbers_; }
  void setNumbers(std::vector<MeasureMark> numbers);

 signals:
  void changed();
  void numbersChanged();

 private:
  struct Known {
    std::weak_ptr<const BodyPicture> picture;
    List list;
  };
  void forgetGone();

  Worker& worker_;
  std::map<const BodyPicture*, Known> known_;
  std::set<const BodyPicture*> asked_;
  int revision_ = 0;
  std::vector<MeasureMark> numbers_;
};

}  // namespace kervo::app
