#include "app/main_window.h"

#include <QApplication>
#include <QCloseEvent>
#include <QComboBox>
#include <QDragEnterEvent>
#include <QFileInfo>
#include <QMenu>
#include <QMessageBox>
#include <QMimeData>
#include <QScreen>
#include <QSettings>
#include <QTimer>
#include <QToolBar>
#include <QToolButton>
#include <cmath>

#include "app/application.h"
#include "app/icons.h"
#include "app/look.h"
#include "app/new_pieces.h"
#include "app/scene_maker.h"
#include "app/step_verbs.h"
#include "steps/registry.h"
#include "model/names_for_people.h"

namespace kervo::app {

namespace {

constexpr int benchHeightLines = 13;

/// Words in the strip above the view; those of one group are alternatives.
const char* const viewWords[] = {"home", "top", "front", "side", "flip", "|", "shaded", "clear", "lines"};

}  // namespace

MainWindow::MainWindow(const QString& firstFile) {
  setAcceptDrops(true);
  setWindowIcon(applicationIcon());
  desk_.shownModel = desk_.session.made()->model;
  before_ = desk_.session.made();
  files_ = std::make_unique<Files>(desk_, this);
  if (!firstFile.isEmpty()) files_->take(firstFile);
  view_ = new Viewport;
  cutList_ = new CutListPanel(desk_);
  dimensions_ = new DimensionsPanel(desk_);
  bodies_ = new BodiesPanel(desk_);
  measure_ = new MeasurePanel(desk_);
  columns_ = new QSplitter(Qt::Horizontal);
  find_ = new FindBox([this] { return findEntries(); }, this);
  verbs_ = verbTable(*this);
  bench_ = new Bench(desk_, verbs_);
  gaugeFields_ = std::make_unique<GaugeFields>(desk_.trial, *view_);

  auto* left = new QSplitter(Qt::Vertical);
  left->addWidget(cutList_);
  left->addWidget(dimensions_);
  left->setStretchFactor(0, 3);
  left->setStretchFactor(1, 2);
  auto* right = new QSplitter(Qt::Vertical);
  right->addWidget(bodies_);
  right->addWidget(measure_);
  left->setSizes({320, 220});
  right->setSizes({260, 280});
  for (QSplitter* splitter : {left, right}) {
    splitter->setHandleWidth(1);
    splitter->setChildrenCollapsible(false);
    splitter->setObjectName("panel");
  }
  columns_->addWidget(left);
  columns_->addWidget(makeViewPane());
  columns_->addWidget(right);
  columns_->setHandleWidth(1);
  columns_->setChildrenCollapsible(false);
  columns_->setStretchFactor(1, 1);
  const QFontMetrics metrics(fontOf());
  columns_->setSizes(
      {std::min(metrics.horizontalAdvance('0') * 44, 390), 300, std::min(metrics.horizontalAdvance('0') * 34, 290)});
  left->setMinimumWidth(metrics.horizontalAdvance('0') * 34);
  right->setMinimumWidth(metrics.horizontalAdvance('0') * 24);
  rows_ = new QSplitter(Qt::Vertical);
  rows_->addWidget(columns_);
  rows_->addWidget(bench_);
  rows_->setHandleWidth(1);
  rows_->setChildrenCollapsible(false);
  rows_->setStretchFactor(0, 1);
  rows_->setSizes({560, metrics.height() * benchHeightLines});
  setCentralWidget(rows_);
  setMenuWidget(makeStrip());
  makeMenus();
  status_ = new StatusLine(desk_, *files_, *bench_);
  setStatusBar(status_);
  connectParts();
  connectView();

  // Never larger than the screen, which is small when everything on it is large.
  resize(QSize(1280, 800).boundedTo(screen()->availableSize()));
  const QSettings settings;
  restoreGeometry(settings.value("window").toByteArray());
  columns_->restoreState(settings.value("columns").toByteArray());
  rows_->restoreState(settings.value("rows").toByteArray());
  refreshTitle();
  status_->refresh();
  if (firstFile.isEmpty())
    bench_->focusFirst();
  else
    view_->setFocus();
}

MainWindow::~MainWindow() {
  // The list of what was found is a child and would outlive the field's entries otherwise.
  disconnect(&desk_.session, nullptr, this, nullptr);
  // Hiding lays the panels out once more, which ask the desk: while it is still there.
  hide();
}

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
  connect(view_, &Viewport::curveDrawn, this, [this](double u, double v, double toU, double toV) {
    if (CurvesEditor* curves = bench_->curves()) curves->addDrawn({u, v}, {toU, toV});
  });
  connect(view_, &Viewport::pointed, status_, &StatusLine::showPointer);
  connect(view_, &Viewport::drawingFailed, message_, [this](const Error& error) { message_->show(error); });
}

void MainWindow::refreshScene() {
  const Trial& trial = desk_.trial;
  std::vector<Gauge> gauges;
  if (trial.active() && trial.result()) {
    const Tried& tried = *trial.result();
    const bool waiting = bench_->chooser() && bench_->chooser()->waiting();
    const bool picking = bench_->armed() || waiting || !tried.report().result;
    desk_.shownModel = picking ? tried.before : tried.after;
    desk_.shownPictures = picking ? tried.picturesBefore : tried.picturesAfter;
    view_->setScene(picking ? pickingScene(tried, trial.step()) : sceneOf(tried));
    const StepReport& report = tried.report();
    if (report.result) gauges_ = {trial.step().id(), report.result->gauges};
    if (report.finding && !report.finding->gauges.empty()) gauges_ = {trial.step().id(), report.finding->gauges};
    // While a value cannot be read at all, its gauge stays: somebody may be typing into it.
    if (!bench_->armed() && gauges_.first == trial.step().id()) gauges = gauges_.second;
    std::optional<Plane> plane;
    QString kind;
    if (CurvesEditor* curves = bench_->curves()) {
      if (const DrawingResult* drawing = report.drawing()) {
        kind = curves->drawnKind();
        if (!kind.isEmpty()) plane = drawing->plane;
      }
    }
    view_->setDrawingPlane(plane, kind);
  } else {
    desk_.shownModel = desk_.session.made()->model;
    desk_.shownPictures = desk_.session.made()->pictures;
    view_->setScene(sceneOf(*desk_.session.made()));
  }
  std::erase_if(gauges, [&](const Gauge& gauge) {
    const Field* field = trial.step().kind().field(gauge.field);
    return !field || !trial.matters(*field);
  });
  view_->setGauges(gauges);
  gaugeFields_->show(gauges);
  const FieldEditor* armed = bench_->armed();
  const bool waiting = bench_->chooser() && bench_->chooser()->waiting();
  view_->setFilter(armed     ? armed->filter().value_or(filter_)
                   : waiting ? PickFilter{false, true, false, false}
                             : filter_);
  view_->setSelected(trial.active() ? std::vector<Pick>() : desk_.selection.picks());
}

void MainWindow::setFilter(PickFilter filter) {
  filter_ = filter;
  emit filterChanged();
  if (!bench_->armed()) view_->setFilter(filter);
}

void MainWindow::refreshTitle() {
  const QString state =
      desk_.session.saved() ? (desk_.session.path().isEmpty() ? QString() : tr("saved")) : tr("not saved");
  title_->setText(state.isEmpty() ? desk_.session.fileName()
                                  : QStringLiteral("%1  ·  %2").arg(desk_.session.fileName(), state));
  setWindowTitle(QStringLiteral("%1[*] – Kervo").arg(desk_.session.fileName()));
  setWindowModified(!desk_.session.saved());
}

void MainWindow::showMenuAt(const QPoint& at) {
  if (desk_.trial.active()) return;
  QMenu menu;
  for (const Verb& verb : verbs_)
    if (verb.offered && verb.offered())
      menu.addAction(icon(verb.picture), verb.offeredAs ? verb.offeredAs() : verb.text, this, verb.run);
  if (!menu.isEmpty()) menu.exec(at);
}

std::vector<FindEntry> MainWindow::findEntries() {
  std::vector<FindEntry> entries;
  for (const Verb& verb : verbs_)
    entries.push_back({verb.text, tr("verb"), verb.picture.isEmpty() ? "view" : verb.picture,
                       verb.shortcut.toString(QKeySequence::NativeText), !verb.enabled || verb.enabled(), verb.run});
  for (const Body& body : desk_.session.made()->model->bodies)
    entries.push_back({QString::fromStdString(body.name), tr("body"), "body", {}, true, [this, id = body.id] {
                         desk_.selection.set({{Pick::Kind::Body, id, 0}});
                         view_->fitSelection();
                       }});
  for (const auto& step : desk_.session.document().made.steps)
    entries.push_back({stepName(desk_, *step), tr("step"), "step", {}, true, [this, id = step->id()] {
                         desk_.selection.setStep(id);
                         cutList_->sheet()->setFocus();
                       }});
  for (const DimensionRow& row : desk_.session.document().made.dimensions)
    entries.push_back({QString::fromStdString(row.name),
                       tr("dimension"),
                       "dimension",
                       {},
                       true,
                       [this, name = QString::fromStdString(row.name)] { dimensions_->editDimension(name); }});
  return entries;
}

void MainWindow::stepBack() {
  if (bench_->stepBack()) return;
  if (!desk_.selection.empty()) return desk_.selection.clear();
  message_->close();
}

void MainWindow::keyPressEvent(QKeyEvent* event) {
  if (event->key() == Qt::Key_Escape) return stepBack();
  const bool enter = event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter;
  if (enter && desk_.trial.active()) return desk_.trial.makeIt();
  QMainWindow::keyPressEvent(event);
}

void MainWindow::changeEvent(QEvent* event) {
  QMainWindow::changeEvent(event);
  // Pictures and cards are drawn in the look's colours and have to follow it.
  if (event->type() != QEvent::PaletteChange || !view_ || !bench_) return;
  for (const Verb& verb : verbs_)
    if (QAction* action = findChild<QAction*>(verb.key); action && !verb.picture.isEmpty())
      action->setIcon(icon(verb.picture));
  view_->update();
}

void MainWindow::offerRecovery() {
  for (const Abandoned& journal : abandonedJournals(journalHome()))
    journal.unreadable.empty() ? askToRecover(journal) : keepUnreadable(journal);
}

void MainWindow::askToRecover(const Abandoned& journal) {
  const QString name = journal.file.empty() ? tr("a document without a name")
                                            : QFileInfo(QString::fromStdString(journal.file.string())).fileName();
  const QString steps = journal.steps == 1 ? tr("1 step") : tr("%1 steps").arg(journal.steps);
  QString text = tr("Kervo ended unexpectedly while %1 was not saved (%2, last edit %3).")
                     .arg(name, steps, QString::fromStdString(journal.when));
  if (journal.lost > 0) text += " " + tr("Its last %1 edits cannot be read.").arg(journal.lost);
  const auto throwAway = [this, journal] {
    try {
      discard(journal);
    } catch (const Error& error) {
      message_->show(error);
    }
  };
  const auto recover = [this, journal] { files_->recover(journal, [this, journal] { askToRecover(journal); }); };
  message_->ask(text, {{tr("Recover"), recover}, {tr("Later"), [] {}}, {tr("Throw away"), throwAway}});
}

void MainWindow::keepUnreadable(const Abandoned& journal) {
  try {
    const std::filesystem::path place = keepAside(journal);
    message_->ask(tr("Unsaved work of %1 cannot be recovered: %2. What is left of it was kept in %3.")
                      .arg(journal.when.empty() ? tr("an earlier run") : QString::fromStdString(journal.when),
                           QString::fromStdString(journal.unreadable), QString::fromStdString(place.string())),
                  {{tr("Close"), [] {}}});
  } catch (const Error& error) {
    message_->show(error);
  }
}

void MainWindow::showFirstTrouble() {
  for (const StepReport& report : desk_.session.made()->model->steps)
    if (report.error) {
      desk_.selection.setStep(report.id);
      cutList_->sheet()->setFocus();
      return;
    }
}

void MainWindow::showFlaws() {
  std::vector<Pick> picks;
  for (const auto& [id, picture] : desk_.shownPictures)
    for (std::size_t face = 0; face < picture->faces.size(); ++face)
      if (picture->faces[face].flawed()) picks.push_back({Pick::Kind::Face, id, static_cast<int>(face)});
  if (picks.empty()) return tell(tr("No face is damaged"));
  desk_.selection.set(std::move(picks));
  view_->fitSelection();
  view_->setFocus();
}

void MainWindow::announceNewPieces() {
  const NewPieces news = newPieces(*before_, *desk_.session.made());
  if (news.pieces.empty()) return;
  constexpr std::size_t most = 4;
  QStringList named;
  for (std::size_t i = 0; i < news.pieces.size() && i < most; ++i)
    named << tr("\"%1\" %2").arg(news.pieces[i].name, news.pieces[i].kept ? tr("stays") : tr("goes"));
  if (news.pieces.size() > most) named << tr("and more");
  message_->tell(tr("%1 has pieces that were not there before: %2.").arg(news.stepName, named.join(", ")),
                 {{tr("Look at the step"), [this, id = news.step] { desk_.trial.edit(id); }}});
}

void MainWindow::quit() {
  close();
}

void MainWindow::showEvent(QShowEvent* event) {
  QMainWindow::showEvent(event);
  if (event->spontaneous()) return;
  // The frame is there some time after the window; nothing tells when.
  for (const int milliseconds : {0, 50, 200, 600}) QTimer::singleShot(milliseconds, this, &MainWindow::fitScreen);
}

void MainWindow::fitScreen() {
  if (!isVisible() || isMaximized() || isFullScreen()) return;
  const QRect room = screen()->availableGeometry(), inner = geometry(), outer = frameGeometry();
  const QSize wanted = inner.size().boundedTo(room.size() - (outer.size() - inner.size()));
  if (wanted != inner.size()) resize(wanted);
  const QRect now(outer.topLeft(), outer.size() + wanted - inner.size());
  if (room.contains(now)) return;
  move(std::clamp(now.x(), room.left(), std::max(room.left(), room.right() + 1 - now.width())),
       std::clamp(now.y(), room.top(), std::max(room.top(), room.bottom() + 1 - now.height())));
}

void MainWindow::closeEvent(QCloseEvent* event) {
  if (!leaving_ && !desk_.session.saved() && !desk_.session.untouched()) {
    event->ignore();
    files_->leave([this] {
      leaving_ = true;
      close();
    });
    return;
  }
  QSettings settings;
  settings.setValue("window", saveGeometry());
  settings.setValue("columns", columns_->saveState());
  settings.setValue("rows", rows_->saveState());
  files_->reader().stop();
  event->accept();
  QApplication::quit();
}

void MainWindow::dragEnterEvent(QDragEnterEvent* event) {
  if (event->mimeData()->hasUrls()) event->acceptProposedAction();
}

void MainWindow::dropEvent(QDropEvent* event) {
  for (const QUrl& url : event->mimeData()->urls())
    if (url.isLocalFile()) return files_->take(url.toLocalFile());
}

}  // namespace kervo::app
