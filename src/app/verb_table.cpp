#include <QAction>

#include "app/look.h"
#include "app/main_window.h"
#include "app/step_verbs.h"
#include "base/error.h"
#include "exchange/formats.h"
#include "steps/registry.h"

namespace kervo::app {

namespace {

/// What the table's rules ask about the selection.
struct Asked {
  Desk& desk;

  bool nothing() const { return desk.selection.empty(); }
  /// A body, or any part of one.
  bool body() const { return !desk.selection.bodies().empty(); }
  /// A body, datum or drawing.
  bool anything() const { return !desk.selection.picks().empty(); }
  bool anyBody() const { return !desk.session.made()->model->bodies.empty(); }
  bool damaged() const {
    const auto& bodies = desk.session.made()->model->bodies;
    return std::any_of(bodies.begin(), bodies.end(), [](const Body& body) { return body.form.hasFlawedFaces(); });
  }
  bool step() const { return desk.session.document().find(desk.selection.step()) != nullptr; }
  /// A step that can be opened and closed.
  bool openable() const {
    const auto step = desk.session.document().find(desk.selection.step());
    return step && step->kind().table().opens;
  }
  bool emptyDocument() const { return desk.session.document().made.steps.empty(); }
};

MenuPlace placeOf(KindMenu menu) {
  switch (menu) {
    case KindMenu::Cut:
      return MenuPlace::Cut;
    case KindMenu::Surface:
      return MenuPlace::Surface;
    case KindMenu::Arrange:
      return MenuPlace::Edit;
    case KindMenu::Check:
      return MenuPlace::Check;
    case KindMenu::Draw:
    case KindMenu::Hidden:
      break;
  }
  return MenuPlace::Draw;
}

QString text(const std::string& text) {
  return QString::fromStdString(text);
}

/// The verbs of the kinds of step in some menus, from their tables.
void addKinds(std::vector<Verb>& verbs, MainWindow& w, std::initializer_list<KindMenu> menus) {
  Desk& desk = w.desk();
  const auto selected = w.selected();
  const auto anyBody = [selected] { return selected->get().anyBody; };
  for (const StepKind* kind : allStepKinds().all()) {
    const KindTable& table = kind->table();
    if (std::find(menus.begin(), menus.end(), table.menu) == menus.end()) continue;
    if (const auto& first = table.drawFirst)
      verbs.push_back({text(first->key), text(first->label), placeOf(table.menu), text(table.key),
                       QKeySequence(text(first->shortcut)), text(first->help),
                       [&desk, kind, selected] { drawFirst(desk, *kind, selected->get()); }, anyBody,
                       [selected] { return selected->get().planarFace() != nullptr; },
                       [words = text(first->offered)] { return words; }});
    verbs.push_back({text(table.key), text(table.verb.empty() ? table.label : table.verb), placeOf(table.menu),
                     text(table.key), QKeySequence(text(table.shortcut)), text(table.help),
                     [&desk, kind, selected] { startStep(desk, *kind, selected->get()); },
                     table.needsBodies ? std::function<bool()>(anyBody) : nullptr,
                     [kind, selected] { return kind->offered(selected->get()).has_value(); },
                     [kind, selected] { return text(kind->offered(selected->get()).value_or(kind->label())); }});
    verbs.back().separatorBefore = table.startsGroup;
  }
}

void addFileVerbs(std::vector<Verb>& verbs, MainWindow& w) {
  const Asked is{w.desk()};
  verbs.push_back({"new", "New", MenuPlace::File, "new", QKeySequence::New, "An empty document",
                   [&w] { w.files().newDocument(); }});
  verbs.push_back({"open",
                   "Open …",
                   MenuPlace::File,
                   "open",
                   QKeySequence::Open,
                   "A Kervo document, or a file with bodies",
                   [&w] { w.files().open(); },
                   {},
                   [is] { return is.nothing() && is.emptyDocument(); }});
  verbs.push_back({"save", "Save", MenuPlace::File, "save", QKeySequence::Save, "", [&w] { w.files().save(); }});
  verbs.back().separatorBefore = true;
  verbs.push_back(
      {"save-as", "Save as …", MenuPlace::File, "", QKeySequence("Ctrl+Shift+S"), "", [&w] { w.files().saveAs(); }});
  verbs.push_back({"bring-in",
                   "Bring in …",
                   MenuPlace::File,
                   "bring-in",
                   QKeySequence("Ctrl+I"),
                   QString("Bodies from a %1 file").arg(QString::fromStdString(namesOfBodyFormats(Direction::Read))),
                   [&w] { w.files().bringIn(); },
                   {},
                   [is] { return is.nothing(); }});
  verbs.back().separatorBefore = true;
  verbs.push_back({"send-out", "Send out …", MenuPlace::File, "send-out", QKeySequence("Ctrl+E"),
                   QString("All bodies to a %1 file").arg(QString::fromStdString(namesOfBodyFormats(Direction::Write))),
                   [&w] { w.files().sendOut(); }, [is] { return is.anyBody(); }});
  verbs.push_back({"demo",
                   "Open demo",
                   MenuPlace::File,
                   "body",
                   {},
                   "The mast clamp of the weather station",
                   [&w] { w.files().openDemo("mast-clamp"); },
                   {},
                   [is] { return is.nothing() && is.emptyDocument(); }});
  verbs.push_back({"demo-crate",
                   "Open demo: battery crate",
                   MenuPlace::File,
                   "group",
                   {},
                   "An assembly: bolts that cut their own holes, a shielded sleeve, half of it for a study",
                   [&w] { w.files().openDemo("battery-crate"); },
                   {},
                   [is] { return is.nothing() && is.emptyDocument(); },
                   [] { return QString("Open the crate demo"); }});
  verbs.back().separatorBefore = true;
  verbs.push_back({"quit", "Quit", MenuPlace::File, "", QKeySequence::Quit, "", [&w] { w.quit(); }});
  verbs.back().separatorBefore = true;
}

void addEditVerbs(std::vector<Verb>& verbs, MainWindow& w) {
  const Asked is{w.desk()};
  Desk& desk = w.desk();
  const auto selectedStep = [&desk] { return desk.selection.step(); };
  verbs.push_back({"undo", "Undo", MenuPlace::Edit, "undo", QKeySequence::Undo, "", [&desk] { desk.session.undo(); },
                   [&desk] { return desk.session.canUndo(); }});
  verbs.push_back({"redo", "Redo", MenuPlace::Edit, "redo", QKeySequence("Ctrl+Shift+Z"), "",
                   [&desk] { desk.session.redo(); }, [&desk] { return desk.session.canRedo(); }});
  verbs.push_back({"edit-step", "Edit on the Bench", MenuPlace::Edit, "edit", QKeySequence("Ctrl+Return"), "",
                   [&desk, selectedStep] { desk.trial.edit(selectedStep()); }, [is] { return is.step(); },
                   [is] { return is.step(); }});
  verbs.back().separatorBefore = true;
  verbs.push_back({"rename-step",
                   "Rename step",
                   MenuPlace::Edit,
                   "rename",
                   {},
                   "",
                   [&w] { w.cutList().renameSelected(); },
                   [is] { return is.step(); },
                   [is] { return is.step(); }});
  verbs.push_back({"switch-step", "Switch step off or on", MenuPlace::Edit, "off", QKeySequence("Ctrl+T"), "",
                   [&desk, selectedStep] { switchStep(desk, selectedStep()); }, [is] { return is.step(); },
                   [is] { return is.step(); },
                   [&desk] {
                     const auto step = desk.session.document().find(desk.selection.step());
                     return step && !step->on() ? QString("Switch on") : QString("Switch off");
                   }});
  verbs.push_back({"step-up", "Move step up", MenuPlace::Edit, "up", QKeySequence("Ctrl+Shift+Up"), "",
                   [&desk, selectedStep] { moveStep(desk, selectedStep(), -1); }, [is] { return is.step(); }});
  verbs.push_back({"step-down", "Move step down", MenuPlace::Edit, "down", QKeySequence("Ctrl+Shift+Down"), "",
                   [&desk, selectedStep] { moveStep(desk, selectedStep(), 1); }, [is] { return is.step(); }});
  verbs.push_back({"delete-step",
                   "Delete step",
                   MenuPlace::Edit,
                   "delete",
                   {},
                   "",
                   [&desk, selectedStep] { deleteStep(desk, selectedStep()); },
                   [is] { return is.step(); },
                   [is] { return is.step(); }});
  verbs.push_back({"add-dimension", "Add a dimension", MenuPlace::Edit, "dimension", QKeySequence("Ctrl+D"), "",
                   [&w] { w.dimensions().addDimension(); }});
  verbs.back().separatorBefore = true;
  verbs.push_back({"shield", "Shield or unshield bodies", MenuPlace::Edit, "shield", QKeySequence("Ctrl+Shift+P"),
                   "No step cuts a shielded body", [&w] { w.bodies().toggleShield(); },
                   [&desk] { return !desk.selection.bodies().empty(); }, [is] { return is.body(); },
                   [&desk] {
                     const auto bodies = desk.selection.bodies();
                     const Body* body = bodies.empty() ? nullptr : desk.session.made()->model->find(bodies.front());
                     const QString which = bodies.size() > 1 ? "bodies" : "body";
                     return (body && body->shielded ? QString("Unshield the %1") : QString("Shield the %1")).arg(which);
                   }});
  addKinds(verbs, w, {KindMenu::Arrange});
  verbs.push_back({"open-group", "Open or close the group", MenuPlace::Edit, "group", QKeySequence("Ctrl+Shift+O"),
                   "Its members can be changed while it is open", [&desk] { toggleGroup(desk, desk.selection.step()); },
                   [is] { return is.openable(); }, [is] { return is.openable(); },
                   [&desk] {
                     const auto step = desk.session.document().find(desk.selection.step());
                     return step && step->on() ? QString("Open the group") : QString("Close the group");
                   }});
  verbs.push_back({"hole-maker",
                   "Hole-maker or not",
                   MenuPlace::Edit,
                   "hole-maker",
                   {},
                   "A group takes it away from its solids",
                   [&desk] { toggleHoleMaker(desk); },
                   [&desk] { return !desk.selection.bodies().empty(); },
                   [is] { return is.body(); },
                   [&desk] {
                     const auto bodies = desk.selection.bodies();
                     const Body* body = bodies.empty() ? nullptr : desk.session.made()->model->find(bodies.front());
                     return body && body->holeMaker ? QString("Make it solid again") : QString("Mark as hole-maker");
                   }});
  verbs.push_back({"hide", "Show or hide", MenuPlace::Edit, "eye", QKeySequence("Ctrl+H"), "",
                   [&w] { w.bodies().toggleVisible(); }, [is] { return is.anything(); }, [is] { return is.anything(); },
                   [&w] { return w.bodies().nameOfToggle(); }});
  verbs.push_back({"color",
                   "Colour of bodies …",
                   MenuPlace::Edit,
                   "",
                   {},
                   "",
                   [&w] { w.bodies().chooseColor(); },
                   [&desk] { return !desk.selection.bodies().empty(); }});
  verbs.push_back({"find", "Find", MenuPlace::Edit, "find", QKeySequence("Ctrl+K"), "", [&w] { w.find().open(); }});
  verbs.back().separatorBefore = true;
}

void addFreeze(std::vector<Verb>& verbs, MainWindow& w) {
  Desk& desk = w.desk();
  verbs.push_back({"freeze",
                   "Freeze as a snapshot",
                   MenuPlace::Surface,
                   "freeze",
                   {},
                   "A copy of the bodies as they are now, that follows nothing",
                   [&w] { w.files().freezeSelected(); },
                   [&desk] { return !desk.selection.bodies().empty(); }});
}

void addViewVerbs(std::vector<Verb>& verbs, MainWindow& w) {
  Viewport& view = w.view();
  const auto look = [&](const char* key, const char* text, const char* keys, StandardView which) {
    verbs.push_back({key, text, MenuPlace::View, "view", QKeySequence(keys), "", [&view, which] { view.look(which); }});
  };
  look("home", "Home", "Ctrl+1", StandardView::Home);
  look("top", "Top", "Ctrl+2", StandardView::Top);
  look("front", "Front", "Ctrl+3", StandardView::Front);
  look("side", "Side", "Ctrl+4", StandardView::Side);
  verbs.push_back({"flip", "Flip", MenuPlace::View, "", QKeySequence("Ctrl+5"), "From the opposite side",
                   [&view] { view.flip(); }});
  verbs.push_back({"fit", "Fit all", MenuPlace::View, "", QKeySequence("Ctrl+0"), "", [&view] { view.fit(); }});
  verbs.push_back({"fit-selection", "Fit selection", MenuPlace::View, "", QKeySequence("Ctrl+9"), "",
                   [&view] { view.fitSelection(); }});
  bool first = true;
  for (const auto& [key, text, style] :
       {std::tuple("shaded", "Shaded + edges", DrawStyle::ShadedEdges), std::tuple("clear", "Clear", DrawStyle::Clear),
        std::tuple("lines", "Lines", DrawStyle::Lines)}) {
    verbs.push_back({key,
                     text,
                     MenuPlace::View,
                     "",
                     {},
                     "",
                     [&view, style = style] { view.setStyle(style); },
                     {},
                     {},
                     {},
                     [&view, style = style] { return view.style() == style; }});
    verbs.back().separatorBefore = std::exchange(first, false);
  }
  verbs.push_back({"all-badges",
                   "All badges",
                   MenuPlace::View,
                   "",
                   QKeySequence("Ctrl+Shift+A"),
                   "Of many pieces, also the badges that would hide the bodies",
                   [&view] { view.setAllBadges(!view.allBadges()); },
                   {},
                   {},
                   {},
                   [&view] { return view.allBadges(); }});
  verbs.push_back({"perspective",
                   "Perspective",
                   MenuPlace::View,
                   "",
                   QKeySequence("Ctrl+6"),
                   "",
                   [&view] {
                     view.setProjection(view.projection() == Projection::Parallel ? Projection::Perspective
                                                                                  : Projection::Parallel);
                   },
                   {},
                   {},
                   {},
                   [&view] { return view.projection() == Projection::Perspective; }});
  first = true;
  for (const auto& [key, text, filter] :
       {std::tuple("pick-anything", "Pick anything", PickFilter{}),
        std::tuple("pick-bodies", "Pick bodies", PickFilter{true, true, false, false, false}),
        std::tuple("pick-faces", "Pick faces", PickFilter{false, true, false, false, false}),
        std::tuple("pick-edges", "Pick edges", PickFilter{false, false, true, false, false}),
        std::tuple("pick-points", "Pick points", PickFilter{false, false, false, true, false})}) {
    verbs.push_back({key,
                     text,
                     MenuPlace::View,
                     "",
                     {},
                     "",
                     [&w, filter = filter] { w.setFilter(filter); },
                     {},
                     {},
                     {},
                     [&w, filter = filter] { return w.filter() == filter; }});
    verbs.back().separatorBefore = std::exchange(first, false);
  }
  first = true;
  for (const auto& [key, text, panel] :
       {std::tuple("panel-left", "Cut list and Dimensions", 0), std::tuple("panel-right", "Bodies and Measure", 2)}) {
    verbs.push_back({key,
                     text,
                     MenuPlace::View,
                     "",
                     QKeySequence(panel == 0 ? "F7" : "F8"),
                     "Show or fold away",
                     [&w, panel = panel] { w.sides().widget(panel)->setVisible(w.sides().widget(panel)->isHidden()); },
                     {},
                     {},
                     {},
                     [&w, panel = panel] { return !w.sides().widget(panel)->isHidden(); }});
    verbs.back().separatorBefore = std::exchange(first, false);
  }
  verbs.push_back({"panel-bench",
                   "Bench",
                   MenuPlace::View,
                   "",
                   QKeySequence("F9"),
                   "Show or fold away",
                   [&w] { w.bench().setVisible(w.bench().isHidden()); },
                   {},
                   {},
                   {},
                   [&w] { return !w.bench().isHidden(); }});
  first = true;
  for (const auto& [key, text, choice] :
       {std::tuple("look-desktop", "Colours of the desktop", LookChoice::FollowDesktop),
        std::tuple("look-light", "Light colours", LookChoice::Light),
        std::tuple("look-dark", "Dark colours", LookChoice::Dark)}) {
    verbs.push_back({key,
                     text,
                     MenuPlace::View,
                     "",
                     {},
                     "",
                     [choice = choice] { chooseLook(choice); },
                     {},
                     {},
                     {},
                     [choice = choice] { return lookChoice() == choice; }});
    verbs.back().separatorBefore = std::exchange(first, false);
  }
}

void addPlaces(std::vector<Verb>& verbs, MainWindow& w) {
  const auto go = [&](const char* key, const char* text, const char* keys, std::function<void()> run) {
    verbs.push_back({key, text, MenuPlace::View, "", QKeySequence(keys), "", std::move(run)});
  };
  go("go-cut-list", "Go to the Cut list", "Alt+1", [&w] { w.cutList().sheet()->setFocus(); });
  verbs.back().separatorBefore = true;
  go("go-dimensions", "Go to the Dimensions", "Alt+2", [&w] { w.dimensions().sheet()->setFocus(); });
  go("go-view", "Go to the view", "Alt+3", [&w] { w.view().setFocus(); });
  go("go-bodies", "Go to the Bodies", "Alt+4", [&w] { w.bodies().sheet()->setFocus(); });
  go("go-bench", "Go to the Bench", "Alt+5", [&w] { w.bench().focusFirst(); });
}

void addOtherVerbs(std::vector<Verb>& verbs, MainWindow& w) {
  const Asked is{w.desk()};
  Desk& desk = w.desk();
  verbs.push_back({"trouble", "Go to the first failed step", MenuPlace::Check, "warning", QKeySequence("Ctrl+G"), "",
                   [&w] { w.showFirstTrouble(); }, [&desk] { return desk.session.made()->model->failed(); }});
  verbs.push_back({"show-flaws",
                   "Show damaged faces",
                   MenuPlace::Check,
                   "fit",
                   {},
                   "Selects faces that are not valid, and moves the view to them",
                   [&w] { w.showFlaws(); },
                   [is] { return is.damaged(); }});
  addKinds(verbs, w, {KindMenu::Check});
  verbs.push_back(
      {"wall-limit", "Wall limit …", MenuPlace::Check, "measure", {}, "Warn when a cut leaves a thinner wall", [&w] {
         w.askWallLimit();
       }});
  verbs.push_back({"rebuild", "Rebuild", MenuPlace::Check, "", QKeySequence("Ctrl+R"), "After it was stopped",
                   [&desk] { desk.session.rebuildAgain(); }});
  verbs.push_back(
      {"keys", "Keys and mouse", MenuPlace::Help, "", QKeySequence::HelpContents, "", [&w] { w.showKeys(); }});
  verbs.push_back({"about", "About Kervo", MenuPlace::Help, "", {}, "", [&w] { w.showAbout(); }});
}

}  // namespace

std::vector<Verb> verbTable(MainWindow& window) {
  std::vector<Verb> verbs;
  addFileVerbs(verbs, window);
  addKinds(verbs, window, {KindMenu::Draw, KindMenu::Cut, KindMenu::Surface});
  addFreeze(verbs, window);
  addEditVerbs(verbs, window);
  addViewVerbs(verbs, window);
  addPlaces(verbs, window);
  addOtherVerbs(verbs, window);
  return verbs;
}

}  // namespace kervo::app
