// Editors of lists of faces, edges and points.
#pragma once

#include <algorithm>

#include "app/bench/pick_editors.h"
#include "fields/edges_field.h"
#include "fields/faces_field.h"
#include "fields/points_field.h"

namespace kervo::app {

/// Chips of several references. A click on one that is there takes it out; a box only adds.
template <class Reference>
class ReferencesEditor : public PickEditor {
 public:
  using PickEditor::PickEditor;

  bool isEmpty() const override { return list().empty(); }
  void refresh() override {
    QStringList names;
    for (const Reference& reference : list()) names << nameOf(reference);
    showChips(names);
  }
  void take(const std::vector<Pick>& picks, bool) override {
    std::vector<Reference> now = list();
    for (const Pick& pick : picks)
      if (const auto reference = referenceTo(pick)) put(now, *reference, picks.size() == 1);
    set(now);
  }

 protected:
  const std::vector<Reference>& list() const { return valueAs<std::vector<Reference>>(); }
  virtual std::optional<Reference> referenceTo(const Pick& pick) const = 0;
  virtual QString nameOf(const Reference& reference) const = 0;
  /// Adds what a body has to the list for the keyboard: those of large bodies are found in the view.
  virtual std::vector<Reference> partsOf(const BodyId& body, const BodyPicture& picture, std::size_t most) const = 0;

 private:
  static void put(std::vector<Reference>& list, const Reference& reference, bool toggled) {
    const auto found = std::find(list.begin(), list.end(), reference);
    if (found == list.end())
      list.push_back(reference);
    else if (toggled)
      list.erase(found);
  }
  void remove(int chip) override {
    std::vector<Reference> now = list();
    now.erase(now.begin() + chip);
    set(now);
  }
  void fill(QMenu& menu) override {
    constexpr std::size_t most = 60;
    menu.addAction(QObject::tr("Take all out"), this, [this] { set(std::vector<Reference>{}); });
    if (!desk_.trial.result()) return;
    for (const auto& [id, picture] : desk_.trial.result()->picturesBefore) {
      QMenu* parts = menu.addMenu(bodyName(desk_, id));
      for (const Reference& reference : partsOf(id, *picture, most))
        parts->addAction(nameOf(reference), this, [this, reference] {
          std::vector<Reference> now = list();
          put(now, reference, true);
          set(now);
        });
    }
  }
};

class FacesEditor : public ReferencesEditor<FaceReference> {
  Q_OBJECT
 public:
  using ReferencesEditor::ReferencesEditor;
  std::optional<PickFilter> filter() const override { return PickFilter{false, true, false, false, false}; }

 private:
  QString prompt() const override { return isEmpty() ? tr("pick faces") : tr("+ more faces"); }
  std::optional<FaceReference> referenceTo(const Pick& pick) const override;
  QString nameOf(const FaceReference& face) const override;
  std::vector<FaceReference> partsOf(const BodyId& body, const BodyPicture& picture, std::size_t most) const override;
};

class EdgesEditor : public ReferencesEditor<EdgeReference> {
  Q_OBJECT
 public:
  using ReferencesEditor::ReferencesEditor;
  std::optional<PickFilter> filter() const override { return PickFilter{false, false, true, false, false}; }

 private:
  QString prompt() const override { return tr("+ pick edges"); }
  std::optional<EdgeReference> referenceTo(const Pick& pick) const override;
  QString nameOf(const EdgeReference& edge) const override;
  std::vector<EdgeReference> partsOf(const BodyId& body, const BodyPicture& picture, std::size_t most) const override;
};

class PointsEditor : public ReferencesEditor<PointReference> {
  Q_OBJECT
 public:
  using ReferencesEditor::ReferencesEditor;
  std::optional<PickFilter> filter() const override { return PickFilter{false, false, false, true, true}; }

 private:
  QString prompt() const override { return isEmpty() ? tr("pick corners") : tr("+ more corners"); }
  std::optional<PointReference> referenceTo(const Pick& pick) const override;
  QString nameOf(const PointReference& point) const override;
  std::vector<PointReference> partsOf(const BodyId& body, const BodyPicture& picture, std::size_t most) const override;
};

}  // namespace kervo::app
