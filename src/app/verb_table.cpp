#include "app/verb_table.h"

#include <algorithm>

#include "app/main_window.h"
#include "app/step_verbs.h"
#include "app/texts.h"
#include "exchange/formats.h"
#include "steps/registry.h"

namespace kervo::app {

namespace {

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

}  // namespace

bool VerbTable::nothing() const {
  return desk_.selection.empty();
}

bool VerbTable::body() const {
  return !desk_.selection.bodies().empty();
}

bool VerbTable::anything() const {
  return !desk_.selection.picks().empty();
}

bool VerbTable::anyBody() const {
  return !desk_.session.made()->model->bodies.empty();
}

bool VerbTable::anySurface() const {
  const auto& bodies = desk_.session.made()->model->bodies;
  return std::any_of(bodies.begin(), bodies.end(),
                     [](const Body& body) { return body.form.kind() == BodyKind::Surface; });
}

bool VerbTable::damaged() const {
  const auto& bodies = desk_.session.made()->model->bodies;
  return std::any_of(bodies.begin(), bodies.end(), [](const Body& body) { return body.form.hasFlawedFaces(); });
}

std::shared_ptr<const Step> VerbTable::step() const {
  return desk_.session.document().find(desk_.selection.step());
}

bool VerbTable::openable() const {
  const auto selected = step();
  return selected && selected->kind().table().opens;
}

bool VerbTable::emptyDocument() const {
  return desk_.session.document().made.steps.empty();
}

const Body* VerbTable::firstBody() const {
  const auto bodies = desk_.selection.bodies();
  return bodies.empty() ? nullptr : desk_.session.made()->model->find(bodies.front());
}

Verb& VerbTable::add(Verb verb) {
  verbs_.push_back(std::move(verb));
  return verbs_.back();
}

/// The verbs of the kinds of step in some menus, from their tables.
void VerbTable::addKinds(std::initializer_list<KindMenu> menus) {
  const auto selected = w_.selected();
  const auto anyBody = [selected] { return selected->get().anyBody; };
  for (const StepKind* kind : allStepKinds().all()) {
    const KindTable& table = kind->table();
    if (std::find(menus.begin(), menus.end(), table.menu) == menus.end()) continue;
    const QString picture = QString::fromStdString(table.key);
    if (const auto& first = table.drawFirst)
      add({.key = QString::fromStdString(first->key),
           .text = kindText(first->label),
           .menu = placeOf(table.menu),
           .picture = picture,
           .shortcut = QKeySequence(QString::fromStdString(first->shortcut)),
           .help = kindText(first->help),
           .run = [this, kind, selected] { drawFirst(desk_, *kind, selected->get()); },
           .enabled = anyBody,
           .offered = [selected] { return selected->get().planarFace() != nullptr; },
           .offeredAs = [first] { return kindText(first->offered); }});
    add({.key = picture,
         .text = kindText(table.verb.empty() ? table.label : table.verb),
         .menu = placeOf(table.menu),
         .picture = picture,
         .shortcut = QKeySequence(QString::fromStdString(table.shortcut)),
         .help = kindText(table.help),
         .run = [this, kind, selected] { startStep(desk_, *kind, selected->get()); },
         .enabled = table.needsBodies ? std::function<bool()>(anyBody) : nullptr,
         .offered = [kind, selected] { return kind->offered(selected->get()).has_value(); },
         .offeredAs = [kind, selected] { return kindText(kind->offered(selected->get()).value_or(kind->label())); },
         .separatorBefore = table.startsGroup});
  }
}

void VerbTable::addFileVerbs() {
  const auto atTheStart = [this] { return nothing() && emptyDocument(); };
  const auto formats = [](Direction direction) { return QString::fromStdString(namesOfBodyFormats(direction)); };
  add({.key = "new",
       .text = tr("New"),
       .menu = MenuPlace::File,
       .picture = "new",
       .shortcut = QKeySequence::New,
       .help = tr("An empty document"),
       .run = [this] { w_.files().newDocument(); }});
  add({.key = "open",
       .text = tr("Open …"),
       .menu = MenuPlace::File,
       .picture = "open",
       .shortcut = QKeySequence::Open,
       .help = tr("A Kervo document, or a file with bodies"),
       .run = [this] { w_.files().open(); },
       .offered = atTheStart});
  add({.key = "save",
       .text = tr("Save"),
       .menu = MenuPlace::File,
       .picture = "save",
       .shortcut = QKeySequence::Save,
       .run = [this] { w_.files().save(); },
       .separatorBefore = true,
       .recentBefore = true});
  add({.key = "save-as",
       .text = tr("Save as …"),
       .menu = MenuPlace::File,
       .shortcut = QKeySequence("Ctrl+Shift+S"),
       .run = [this] { w_.files().saveAs(); }});
  add({.key = "bring-in",
       .text = tr("Bring in …"),
       .menu = MenuPlace::File,
       .picture = "bring-in",
       .shortcut = QKeySequence("Ctrl+I"),
       .help = tr("Bodies from a %1 file").arg(formats(Direction::Read)),
       .run = [this] { w_.files().bringIn(); },
       .offered = [this] { return nothing(); },
       .separatorBefore = true});
  add({.key = "bring-in-parts",
       .text = tr("Bring in some bodies of a file …"),
       .menu = MenuPlace::File,
       .picture = "bring-in",
       .help = tr("Choose which; of a broken file those that can be read"),
       .run = [this] { w_.files().bringInParts(); }});
  add({.key = "reload",
       .text = tr("Reload from its file"),
       .menu = MenuPlace::File,
       .picture = "bring-in",
       .help = tr("Bodies that came from a file as they are in it now; picks on faces that are still there hold"),
       .run = [this] { w_.files().reload(*broughtInBy(desk_)); },
       .enabled = [this] { return broughtInBy(desk_).has_value(); },
       .offered = [this] { return !desk_.selection.step().empty() && broughtInBy(desk_).has_value(); }});
  add({.key = "send-out",
       .text = tr("Send out …"),
       .menu = MenuPlace::File,
       .picture = "send-out",
       .shortcut = QKeySequence("Ctrl+E"),
       .help = tr("All bodies to a %1 file").arg(formats(Direction::Write)),
       .run = [this] { w_.files().sendOut(); },
       .enabled = [this] { return anyBody(); }});
  addDemoVerbs();
  add({.key = "quit",
       .text = tr("Quit"),
       .menu = MenuPlace::File,
       .shortcut = QKeySequence::Quit,
       .run = [this] { w_.quit(); },
       .separatorBefore = true});
}

void VerbTable::addStepVerbs() {
  const auto anyStep = [this] { return step() != nullptr; };
  const auto selected = [this] { return desk_.selection.step(); };
  add({.key = "undo",
       .text = tr("Undo"),
       .menu = MenuPlace::Edit,
       .picture = "undo",
       .shortcut = QKeySequence::Undo,
       .help = tr("Takes the last edit back: of the step on the Bench first"),
       .run = [this] { desk_.trial.canUndo() ? desk_.trial.undo() : desk_.session.undo(); },
       .textNow =
           [this] {
             if (desk_.trial.canUndo()) return tr("Undo %1").arg(desk_.trial.undoText());
             return desk_.session.canUndo() ? tr("Undo %1").arg(desk_.session.undoText()) : tr("Undo");
           },
       .enabled = [this] { return desk_.trial.canUndo() || desk_.session.canUndo(); }});
  add({.key = "redo",
       .text = tr("Redo"),
       .menu = MenuPlace::Edit,
       .picture = "redo",
       .shortcut = QKeySequence("Ctrl+Shift+Z"),
       .run = [this] { desk_.trial.canRedo() ? desk_.trial.redo() : desk_.session.redo(); },
       .textNow =
           [this] {
             if (desk_.trial.canRedo()) return tr("Redo %1").arg(desk_.trial.redoText());
             return desk_.session.canRedo() ? tr("Redo %1").arg(desk_.session.redoText()) : tr("Redo");
           },
       .enabled = [this] { return desk_.trial.canRedo() || desk_.session.canRedo(); }});
  add({.key = "edit-step",
       .text = tr("Edit on the Bench"),
       .menu = MenuPlace::Edit,
       .picture = "edit",
       .shortcut = QKeySequence("Ctrl+Return"),
       .run = [this, selected] { desk_.trial.edit(selected()); },
       .enabled = anyStep,
       .offered = anyStep,
       .separatorBefore = true});
  add({.key = "rename-step",
       .text = tr("Rename step"),
       .menu = MenuPlace::Edit,
       .picture = "rename",
       .run = [this] { w_.cutList().renameSelected(); },
       .enabled = anyStep,
       .offered = anyStep});
  add({.key = "switch-step",
       .text = tr("Switch step off or on"),
       .menu = MenuPlace::Edit,
       .picture = "off",
       .shortcut = QKeySequence("Ctrl+T"),
       .run = [this, selected] { switchStep(desk_, selected()); },
       .enabled = anyStep,
       .offered = anyStep,
       .offeredAs = [this] { return step() && !step()->on() ? tr("Switch on") : tr("Switch off"); }});
  add({.key = "step-up",
       .text = tr("Move step up"),
       .menu = MenuPlace::Edit,
       .picture = "up",
       .shortcut = QKeySequence("Ctrl+Shift+Up"),
       .run = [this, selected] { moveStep(desk_, selected(), -1); },
       .enabled = anyStep});
  add({.key = "step-down",
       .text = tr("Move step down"),
       .menu = MenuPlace::Edit,
       .picture = "down",
       .shortcut = QKeySequence("Ctrl+Shift+Down"),
       .run = [this, selected] { moveStep(desk_, selected(), 1); },
       .enabled = anyStep});
  add({.key = "delete-step",
       .text = tr("Delete step"),
       .menu = MenuPlace::Edit,
       .picture = "delete",
       .run = [this, selected] { w_.askToDelete(selected()); },
       .enabled = anyStep,
       .offered = anyStep});
  add({.key = "add-dimension",
       .text = tr("Add a dimension"),
       .menu = MenuPlace::Edit,
       .picture = "dimension",
       .shortcut = QKeySequence("Ctrl+D"),
       .run = [this] { w_.dimensions().addDimension(); },
       .separatorBefore = true});
  add({.key = "add-level",
       .text = tr("Add a level"),
       .menu = MenuPlace::Edit,
       .picture = "plane",
       .help = tr("A named height: storeys are drawn, shown and moved by levels"),
       .run = [this] { w_.levels().addLevel(); }});
  add({.key = "copy-level",
       .text = tr("Copy a level"),
       .menu = MenuPlace::Edit,
       .picture = "plane",
       .help = tr("With copies of all bodies on it, which follow them"),
       .run = [this] { w_.levels().copyLevel(); },
       .enabled = [this] { return w_.levels().anyLevel(); }});
}

void VerbTable::addBodyVerbs() {
  const auto anyBody = [this] { return body(); };
  add({.key = "shield",
       .text = tr("Shield or unshield bodies"),
       .menu = MenuPlace::Edit,
       .picture = "shield",
       .shortcut = QKeySequence("Ctrl+Shift+P"),
       .help = tr("No step cuts a shielded body"),
       .run = [this] { w_.bodies().toggleShield(); },
       .enabled = anyBody,
       .offered = anyBody,
       .offeredAs =
           [this] {
             const bool shielded = firstBody() && firstBody()->shielded;
             if (desk_.selection.bodies().size() > 1)
               return shielded ? tr("Unshield the bodies") : tr("Shield the bodies");
             return shielded ? tr("Unshield the body") : tr("Shield the body");
           }});
  addKinds({KindMenu::Arrange});
  add({.key = "open-group",
       .text = tr("Open or close the group"),
       .menu = MenuPlace::Edit,
       .picture = "group",
       .shortcut = QKeySequence("Ctrl+Shift+O"),
       .help = tr("Its members can be changed while it is open"),
       .run = [this] { toggleGroup(desk_, desk_.selection.step()); },
       .enabled = [this] { return openable(); },
       .offered = [this] { return openable(); },
       .offeredAs = [this] { return step() && step()->on() ? tr("Open the group") : tr("Close the group"); }});
  add({.key = "hole-maker",
       .text = tr("Hole-maker or not"),
       .menu = MenuPlace::Edit,
       .picture = "hole-maker",
       .help = tr("A group takes it away from its solids"),
       .run = [this] { toggleHoleMaker(desk_); },
       .enabled = anyBody,
       .offered = anyBody,
       .offeredAs =
           [this] {
             return firstBody() && firstBody()->holeMaker ? tr("Make it solid again") : tr("Mark as hole-maker");
           }});
  add({.key = "put-on-level",
       .text = tr("Put on the working level"),
       .menu = MenuPlace::Edit,
       .picture = "plane",
       .help = tr("The selected bodies are shown, copied and hidden with it"),
       .run = [this] { w_.levels().putOnWorkingLevel(); },
       .enabled = [this] { return body() && !desk_.session.document().seen.levels.working.empty(); }});
  add({.key = "hide",
       .text = tr("Show or hide"),
       .menu = MenuPlace::Edit,
       .picture = "eye",
       .shortcut = QKeySequence("Ctrl+H"),
       .run = [this] { w_.bodies().toggleVisible(); },
       .enabled = [this] { return anything(); },
       .offered = [this] { return anything(); },
       .offeredAs = [this] { return w_.bodies().nameOfToggle(); }});
  add({.key = "fade",
       .text = tr("Fade or unfade bodies"),
       .menu = MenuPlace::Edit,
       .picture = "eye",
       .help = tr("A faded body is pale and seen through, and takes part in everything"),
       .run = [this] { w_.bodies().toggleFaded(); },
       .enabled = anyBody,
       .offeredAs =
           [this] { return firstBody() && firstBody()->faded ? tr("Unfade the bodies") : tr("Fade the bodies"); }});
  add({.key = "color",
       .text = tr("Colour of bodies …"),
       .menu = MenuPlace::Edit,
       .run = [this] { w_.bodies().chooseColor(); },
       .enabled = anyBody});
  add({.key = "assembly",
       .text = tr("Put into an assembly …"),
       .menu = MenuPlace::Edit,
       .run = [this] { w_.bodies().putIntoAssembly(); },
       .enabled = anyBody});
  add({.key = "find",
       .text = tr("Find"),
       .menu = MenuPlace::Edit,
       .picture = "find",
       .shortcut = QKeySequence("Ctrl+K"),
       .run = [this] { w_.find().open(); },
       .separatorBefore = true});
}

void VerbTable::addCheckVerbs() {
  add({.key = "trouble",
       .text = tr("Go to the first failed step"),
       .menu = MenuPlace::Check,
       .picture = "warning",
       .shortcut = QKeySequence("Ctrl+G"),
       .run = [this] { w_.showFirstTrouble(); },
       .enabled = [this] { return desk_.session.made()->model->failed(); }});
  add({.key = "show-flaws",
       .text = tr("Show damaged faces"),
       .menu = MenuPlace::Check,
       .picture = "fit",
       .help = tr("Selects faces that are not valid, and moves the view to them"),
       .run = [this] { w_.showFlaws(); },
       .enabled = [this] { return damaged(); }});
  add({.key = "check-bodies",
       .text = tr("Check bodies …"),
       .menu = MenuPlace::Check,
       .picture = "warning",
       .shortcut = QKeySequence("Ctrl+Alt+G"),
       .help = tr("Faces, open edges, small parts, tolerances, crossings: all that is found, and where"),
       .run = [this] { w_.openCheck(); },
       .enabled = [this] { return anyBody(); }});
  add({.key = "uses",
       .text = tr("Where used …"),
       .menu = MenuPlace::Check,
       .picture = "pattern",
       .shortcut = QKeySequence("Ctrl+Alt+U"),
       .help = tr("What depends on a step or dimension, as a graph; what would break without it"),
       .run = [this] { w_.openUses(desk_.selection.step()); },
       .enabled = [this] { return !desk_.session.document().made.steps.empty(); }});
  add({.key = "changes",
       .text = tr("What changed …"),
       .menu = MenuPlace::Check,
       .picture = "undo",
       .shortcut = QKeySequence("Ctrl+Alt+W"),
       .help = tr("Material added and removed by the last change, since the file was saved, or beside another file"),
       .run = [this] { w_.openCompare(); },
       .enabled = [this] { return anyBody(); }});
  add({.key = "clearance",
       .text = tr("Clearance of two sets …"),
       .menu = MenuPlace::Check,
       .picture = "measure",
       .help = tr("How far bodies are from each other, and what they have in common"),
       .run = [this] { w_.openClearance(); },
       .enabled = [this] { return desk_.session.made()->model->bodies.size() > 1; }});
  addKinds({KindMenu::Check});
  addShopVerbs();
  add({.key = "materials",
       .text = tr("Materials …"),
       .menu = MenuPlace::Check,
       .help = tr("Their densities, and the mass of what is made of them"),
       .run = [this] { w_.openMaterials(); },
       .separatorBefore = true});
  add({.key = "wall-limit",
       .text = tr("Wall limit …"),
       .menu = MenuPlace::Check,
       .picture = "measure",
       .help = tr("Warn when a cut leaves a thinner wall"),
       .run = [this] { w_.askWallLimit(); }});
  add({.key = "rebuild",
       .text = tr("Rebuild"),
       .menu = MenuPlace::Check,
       .shortcut = QKeySequence("Ctrl+R"),
       .help = tr("After it was stopped"),
       .run = [this] { desk_.session.rebuildAgain(); }});
  add({.key = "keys",
       .text = tr("Keys and mouse"),
       .menu = MenuPlace::Help,
       .shortcut = QKeySequence::HelpContents,
       .run = [this] { w_.showKeys(); }});
  add({.key = "about", .text = tr("About Kervo"), .menu = MenuPlace::Help, .run = [this] { w_.showAbout(); }});
}

void VerbTable::fill() {
  addFileVerbs();
  addKinds({KindMenu::Draw, KindMenu::Cut, KindMenu::Surface});
  add({.key = "freeze",
       .text = tr("Freeze as a snapshot"),
       .menu = MenuPlace::Surface,
       .picture = "freeze",
       .help = tr("A copy of the bodies as they are now, that follows nothing"),
       .run = [this] { w_.files().freezeSelected(); },
       .enabled = [this] { return body(); }});
  addStepVerbs();
  addBodyVerbs();
  addViewVerbs();
  addCheckVerbs();
}

VerbTable::VerbTable(MainWindow& window) : w_(window), desk_(window.desk()) {}

const Verb* VerbTable::find(const QString& key) const {
  const auto found = std::find_if(verbs_.begin(), verbs_.end(), [&](const Verb& verb) { return verb.key == key; });
  return found == verbs_.end() ? nullptr : &*found;
}

}  // namespace kervo::app
