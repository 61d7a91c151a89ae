#include "app/opening_lists.h"

#include <algorithm>

namespace kervo::app {

OpeningLists::OpeningLists(Worker& worker) : worker_(worker) {}

OpeningLists::List OpeningLists::of(const Picture& picture) {
  if (!picture || !picture->form.shape()) return nullptr;
  const auto found = known_.find(picture.get());
  if (found != known_.end() && found->second.picture.lock() == picture) return found->second.list;
  if (!asked_.insert(picture.get()).second) return nullptr;
  const auto store = [this, picture](List list) {
    asked_.erase(picture.get());
    forgetGone();
    known_[picture.get()] = {picture, std::move(list)};
    ++revision_;
    emit changed();
  };
  worker_.run(
      tr("Looking for openings"),
      [picture, store](Progress& progress) -> Worker::Then {
        progress.throwIfStopped();
        auto list = std::make_shared<const std::vector<Opening>>(openingsOf(*picture->form.shape()));
        return [store, list] { store(list); };
      },
      // A body that cannot be read has none that could be worked on; Check says what is wrong with it.
      [store](const std::optional<Error>&) { store(std::make_shared<const std::vector<Opening>>()); });
  return nullptr;
}

std::optional<int> OpeningLists::known(const Picture& picture, int face) const {
  const auto found = known_.find(picture.get());
  if (found == known_.end() || found->second.picture.lock() != picture) return std::nullopt;
  const std::vector<Opening>& list = *found->second.list;
  const auto opening = openingWith(list, face);
  if (!opening) return std::nullopt;
  const auto place =
      std::find_if(list.begin(), list.end(), [&](const Opening& each) { return each.faces == opening->faces; });
  return static_cast<int>(place - list.begin());
}

void OpeningLists::forgetGone() {
  std::erase_if(known_, [](const auto& each) { return each.second.picture.expired(); });
}

void OpeningLists::setNumbers(std::vector<MeasureMark> numbers) {
  const auto same = [](const MeasureMark& a, const MeasureMark& b) { return a.from == b.from && a.text == b.text; };
  if (std::equal(numbers.begin(), numbers.end(), numbers_.begin(), numbers_.end(), same)) return;
  numbers_ = std::move(numbers);
  emit numbersChanged();
}

}  // namespace kervo::app
