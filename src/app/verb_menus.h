// The menus, from the table of verbs.
#pragma once

#include <QMenuBar>

#include "app/files.h"
#include "app/verb_table.h"

namespace kervo::app {

class VerbMenus : public QMenuBar {
  Q_OBJECT
 public:
  /// `window` has the verbs' shortcuts, which work while the menus are closed.
  VerbMenus(const VerbTable& verbs, Files& files, QWidget* window);
  /// Draws the pictures again, in the look's colours.
  void redrawPictures();

 private:
  using Entry = std::pair<QAction*, const Verb*>;
  void addMenu(MenuPlace place, const QString& title, const VerbTable& verbs, QWidget* window);
  void addRecent(QMenu* menu, QAction* before);

  Files& files_;
  std::vector<Entry> all_;
};

}  // namespace kervo::app
