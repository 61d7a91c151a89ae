// The verbs: one table for the menus, the Bench's offers and Find.
#pragma once

#include <QKeySequence>
#include <QString>
#include <functional>
#include <vector>

namespace kervo::app {

enum class MenuPlace { File, Edit, Draw, Cut, Surface, Check, View, Help };

/// Where a verb stands in the strip above the view: among its words, or in the list of what can be picked.
enum class StripPlace { None, Word, Pick };

struct Verb {
  QString key;   ///< "cut"
  QString text;  ///< "Cut"
  MenuPlace menu = MenuPlace::File;
  QString picture = {};  ///< of an icon; may be empty
  QKeySequence shortcut = {};
  QString help = {};
  std::function<void()> run = {};
  std::function<QString()> textNow = {};    ///< in the menu, if it says more: "Undo Cut"
  std::function<bool()> enabled = {};       ///< always, if empty
  std::function<bool()> offered = {};       ///< on the empty Bench; never, if empty
  std::function<QString()> offeredAs = {};  ///< its words there, if they differ
  std::function<bool()> checked = {};       ///< for what is on or off
  bool separatorBefore = false;
  bool sendsSectionOut = false;  ///< also offered beside a section on the Bench
  bool recentBefore = false;     ///< the files opened last stand before it in the menu
  StripPlace strip = StripPlace::None;
};

}  // namespace kervo::app
