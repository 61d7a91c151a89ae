#include "app/find_entries.h"

#include "app/main_window.h"

namespace kervo::app {

std::vector<FindEntry> findEntries(MainWindow& window) {
  Desk& desk = window.desk();
  std::vector<FindEntry> entries;
  for (const Verb& verb : window.verbs())
    entries.push_back({verb.text, QObject::tr("verb"), verb.picture.isEmpty() ? "view" : verb.picture,
                       verb.shortcut.toString(QKeySequence::NativeText), !verb.enabled || verb.enabled(), verb.run});
  for (const Body& body : desk.session.made()->model->bodies)
    entries.push_back(
        {QString::fromStdString(body.name), QObject::tr("body"), "body", {}, true, [&window, id = body.id] {
           window.desk().selection.set({{Pick::Kind::Body, id, 0}});
           window.view().fitSelection();
         }});
  for (const Guide& guide : desk.session.made()->model->guides)
    entries.push_back({QString::fromStdString(guide.name),
                       QString(guide.kindName()),
                       guide.kindName(),
                       {},
                       true,
                       [&window, id = guide.id] {
                         window.desk().selection.set({{Pick::Kind::Guide, id, 0}});
                         window.view().fitSelection();
                       }});
  for (const auto& step : desk.session.document().made.steps)
    entries.push_back({stepName(desk, *step), QObject::tr("step"), "step", {}, true, [&window, id = step->id()] {
                         window.desk().selection.setStep(id);
                         window.cutList().sheet()->setFocus();
                       }});
  for (const DimensionRow& row : desk.session.document().made.dimensions)
    entries.push_back(
        {QString::fromStdString(row.name),
         QObject::tr("dimension"),
         "dimension",
         {},
         true,
         [&window, name = QString::fromStdString(row.name)] { window.dimensions().editDimension(name); }});
  for (const Level& level : desk.session.document().made.levels)
    entries.push_back(
        {QString::fromStdString(level.name), QObject::tr("level"), "plane", {}, true, [&window, name = level.name] {
           window.levels().editLevel(name);
         }});
  return entries;
}

}  // namespace kervo::app
