// Verbs for what leaves for a shop: sheets, sections and views at scale, and prints played before they are made.
#include "app/main_window.h"
#include "app/verb_table.h"

namespace kervo::app {

void VerbTable::addShopVerbs() {
  add({.key = "sheets",
       .text = tr("Cut sheets …"),
       .menu = MenuPlace::Check,
       .picture = "slices",
       .help = tr("Planar surfaces, such as slices, laid out on sheets for a cutter"),
       .run = [this] { w_.openSheets(); },
       .enabled = [this] { return anySurface(); },
       .separatorBefore = true});
  add({.key = "draw-section",
       .text = tr("Draw a section …"),
       .menu = MenuPlace::Check,
       .picture = "section",
       .help = tr("A section at scale as DXF, SVG, PDF or PNG"),
       .run = [this] { w_.openSectionOut(); },
       .enabled = [this] { return !desk_.session.document().seen.sections.empty(); },
       .sendsSectionOut = true});
  add({.key = "draw-view",
       .text = tr("Draw a view …"),
       .menu = MenuPlace::Check,
       .picture = "view",
       .help = tr("A kept view at scale with its hidden edges, as DXF, SVG, PDF or PNG"),
       .run = [this] { w_.openViewOut(); },
       .enabled = [this] { return anyBody(); },
       .sendsSectionOut = true});
  add({.key = "play-print",
       .text = tr("Play a print …"),
       .menu = MenuPlace::Check,
       .picture = "slices",
       .help = tr("A written 3MF or STL file in the simulated printer, layer by layer"),
       .run = [this] { w_.openPrint(); }});
}

}  // namespace kervo::app
