#include "app/bench/sections_editor.h"

#include <algorithm>

#include "app/selected.h"

namespace kervo::app {

namespace {

/// Picked again, a face is the same although its stored sample differs.
bool same(const SectionPick& a, const SectionPick& b) {
  if (a.kind != b.kind) return false;
  if (a.kind == SectionPick::Kind::Face) return a.face.body == b.face.body && a.face.name == b.face.name;
  return a == b;
}

}  // namespace

std::optional<PickFilter> SectionsEditor::filter() const {
  return PickFilter{false, true, true, true, true, false};
}

bool SectionsEditor::isEmpty() const {
  return valueAs<std::vector<SectionPick>>().empty();
}

QString SectionsEditor::nameOf(const SectionPick& section) const {
  switch (section.kind) {
    case SectionPick::Kind::Drawing: {
      const auto step = desk_.session.document().find(section.drawing);
      return step ? stepName(desk_, *step) : QString::fromStdString(section.drawing);
    }
    case SectionPick::Kind::Curve:
      return bodyName(desk_, section.curve);
    case SectionPick::Kind::Face:
      return faceName(desk_, section.face);
    case SectionPick::Kind::Point:
      return tr("point of %1").arg(bodyName(desk_, section.point.body));
  }
  return {};
}

void SectionsEditor::refresh() {
  QStringList names;
  int number = 0;
  for (const SectionPick& section : valueAs<std::vector<SectionPick>>())
    names << QStringLiteral("%1  %2").arg(++number).arg(nameOf(section));
  showChips(names);
}

QString SectionsEditor::prompt() const {
  return isEmpty() ? tr("pick the first one") : tr("+ the next one");
}

void SectionsEditor::toggle(const SectionPick& section) {
  auto sections = valueAs<std::vector<SectionPick>>();
  const auto found =
      std::find_if(sections.begin(), sections.end(), [&](const SectionPick& each) { return same(each, section); });
  if (found == sections.end())
    sections.push_back(section);
  else
    sections.erase(found);
  set(sections);
}

void SectionsEditor::take(const std::vector<Pick>& picks, bool) {
  for (const Pick& pick : picks) {
    const Picked meant = picked(pick, desk_);
    if (meant.what == Picked::What::Drawing)
      toggle(SectionPick::ofDrawing(meant.body.step()));
    else if (meant.bodyKind == BodyKind::Curve && !meant.body.empty())
      toggle(SectionPick::ofCurve(meant.body));
    else if (const auto face = faceReference(pick, desk_.shownPictures))
      toggle(SectionPick::of(*face));
    else if (!meant.points.empty())
      toggle(SectionPick::of(meant.points.front()));
  }
}

void SectionsEditor::remove(int chip) {
  auto sections = valueAs<std::vector<SectionPick>>();
  sections.erase(sections.begin() + chip);
  set(sections);
  if (!armed_) emit armWanted(this);
}

void SectionsEditor::fill(QMenu& menu) {
  const auto& chosen = valueAs<std::vector<SectionPick>>();
  const auto add = [&](const QString& text, const SectionPick& section) {
    QAction* action = menu.addAction(text);
    action->setCheckable(true);
    action->setChecked(
        std::any_of(chosen.begin(), chosen.end(), [&](const SectionPick& each) { return same(each, section); }));
    connect(action, &QAction::triggered, this, [this, section] { toggle(section); });
  };
  for (const auto& step : desk_.session.document().made.steps) {
    if (step->id() == desk_.trial.step().id()) break;
    if (step->kind().makes() == Makes::Drawing) add(stepName(desk_, *step), SectionPick::ofDrawing(step->id()));
  }
  for (const Body& body : bodiesBeforeStep(desk_))
    if (body.form.kind() == BodyKind::Curve) add(QString::fromStdString(body.name), SectionPick::ofCurve(body.id));
  if (chosen.size() < 2) return;
  menu.addSeparator();
  menu.addAction(tr("Turn the order round"), this, [this] {
    auto sections = valueAs<std::vector<SectionPick>>();
    std::reverse(sections.begin(), sections.end());
    set(sections);
  });
}

}  // namespace kervo::app
