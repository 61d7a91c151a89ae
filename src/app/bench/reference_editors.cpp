#include "app/bench/reference_editors.h"

#include <algorithm>

namespace kervo::app {

namespace {

constexpr std::size_t mostListed = 60;

template <class T, class Same>
void toggleIn(std::vector<T>& list, const T& item, Same&& same) {
  const auto found = std::find_if(list.begin(), list.end(), [&](const T& each) { return same(each, item); });
  if (found == list.end())
    list.push_back(item);
  else
    list.erase(found);
}

}  // namespace

std::optional<PickFilter> FacesEditor::filter() const {
  return PickFilter{false, true, false, false};
}

bool FacesEditor::isEmpty() const {
  return valueAs<std::vector<FaceReference>>().empty();
}

void FacesEditor::refresh() {
  QStringList names;
  for (const FaceReference& face : valueAs<std::vector<FaceReference>>()) names << faceName(desk_, face);
  showChips(names);
}

QString FacesEditor::prompt() const {
  return isEmpty() ? tr("pick faces") : tr("+ more faces");
}

void FacesEditor::take(const std::vector<Pick>& picks, bool) {
  auto faces = valueAs<std::vector<FaceReference>>();
  for (const Pick& pick : picks)
    if (const auto face = faceReference(pick, desk_.shownPictures))
      toggleIn(faces, *face, [](const FaceReference& a, const FaceReference& b) {
        return a.body == b.body && a.name == b.name && a.sample == b.sample;
      });
  set(faces);
}

void FacesEditor::remove(int chip) {
  auto faces = valueAs<std::vector<FaceReference>>();
  faces.erase(faces.begin() + chip);
  set(faces);
}

void FacesEditor::fill(QMenu& menu) {
  if (!desk_.trial.result()) return;
  for (const auto& [id, picture] : desk_.trial.result()->picturesBefore) {
    QMenu* faces = menu.addMenu(bodyName(desk_, id));
    for (std::size_t i = 0; i < picture->faces.size() && i < mostListed; ++i) {
      QAction* action = faces->addAction(faceName(desk_, referenceTo(id, picture->faces[i])));
      connect(action, &QAction::triggered, this, [this, id = id, i] {
        take({{Pick::Kind::Face, id, static_cast<int>(i)}}, true);
      });
    }
  }
}

std::optional<PickFilter> PointsEditor::filter() const {
  return PickFilter{false, false, false, true};
}

bool PointsEditor::isEmpty() const {
  return valueAs<std::vector<PointReference>>().empty();
}

void PointsEditor::refresh() {
  QStringList names;
  for (const PointReference& point : valueAs<std::vector<PointReference>>()) {
    const QString at = point.sample ? placeText(*point.sample, desk_.session.document().made.unit) : tr("corner");
    names << tr("%1 of %2").arg(at, bodyName(desk_, point.body));
  }
  showChips(names);
}

QString PointsEditor::prompt() const {
  return isEmpty() ? tr("pick corners") : tr("+ more corners");
}

void PointsEditor::toggle(const PointReference& point) {
  auto points = valueAs<std::vector<PointReference>>();
  toggleIn(points, point, [](const PointReference& a, const PointReference& b) { return a == b; });
  set(points);
}

void PointsEditor::take(const std::vector<Pick>& picks, bool) {
  for (const Pick& pick : picks)
    if (const auto point = pointReference(pick, desk_.shownPictures)) toggle(*point);
}

void PointsEditor::remove(int chip) {
  auto points = valueAs<std::vector<PointReference>>();
  points.erase(points.begin() + chip);
  set(points);
}

void PointsEditor::fill(QMenu& menu) {
  if (!desk_.trial.result()) return;
  for (const auto& [id, picture] : desk_.trial.result()->picturesBefore) {
    QMenu* corners = menu.addMenu(bodyName(desk_, id));
    for (std::size_t i = 0; i < picture->corners.size() && i < mostListed; ++i) {
      const Corner& corner = picture->corners[i];
      QAction* action = corners->addAction(placeText(corner.point, desk_.session.document().made.unit));
      connect(action, &QAction::triggered, this, [this, reference = referenceTo(id, corner)] { toggle(reference); });
    }
  }
}

}  // namespace kervo::app
