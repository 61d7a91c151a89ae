#include "app/main_window.h"

#include <QApplication>
#include <QCloseEvent>
#include <QDragEnterEvent>
#include <QFileInfo>
#include <QMenu>
#include <QMessageBox>
#include <QMimeData>
#include <QScreen>
#include <QSettings>
#include <QTimer>
#include <cmath>

#include "app/icons.h"
#include "app/look.h"
#include "app/new_pieces.h"
#include "app/scene_maker.h"
#include "model/names_for_people.h"

namespace kervo::app {

namespace {

constexpr int benchHeightLines = 13;

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
    const CurveKind* kind = nullptr;
    if (CurvesEditor* curves = bench_->curves()) {
      if (const DrawingResult* drawing = report.drawing()) {
        kind = curves->drawnKind();
        if (kind) plane = drawing->plane;
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
                   : waiting ? PickFilter{false, true, false, false, false}
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
