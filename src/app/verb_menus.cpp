#include "app/verb_menus.h"

#include <QFileInfo>
#include <QMenu>

#include "app/icons.h"

namespace kervo::app {

VerbMenus::VerbMenus(const VerbTable& verbs, Files& files, QWidget* window) : files_(files) {
  setNativeMenuBar(false);
  addMenu(MenuPlace::File, tr("&File"), verbs, window);
  addMenu(MenuPlace::Edit, tr("&Edit"), verbs, window);
  addMenu(MenuPlace::Draw, tr("&Draw"), verbs, window);
  addMenu(MenuPlace::Cut, tr("&Cut"), verbs, window);
  addMenu(MenuPlace::Surface, tr("&Surface"), verbs, window);
  addMenu(MenuPlace::Check, tr("C&heck"), verbs, window);
  addMenu(MenuPlace::View, tr("&View"), verbs, window);
  addMenu(MenuPlace::Help, tr("He&lp"), verbs, window);
}

void VerbMenus::addMenu(MenuPlace place, const QString& title, const VerbTable& verbs, QWidget* window) {
  QMenu* menu = QMenuBar::addMenu(title);
  std::vector<Entry> entries;
  for (const Verb& verb : verbs.verbs()) {
    if (verb.menu != place) continue;
    if (verb.separatorBefore) menu->addSeparator();
    QAction* action = menu->addAction(verb.text, window, verb.run);
    if (!verb.picture.isEmpty()) action->setIcon(icon(verb.picture));
    action->setShortcut(verb.shortcut);
    action->setStatusTip(verb.help);
    action->setCheckable(bool(verb.checked));
    action->setObjectName(verb.key);
    window->addAction(action);
    entries.emplace_back(action, &verb);
  }
  connect(menu, &QMenu::aboutToShow, this, [entries] {
    for (const auto& [action, verb] : entries) {
      action->setEnabled(!verb->enabled || verb->enabled());
      if (verb->checked) action->setChecked(verb->checked());
      if (verb->textNow) action->setText(verb->textNow());
    }
  });
  // While closed, a shortcut must not be dead because of what was selected when the menu was last open.
  connect(menu, &QMenu::aboutToHide, this, [entries] {
    for (const auto& [action, verb] : entries) action->setEnabled(true);
  });
  for (const auto& [action, verb] : entries)
    if (verb->recentBefore) addRecent(menu, action);
  all_.insert(all_.end(), entries.begin(), entries.end());
}

void VerbMenus::addRecent(QMenu* menu, QAction* before) {
  auto* recent = new QMenu(tr("Open recent"), menu);
  menu->insertMenu(before, recent);
  connect(recent, &QMenu::aboutToShow, this, [this, recent] {
    recent->clear();
    for (const QString& path : files_.recent())
      recent->addAction(QStringLiteral("%1   %2").arg(QFileInfo(path).fileName(), QFileInfo(path).absolutePath()), this,
                        [this, path] { files_.open(path); });
    if (recent->isEmpty()) recent->addAction(tr("nothing yet"))->setEnabled(false);
  });
}

void VerbMenus::redrawPictures() {
  for (const auto& [action, verb] : all_)
    if (!verb->picture.isEmpty()) action->setIcon(icon(verb->picture));
}

}  // namespace kervo::app
