#include "app/main_window.h"

#include <QComboBox>
#include <QMenu>
#include <QToolBar>
#include <QToolButton>

#include "app/application.h"
#include "app/icons.h"
#include "app/look.h"
#include "app/step_verbs.h"
#include "fields/number_field.h"
#include "model/names_for_people.h"
#include "steps/registry.h"

namespace kervo::app {

namespace {

/// Words in the strip above the view; those of one group are alternatives.
const char* const viewWords[] = {"home", "top", "front", "side", "flip", "|", "shaded", "clear", "lines"};

}  // namespace

QWidget* MainWindow::makeStrip() {
  auto* strip = new QWidget;
  strip->setObjectName("strip");
  strip->setAttribute(Qt::WA_StyledBackground);
  auto* row = new QHBoxLayout(strip);
  row->setContentsMargins(14, 3, 14, 3);
  auto* brand = new QLabel("Kervo");
  brand->setObjectName("brand");
  menus_ = new QMenuBar;
  menus_->setNativeMenuBar(false);
  title_ = new ElidedLabel;
  title_->setAlignment(Qt::AlignCenter);
  row->addWidget(brand);
  row->addWidget(menus_);
  row->addWidget(title_, 3);
  row->addWidget(find_, 2);
  return strip;
}

QWidget* MainWindow::makeViewPane() {
  // A tool bar keeps words that do not fit, with a large font, in a list at its end.
  auto* strip = new QToolBar;
  strip->setObjectName("viewStrip");
  strip->setToolButtonStyle(Qt::ToolButtonTextOnly);
  std::vector<std::pair<QAction*, const Verb*>> styles;
  for (const char* word : viewWords) {
    if (QString(word) == "|") {
      strip->addSeparator();
      continue;
    }
    const auto verb = std::find_if(verbs_.begin(), verbs_.end(), [&](const Verb& v) { return v.key == word; });
    QAction* action = strip->addAction(verb->text, this, verb->run);
    action->setCheckable(bool(verb->checked));
    strip->widgetForAction(action)->setFocusPolicy(Qt::StrongFocus);
    if (verb->checked) styles.emplace_back(action, &*verb);
  }
  const auto refresh = [styles] {
    for (const auto& [action, verb] : styles) action->setChecked(verb->checked());
  };
  refresh();
  connect(view_, &Viewport::styleChanged, this, refresh);
  auto* room = new QWidget;
  room->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Preferred);
  strip->addWidget(room);
  auto* pick = new QComboBox;
  pick->setAccessibleName(tr("What can be picked"));
  for (const Verb& verb : verbs_)
    if (verb.key.startsWith("pick-")) pick->addItem(verb.text, verb.key);
  connect(pick, &QComboBox::activated, this, [this, pick] {
    for (const Verb& verb : verbs_)
      if (verb.key == pick->currentData().toString()) verb.run();
  });
  connect(this, &MainWindow::filterChanged, pick, [this, pick] {
    for (const Verb& verb : verbs_)
      if (verb.key.startsWith("pick-") && verb.checked()) pick->setCurrentIndex(pick->findData(verb.key));
  });
  strip->addWidget(pick);
  if (auto* rest = strip->findChild<QToolButton*>("qt_toolbar_ext_button")) {
    rest->setIcon(icon("down"));
    rest->setAccessibleName(tr("More of the view's words"));
  }
  message_ = new MessageBar;
  auto* pane = new QWidget;
  auto* all = new QVBoxLayout(pane);
  all->setContentsMargins(0, 0, 0, 0);
  all->setSpacing(0);
  all->addWidget(strip);
  all->addWidget(message_);
  if (canDrawWithOpenGl()) {
    all->addWidget(view_, 1);
  } else {
    // Never in a window, so that Qt does not try.
    viewWithoutPicture_.reset(view_);
    auto* instead =
        new QLabel(tr("There is no picture: this display offers no OpenGL. Lists, the Bench and files work as usual."));
    instead->setWordWrap(true);
    instead->setAlignment(Qt::AlignCenter);
    instead->setMargin(24);
    all->addWidget(instead, 1);
  }
  return pane;
}

void MainWindow::makeMenus() {
  const std::pair<MenuPlace, QString> places[] = {
      {MenuPlace::File, tr("&File")}, {MenuPlace::Edit, tr("&Edit")},       {MenuPlace::Draw, tr("&Draw")},
      {MenuPlace::Cut, tr("&Cut")},   {MenuPlace::Surface, tr("&Surface")}, {MenuPlace::Check, tr("C&heck")},
      {MenuPlace::View, tr("&View")}, {MenuPlace::Help, tr("He&lp")}};
  for (const auto& [place, title] : places) {
    QMenu* menu = menus_->addMenu(title);
    std::vector<std::pair<QAction*, const Verb*>> actions;
    for (const Verb& verb : verbs_) {
      if (verb.menu != place) continue;
      if (verb.separatorBefore) menu->addSeparator();
      QAction* action = menu->addAction(verb.text, this, verb.run);
      if (!verb.picture.isEmpty()) action->setIcon(icon(verb.picture));
      action->setShortcut(verb.shortcut);
      action->setStatusTip(verb.help);
      action->setCheckable(bool(verb.checked));
      action->setObjectName(verb.key);
      // Shortcuts work while the menu is closed.
      addAction(action);
      actions.emplace_back(action, &verb);
    }
    connect(menu, &QMenu::aboutToShow, this, [this, actions] {
      for (const auto& [action, verb] : actions) {
        action->setEnabled(!verb->enabled || verb->enabled());
        if (verb->checked) action->setChecked(verb->checked());
        if (verb->key == "undo")
          action->setText(desk_.session.canUndo() ? tr("Undo %1").arg(desk_.session.undoText()) : tr("Undo"));
        if (verb->key == "redo")
          action->setText(desk_.session.canRedo() ? tr("Redo %1").arg(desk_.session.redoText()) : tr("Redo"));
      }
    });
    // While closed, a shortcut must not be dead because of what was selected when the menu was last open.
    connect(menu, &QMenu::aboutToHide, this, [actions] {
      for (const auto& [action, verb] : actions) action->setEnabled(true);
    });
    if (place != MenuPlace::File) continue;
    auto* recent = new QMenu(tr("Open recent"), menu);
    menu->insertMenu(actions[2].first, recent);
    connect(recent, &QMenu::aboutToShow, this, [this, recent] {
      recent->clear();
      for (const QString& path : files_->recent())
        recent->addAction(QStringLiteral("%1   %2").arg(QFileInfo(path).fileName(), QFileInfo(path).absolutePath()),
                          this, [this, path] { files_->open(path); });
      if (recent->isEmpty()) recent->addAction(tr("nothing yet"))->setEnabled(false);
    });
  }
}

void MainWindow::connectParts() {
  Session& session = desk_.session;
  connect(&session, &Session::modelChanged, this, [this] {
    desk_.selection.keepOnly(*before_, *desk_.session.made());
    announceNewPieces();
    before_ = desk_.session.made();
    refreshScene();
  });
  connect(&session, &Session::fileChanged, this, [this] {
    refreshTitle();
    status_->refresh();
  });
  connect(&session, &Session::failed, message_, [this](const Error& error) { message_->show(error); });
  connect(&desk_.worker, &Worker::stopped, this, [this] {
    if (desk_.session.upToDate() || desk_.trial.active()) return;
    message_->tell(tr("Rebuilding was stopped; the view shows the model as it was before."),
                   {{tr("Rebuild now"), [this] { desk_.session.rebuildAgain(); }}});
  });
  if (auto* application = qobject_cast<Application*>(qApp))
    connect(application, &Application::troubled, message_, [this](const Error& error) { message_->show(error); });
  connect(files_.get(), &Files::failed, message_, [this](const Error& error) { message_->show(error); });
  connect(files_.get(), &Files::damaged, this, [this](const Error& error) {
    message_->show(error, {{tr("Show it"), [this] { showFlaws(); }},
                           {tr("Repair …"), [this] { startStep(desk_, allStepKinds().mending(), selected_->get()); }}});
  });
  connect(files_.get(), &Files::asked, message_, &MessageBar::ask);
  connect(files_.get(), &Files::noticed, message_, &MessageBar::tell);
  connect(files_.get(), &Files::compared, this, &MainWindow::showDifferences);
  connect(files_.get(), &Files::told, this, &MainWindow::tell);
  connect(files_.get(), &Files::loaded, this, [this] {
    message_->close();
    view_->goHome();
    view_->setFocus();
  });
  Trial& trial = desk_.trial;
  for (const auto signal : {&Trial::opened, &Trial::closed, &Trial::tried})
    connect(&trial, signal, this, [this] {
      refreshScene();
      status_->refresh();
    });
  connect(&trial, &Trial::closed, this, [this] {
    view_->setDrawingPlane(std::nullopt);
    view_->setFocus();
  });
  connect(&trial, &Trial::refused, this, [this](const Error& error) {
    const Tried& tried = *desk_.trial.result();
    const auto named = [&](const std::string& text) { return withNames(text, *tried.after); };
    message_->show(Error(named(error.happened()), "", named(error.help())));
  });
  connect(&trial, &Trial::opened, this, [this] {
    bench_->show();
    message_->close();
  });
  connect(&desk_.selection, &Selection::changed, this, [this] {
    view_->setSelected(desk_.selection.picks());
    status_->refresh();
  });
  connect(bench_, &Bench::armedChanged, this, [this] {
    refreshScene();
    status_->refresh();
  });
  connect(bench_, &Bench::viewWanted, this, [this] { view_->setFocus(Qt::OtherFocusReason); });
  connect(bench_, &Bench::drawingChanged, this, &MainWindow::refreshScene);
  connect(bench_, &Bench::pieceLit, this,
          [this](int row) { view_->light(row < 0 ? std::nullopt : std::optional(static_cast<std::size_t>(row))); });
}

void MainWindow::connectView() {
  view_->setDescriber([this](const Pick& pick) {
    return desk_.shownModel ? describe(pick, *desk_.shownModel, desk_.shownPictures, desk_.session.document().made.unit)
                            : QString();
  });
  connect(view_, &Viewport::picked, this, [this](const Pick& pick, bool add) {
    if (bench_->chooser() && bench_->chooser()->take(pick)) return;
    if (FieldEditor* editor = bench_->armed()) return editor->take({pick}, add);
    if (desk_.trial.active()) return;
    add ? desk_.selection.add(pick) : desk_.selection.set({pick});
  });
  connect(view_, &Viewport::boxPicked, this, [this](const std::vector<Pick>& picks, bool add) {
    if (FieldEditor* editor = bench_->armed()) return editor->take(picks, add);
    if (desk_.trial.active()) return;
    if (!add) return desk_.selection.set(picks);
    for (const Pick& pick : picks) desk_.selection.add(pick);
  });
  connect(view_, &Viewport::pickedNothing, this, [this] {
    if (!desk_.trial.active()) desk_.selection.clear();
  });
  connect(view_, &Viewport::menuWanted, this, &MainWindow::showMenuAt);
  connect(view_, &Viewport::gaugeMoved, this, [this](const QString& field, double value) {
    if (!desk_.trial.active()) return;
    const Unit unit = unitNamed(desk_.session.document().made.unit);
    const auto* number = dynamic_cast<const NumberField*>(desk_.trial.step().kind().field(field.toStdString()));
    if (number && number->wanted().dimension == angleDimension) {
      const double degrees = std::round(value / unitNamed("deg").factor * 1e4) / 1e4;
      desk_.trial.setField(number->key(), Expression(formatNumber(degrees) + " deg"));
      return;
    }
    const double shown = std::round(value / unit.factor * 1e6) / 1e6;
    desk_.trial.setField(field.toStdString(), Expression(formatNumber(shown) + " " + std::string(unit.name)));
  });
  connect(view_, &Viewport::gaugeTyped, gaugeFields_.get(), &GaugeFields::focus);
  connect(view_, &Viewport::badgeClicked, this, [this](int piece) {
    bench_->lightPiece(piece);
    if (bench_->chooser()) bench_->chooser()->toggle(piece);
  });
  connect(view_, &Viewport::badgesBoxed, this, [this](const std::vector<std::size_t>& pieces) {
    if (!bench_->armed() && bench_->chooser()) bench_->chooser()->toggleAll(pieces);
  });
  connect(view_, &Viewport::curveDrawn, this, [this](const std::vector<double>& numbers) {
    if (CurvesEditor* curves = bench_->curves()) curves->addDrawn(numbers);
  });
  connect(view_, &Viewport::pointed, status_, &StatusLine::showPointer);
  connect(view_, &Viewport::drawingFailed, message_, [this](const Error& error) { message_->show(error); });
}

}  // namespace kervo::app
