#include <QAction>

#include "app/look.h"
#include "app/main_window.h"
#include "app/step_verbs.h"
#include "base/error.h"
#include "exchange/formats.h"

namespace kervo::app {

namespace {

using Kind = Pick::Kind;

/// What the table's rules ask about the selection.
struct Asked {
  Desk& desk;

  bool nothing() const { return desk.selection.empty(); }
  bool face() const { return desk.selection.count(Kind::Face) > 0; }
  bool planarFace() const {
    for (const Pick& pick : desk.selection.picks()) {
      const auto picture = desk.shownPictures.find(pick.body);
      if (pick.kind == Kind::Face && picture != desk.shownPictures.end() &&
          static_cast<std::size_t>(pick.index) < picture->second->faces.size() &&
          picture->second->faces[static_cast<std::size_t>(pick.index)].surfaceName() == "plane")
        return true;
    }
    return false;
  }
  bool edge() const { return desk.selection.count(Kind::Edge) > 0; }
  /// A body, or any part of one.
  bool body() const { return !desk.selection.picks().empty(); }
  bool anyBody() const { return !desk.session.made()->model->bodies.empty(); }
  bool damaged() const {
    const auto& bodies = desk.session.made()->model->bodies;
    return std::any_of(bodies.begin(), bodies.end(), [](const Body& body) { return body.shape.hasFlawedFaces(); });
  }
  bool selectedDamaged() const {
    const auto bodies = desk.selection.bodies();
    return std::any_of(bodies.begin(), bodies.end(), [this](const BodyId& id) {
      const Body* body = desk.session.made()->model->find(id);
      return body && body->shape.hasFlawedFaces();
    });
  }
  bool step(const char* kind = nullptr) const {
    const auto step = desk.session.document().find(desk.selection.step());
    return step && (!kind || step->kind().key() == kind);
  }
  bool emptyDocument() const { return desk.session.document().made.steps.empty(); }
};

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
  verbs.push_back({"place", "Place bodies", MenuPlace::Edit, "place", QKeySequence("Ctrl+P"),
                   "Move, turn, align, scale; also as copies", [&desk] { startPlace(desk); },
                   [is] { return is.anyBody(); }, [is] { return is.body(); }, [] { return QString("Place …"); }});
  verbs.back().separatorBefore = true;
  verbs.push_back({"pattern", "Pattern of bodies", MenuPlace::Edit, "pattern", QKeySequence("Ctrl+Shift+N"),
                   "Copies in a line, grid or ring, along a line, mirrored", [&desk] { startPattern(desk); },
                   [is] { return is.anyBody(); }, [is] { return is.body(); }, [] { return QString("Pattern …"); }});
  verbs.push_back({"group", "Group bodies", MenuPlace::Edit, "group", QKeySequence("Ctrl+Shift+G"),
                   "Solids joined, hole-makers taken away from them", [&desk] { startGroup(desk); },
                   [is] { return is.anyBody(); }, [&desk] { return desk.selection.bodies().size() > 1; },
                   [] { return QString("Group them"); }});
  verbs.push_back({"open-group", "Open or close the group", MenuPlace::Edit, "group", QKeySequence("Ctrl+Shift+O"),
                   "Its members can be changed while it is open", [&desk] { toggleGroup(desk, desk.selection.step()); },
                   [is] { return is.step("group"); }, [is] { return is.step("group"); },
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
  verbs.push_back({"hide", "Show or hide bodies", MenuPlace::Edit, "eye", QKeySequence("Ctrl+H"), "",
                   [&w] { w.bodies().toggleVisible(); }, [&desk] { return !desk.selection.bodies().empty(); },
                   [is] { return is.body(); },
                   [&desk] {
                     const auto bodies = desk.selection.bodies();
                     const Body* body = bodies.empty() ? nullptr : desk.session.made()->model->find(bodies.front());
                     const QString which = bodies.size() > 1 ? "bodies" : "body";
                     return (body && !body->visible ? QString("Show the %1") : QString("Hide the %1")).arg(which);
                   }});
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

void addStepVerbs(std::vector<Verb>& verbs, MainWindow& w) {
  const Asked is{w.desk()};
  Desk& desk = w.desk();
  verbs.push_back({"draw",
                   "Draw on …",
                   MenuPlace::Draw,
                   "drawing",
                   QKeySequence("Ctrl+Shift+D"),
                   "Lines, arcs, circles and rectangles on a plane or planar face",
                   [&desk] { startDrawing(desk, AfterDrawing::Nothing); },
                   {},
                   [is] { return is.nothing() || is.planarFace() || is.step("plane"); },
                   [is] { return is.nothing() ? QString("Draw on a plane") : QString("Draw on it"); }});
  verbs.push_back({"plane",
                   "Plane",
                   MenuPlace::Draw,
                   "plane",
                   {},
                   "At a distance from a plane or face",
                   [&desk] { startPlane(desk); },
                   {},
                   [is] { return is.planarFace() || (is.nothing() && is.anyBody()); }});
  bool first = true;
  for (const auto& [key, label] :
       {std::pair("block", "Block"), std::pair("cylinder", "Cylinder"), std::pair("cone", "Cone"),
        std::pair("sphere", "Sphere"), std::pair("torus", "Torus")}) {
    const bool always = std::string(key) == "block" || std::string(key) == "cylinder";
    verbs.push_back(
        {key,
         label,
         MenuPlace::Draw,
         key,
         {},
         "",
         [&desk, key = std::string(key)] { startSolid(desk, key); },
         {},
         [is, always] { return (is.nothing() && (always || is.emptyDocument())) || (is.planarFace() && always); }});
    verbs.back().separatorBefore = std::exchange(first, false);
  }
  verbs.push_back({"extrude",
                   "Extrude",
                   MenuPlace::Draw,
                   "extrude",
                   QKeySequence("Ctrl+Shift+E"),
                   "Regions of a drawing to solids, open lines to surfaces",
                   [&desk] { startExtrude(desk); },
                   {},
                   [is] { return is.step("drawing"); },
                   [] { return QString("Extrude it"); }});
  verbs.back().separatorBefore = true;
  verbs.push_back({"cut-through", "Draw and cut", MenuPlace::Cut, "cut", QKeySequence("Ctrl+Shift+C"),
                   "Draw on the selected face or plane, then cut through it",
                   [&desk] { startDrawing(desk, AfterDrawing::Cut); }, [is] { return is.anyBody(); },
                   [is] { return is.planarFace(); }, [] { return QString("Cut through it"); }});
  verbs.push_back({"cut", "Cut", MenuPlace::Cut, "cut", QKeySequence("Ctrl+Shift+X"), "With the regions of a drawing",
                   [&desk] { startCut(desk); }, [is] { return is.anyBody(); },
                   [is, &desk] {
                     return is.anyBody() && (is.step("drawing") || (is.nothing() && !drawingToCutWith(desk).empty()));
                   },
                   [&desk] {
                     const auto step = desk.session.document().find(drawingToCutWith(desk));
                     return step ? QString("Cut with %1").arg(stepName(desk, *step)) : QString("Cut");
                   }});
  verbs.push_back(
      {"split", "Split", MenuPlace::Cut, "split", QKeySequence("Ctrl+Shift+B"),
       "By planes, surfaces, drawn lines and bodies, with a kerf", [&desk] { startSplit(desk); },
       [is] { return is.anyBody(); },
       [is] { return is.anyBody() && (is.nothing() || is.body() || is.step("plane") || is.step("drawing")); },
       [is] { return is.face() || is.step() ? QString("Split along it") : QString("Split"); }});
  verbs.push_back(
      {"combine", "Combine", MenuPlace::Cut, "combine", QKeySequence("Ctrl+Shift+M"),
       "Subtract, unite, intersect or partition bodies", [&desk] { startCombine(desk); }, [is] { return is.anyBody(); },
       [is] { return is.body(); },
       [&desk] { return desk.selection.bodies().size() > 1 ? QString("Combine them") : QString("Cut it with …"); }});
  verbs.push_back(
      {"score", "Score", MenuPlace::Cut, "score", QKeySequence("Ctrl+Shift+F"),
       "Mark faces without cutting volume, or let touching bodies share faces", [&desk] { startScore(desk); },
       [is] { return is.anyBody(); }, [is] { return is.body(); },
       [&desk] { return desk.selection.bodies().size() > 1 ? QString("Share faces …") : QString("Score it …"); }});
  verbs.push_back({"lift", "Lift faces", MenuPlace::Surface, "lift", QKeySequence("Ctrl+L"),
                   "Faces as a surface of their own, which follows them", [&desk] { startLift(desk); },
                   [is] { return is.anyBody(); }, [is] { return is.face(); }, [] { return QString("Lift"); }});
  verbs.push_back({"freeze",
                   "Freeze as a snapshot",
                   MenuPlace::Surface,
                   "freeze",
                   {},
                   "A copy of the bodies as they are now, that follows nothing",
                   [&w] { w.files().freezeSelected(); },
                   [&desk] { return !desk.selection.bodies().empty(); }});
  verbs.push_back({"round", "Round edges", MenuPlace::Cut, "round", QKeySequence("Ctrl+Shift+R"), "",
                   [&desk] { startRound(desk); }, [is] { return is.anyBody(); },
                   [is] { return is.edge() || is.face(); },
                   [is] { return is.edge() ? QString("Round edges …") : QString("Round its edges …"); }});
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
        std::tuple("pick-bodies", "Pick bodies", PickFilter{true, true, false, false}),
        std::tuple("pick-faces", "Pick faces", PickFilter{false, true, false, false}),
        std::tuple("pick-edges", "Pick edges", PickFilter{false, false, true, false}),
        std::tuple("pick-points", "Pick points", PickFilter{false, false, false, true})}) {
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
  verbs.push_back({"repair",
                   "Repair bodies",
                   MenuPlace::Check,
                   "repair",
                   {},
                   "Mends faces that are not valid and joins free edges",
                   [&desk] { startRepair(desk); },
                   [is] { return is.anyBody(); },
                   [is] { return is.selectedDamaged(); },
                   [] { return QString("Repair it …"); }});
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
  addStepVerbs(verbs, window);
  addEditVerbs(verbs, window);
  addViewVerbs(verbs, window);
  addPlaces(verbs, window);
  addOtherVerbs(verbs, window);
  return verbs;
}

}  // namespace kervo::app
