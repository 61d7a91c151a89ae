// Verbs that open the demos.
#include "app/main_window.h"
#include "app/verb_table.h"

namespace kervo::app {

void VerbTable::addDemoVerbs() {
  const auto atTheStart = [this] { return nothing() && emptyDocument(); };
  add({.key = "demo",
       .text = tr("Open demo"),
       .menu = MenuPlace::File,
       .picture = "body",
       .help = tr("The mast clamp of the weather station"),
       .run = [this] { w_.files().openDemo("mast-clamp"); },
       .offered = atTheStart});
  add({.key = "demo-crate",
       .text = tr("Open demo: battery crate"),
       .menu = MenuPlace::File,
       .picture = "group",
       .help = tr("An assembly: bolts that cut their own holes, a shielded sleeve, half of it for a study"),
       .run = [this] { w_.files().openDemo("battery-crate"); },
       .offered = atTheStart,
       .offeredAs = [] { return tr("Open the crate demo"); },
       .separatorBefore = true});
  struct Demo {
    const char* file;
    const char* picture;
    QString text, help;
  };
  for (const Demo& demo :
       {Demo{"wind-vane", "drawing", tr("Open demo: wind vane"), tr("A turned hub whose slot is yours to finish")},
        Demo{"watch-hut", "section", tr("Open demo: watch hut"), tr("A building of three storeys with kept views")},
        Demo{"sensor-pod", "loft", tr("Open demo: sensor pod"), tr("A shell of surfaces, trimmed, bridged and sewn")},
        Demo{"pod-shell", "key", tr("Open demo: shell of the pod"), tr("Two parts, keyed, marked in two colours")},
        Demo{"lamp-housing", "hollow", tr("Open demo: lamp housing"),
             tr("Hollowed out, split, keyed, drilled, marked")},
        Demo{"winch-handle", "mould", tr("Open demo: winch handle"), tr("A mould in two halves, and a thread")},
        Demo{"mooring-float", "make_mesh", tr("Open demo: mooring float"),
             tr("A scanned mesh: repaired, split and pegged by an exact cylinder")},
        Demo{"float-parts", "build_size", tr("Open demo: float in parts"),
             tr("A scan hollowed out, drained, cut for a printer; takes some seconds")}})
    add({.key = QStringLiteral("demo-%1").arg(demo.file),
         .text = demo.text,
         .menu = MenuPlace::File,
         .picture = demo.picture,
         .help = demo.help,
         .run = [this, file = QString(demo.file)] { w_.files().openDemo(file); }});
}

}  // namespace kervo::app
