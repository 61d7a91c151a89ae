// The verbs of the view: where one looks from, what is shown and picked, and where the keyboard goes.
#include <array>

#include "app/look.h"
#include "app/main_window.h"
#include "app/verb_table.h"

namespace kervo::app {

namespace {
/// Their keys, in the order of SurfaceShow.
constexpr std::array<const char*, 7> surfaceVerbs{"surfaces-plain", "surfaces-stripes",   "surfaces-curvature",
                                                  "surfaces-draft", "surfaces-thickness", "surfaces-gaps",
                                                  "surfaces-net"};
}  // namespace

Verb VerbTable::checkable(const char* key, const QString& text, const QKeySequence& keys, std::function<void()> run,
                          std::function<bool()> checked) {
  return {.key = key,
          .text = text,
          .menu = MenuPlace::View,
          .shortcut = keys,
          .run = std::move(run),
          .checked = std::move(checked)};
}

void VerbTable::addViewVerbs() {
  addLooks();
  addShown();
  addLevels();
  addPanes();
  addPlaces();
}

void VerbTable::addLooks() {
  Viewport& view = w_.view();
  const auto from = [&](const char* key, const QString& text, const char* keys, StandardView which) {
    add({.key = key,
         .text = text,
         .menu = MenuPlace::View,
         .picture = "view",
         .shortcut = QKeySequence(keys),
         .run = [&view, which] { view.look(which); },
         .strip = StripPlace::Word});
  };
  from("home", tr("Home"), "Ctrl+1", StandardView::Home);
  from("top", tr("Top"), "Ctrl+2", StandardView::Top);
  from("front", tr("Front"), "Ctrl+3", StandardView::Front);
  from("side", tr("Side"), "Ctrl+4", StandardView::Side);
  add({.key = "flip",
       .text = tr("Flip"),
       .menu = MenuPlace::View,
       .shortcut = QKeySequence("Ctrl+5"),
       .help = tr("From the opposite side"),
       .run = [&view] { view.flip(); },
       .strip = StripPlace::Word});
  add({.key = "keep-view",
       .text = tr("Keep this view …"),
       .menu = MenuPlace::View,
       .shortcut = QKeySequence("Ctrl+Alt+K"),
       .help = tr("Camera, visible bodies, sections and look, under a name"),
       .run = [this] { w_.views().keep(); }});
  add({.key = "fit",
       .text = tr("Fit all"),
       .menu = MenuPlace::View,
       .shortcut = QKeySequence("Ctrl+0"),
       .run = [&view] { view.fit(); }});
  add({.key = "fit-selection",
       .text = tr("Fit selection"),
       .menu = MenuPlace::View,
       .shortcut = QKeySequence("Ctrl+9"),
       .run = [&view] { view.fitSelection(); }});
}

void VerbTable::addShown() {
  Viewport& view = w_.view();
  const auto style = [&](const char* key, const QString& text, DrawStyle which) -> Verb& {
    Verb& verb = add(checkable(
        key, text, {}, [&view, which] { view.setStyle(which); }, [&view, which] { return view.style() == which; }));
    verb.strip = StripPlace::Word;
    return verb;
  };
  style("shaded", tr("Shaded + edges"), DrawStyle::ShadedEdges).separatorBefore = true;
  style("clear", tr("Clear"), DrawStyle::Clear);
  style("lines", tr("Lines"), DrawStyle::Lines);
  for (const auto& [what, word] : SurfacesPanel::choices()) {
    const bool isNothing = what == SurfaceShow::Nothing;
    Verb& verb = add(checkable(
        surfaceVerbs[static_cast<std::size_t>(what)],
        isNothing ? tr("Surfaces as they are") : tr("Surfaces: %1").arg(word),
        QKeySequence(what == SurfaceShow::Stripes ? "Ctrl+Alt+Z" : ""),
        [this, what] {
          SurfaceLooks& surfaces = desk_.surfaces;
          surfaces.show(surfaces.shown() == what ? SurfaceShow::Nothing : what);
        },
        [this, what] { return desk_.surfaces.shown() == what; }));
    verb.separatorBefore = isNothing;
  }
  add(checkable(
          "all-badges", tr("All badges"), QKeySequence("Ctrl+Shift+A"),
          [&view] { view.setAllBadges(!view.allBadges()); }, [&view] { return view.allBadges(); }))
      .help = tr("Of many pieces, also the badges that would hide the bodies");
  add(checkable(
      "perspective", tr("Perspective"), QKeySequence("Ctrl+6"),
      [&view] {
        view.setProjection(view.projection() == Projection::Parallel ? Projection::Perspective : Projection::Parallel);
      },
      [&view] { return view.projection() == Projection::Perspective; }));
  const auto pick = [&](const char* key, const QString& text, const PickFilter& filter) -> Verb& {
    Verb& verb = add(checkable(
        key, text, {}, [this, filter] { w_.stage().setFilter(filter); },
        [this, filter] { return w_.stage().filter() == filter; }));
    verb.strip = StripPlace::Pick;
    return verb;
  };
  pick("pick-anything", tr("Pick anything"), {}).separatorBefore = true;
  pick("pick-bodies", tr("Pick bodies"), {true, true, false, false, false, false});
  pick("pick-faces", tr("Pick faces"), {false, true, false, false, false, false});
  pick("pick-edges", tr("Pick edges"), {false, false, true, false, false, false});
  pick("pick-points", tr("Pick points"), {false, false, false, true, false, false});
}

void VerbTable::addLevels() {
  const auto any = [this] { return w_.levels().anyLevel(); };
  Verb& plan = add(checkable(
      "plan", tr("Plan"), QKeySequence("Ctrl+Alt+L"), [this] { w_.levels().setPlan(!w_.levels().planIsOn()); },
      [this] { return w_.levels().planIsOn(); }));
  plan.help = tr("Straight down, cut 1.2 m above the working level, with what lies above and below as fine lines");
  plan.enabled = any;
  plan.separatorBefore = true;
  const auto go = [&](const char* key, const QString& text, const char* keys, int up) {
    add({.key = key,
         .text = text,
         .menu = MenuPlace::View,
         .shortcut = QKeySequence(keys),
         .help = tr("Makes the next one the working level"),
         .run = [this, up] { w_.levels().go(up); },
         .enabled = any});
  };
  go("level-up", tr("Level above"), "Ctrl+PgUp", 1);
  go("level-down", tr("Level below"), "Ctrl+PgDown", -1);
  const auto show = [&](const char* key, const QString& text, LevelSight::Show what) {
    add(checkable(
            key, text, {}, [this, what] { w_.levels().show(what); },
            [this, what] { return w_.levels().shown() == what; }))
        .enabled = any;
  };
  show("levels-all", tr("All levels"), LevelSight::Show::All);
  show("levels-below", tr("Working level, those below faded"), LevelSight::Show::Below);
  show("levels-only", tr("Working level only"), LevelSight::Show::Only);
}

void VerbTable::addPanes() {
  ViewPanes& panes = w_.panes();
  // The key that divides it makes it whole again.
  const auto divided = [&](const char* key, const QString& text, const char* keys, int count) -> Verb& {
    return add(checkable(
        key, text, QKeySequence(keys), [&panes, count] { panes.divide(panes.count() == count ? 1 : count); },
        [&panes, count] { return panes.count() == count; }));
  };
  Verb& two = divided("panes-2", tr("Two panes"), "Ctrl+7", 2);
  two.separatorBefore = true;
  two.help = tr("Each with its own camera, look and sections: draw in one, watch in the other");
  divided("panes-4", tr("Four panes"), "Ctrl+8", 4);
  add({.key = "next-pane",
       .text = tr("Go to the next pane"),
       .menu = MenuPlace::View,
       .shortcut = QKeySequence("Ctrl+Alt+P"),
       .run = [&panes] { panes.activateNext(); },
       .enabled = [&panes] { return panes.count() > 1; }});
}

void VerbTable::addPlaces() {
  const auto fold = [&](const char* key, const QString& text, const char* keys,
                        const std::function<QWidget*()>& part) -> Verb& {
    Verb& verb = add(checkable(
        key, text, QKeySequence(keys), [part] { part()->setVisible(part()->isHidden()); },
        [part] { return !part()->isHidden(); }));
    verb.help = tr("Show or fold away");
    return verb;
  };
  fold("panel-left", tr("Cut list and Dimensions"), "F7", [this] { return w_.sides().widget(0); }).separatorBefore =
      true;
  fold("panel-right", tr("Bodies and Measure"), "F8", [this] { return w_.sides().widget(2); });
  fold("panel-bench", tr("Bench"), "F9", [this] { return &w_.bench(); });
  const auto colours = [&](const char* key, const QString& text, LookChoice choice) -> Verb& {
    return add(checkable(
        key, text, {}, [choice] { chooseLook(choice); }, [choice] { return lookChoice() == choice; }));
  };
  colours("look-desktop", tr("Colours of the desktop"), LookChoice::FollowDesktop).separatorBefore = true;
  colours("look-light", tr("Light colours"), LookChoice::Light);
  colours("look-dark", tr("Dark colours"), LookChoice::Dark);
  const auto go = [&](const char* key, const QString& text, const char* keys, std::function<void()> run) -> Verb& {
    return add(
        {.key = key, .text = text, .menu = MenuPlace::View, .shortcut = QKeySequence(keys), .run = std::move(run)});
  };
  go("go-cut-list", tr("Go to the Cut list"), "Alt+1", [this] { w_.cutList().sheet()->setFocus(); }).separatorBefore =
      true;
  go("go-dimensions", tr("Go to the Dimensions"), "Alt+2", [this] { w_.dimensions().sheet()->setFocus(); });
  go("go-levels", tr("Go to the Levels"), "Alt+0", [this] {
    w_.levels().setFolded(false);
    w_.levels().sheet()->setFocus();
  });
  go("go-view", tr("Go to the view"), "Alt+3", [this] { w_.view().setFocus(); });
  go("go-bodies", tr("Go to the Bodies"), "Alt+4", [this] {
    // While a drawing is on the Bench its curves stand there.
    if (desk_.drawing.open())
      w_.drawing().list()->setFocus();
    else
      w_.bodies().sheet()->setFocus();
  });
  go("go-bench", tr("Go to the Bench"), "Alt+5", [this] { w_.bench().focusFirst(); });
  go("go-surfaces", tr("Go to Show on surfaces"), "Alt+8", [this] {
    w_.surfaces().setFolded(false);
    w_.surfaces().buttons()->checkedButton()->setFocus(Qt::OtherFocusReason);
  });
  go("go-openings", tr("Go to the Openings"), "Alt+9", [this] { w_.openings().focusList(); });
  go("go-sections", tr("Go to the Sections"), "Alt+6", [this] { w_.sections().focusList(); });
  go("go-views", tr("Go to the Views"), "Alt+7", [this] { w_.views().focusFirst(); });
}

}  // namespace kervo::app
