#include "app/main_window.h"

#include <QApplication>
#include <QCloseEvent>
#include <QDragEnterEvent>
#include <QMenu>
#include <QMimeData>
#include <QScreen>
#include <QSettings>
#include <QTimer>

#include "app/application.h"
#include "app/drawing/drawing_chip.h"
#include "app/find_entries.h"
#include "app/icons.h"
#include "app/look.h"
#include "app/new_pieces.h"
#include "app/screen_fit.h"
#include "app/sections/section_ruler.h"

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
  panes_ = new ViewPanes(desk_, canDrawWithOpenGl() ? view_ : nullptr);
  cutList_ = new CutListPanel(desk_);
  dimensions_ = new DimensionsPanel(desk_);
  levels_ = new LevelsPanel(desk_);
  bodies_ = new BodiesPanel(desk_);
  sections_ = new SectionsPanel(desk_);
  measure_ = new MeasurePanel(desk_);
  surfaces_ = new SurfacesPanel(desk_);
  openings_ = new OpeningsPanel(desk_);
  drawing_ = new DrawingPanel(desk_);
  constraints_ = new ConstraintsPanel(desk_);
  columns_ = new QSplitter(Qt::Horizontal);
  find_ = new FindBox([this] { return findEntries(*this); }, this);
  message_ = new MessageBar;
  recovery_ = std::make_unique<Recovery>(*files_, *message_);
  verbs_.fill();
  bench_ = new Bench(desk_, verbs_.verbs());
  gaugeFields_ = std::make_unique<GaugeFields>(desk_.trial, *view_);
  drawingFields_ = std::make_unique<DrawingFields>(desk_, *view_);
  connect(measure_, &MeasurePanel::marked, this, &MainWindow::showMeasured);
  new DrawingChip(desk_, view_);
  new SectionRuler(desk_, *view_, *panes_);
  stage_ = std::make_unique<Stage>(desk_, *bench_, *view_, *panes_, *gaugeFields_);

  auto* left = new QSplitter(Qt::Vertical);
  left->addWidget(cutList_);
  left->addWidget(dimensions_);
  left->addWidget(levels_);
  left->setStretchFactor(0, 3);
  left->setStretchFactor(1, 2);
  auto* right = new QSplitter(Qt::Vertical);
  right->addWidget(bodies_);
  right->addWidget(sections_);
  right->addWidget(measure_);
  right->addWidget(openings_);
  right->addWidget(surfaces_);
  right->addWidget(drawing_);
  right->addWidget(constraints_);
  drawing_->hide();
  constraints_->hide();
  left->setSizes({300, 150, 40});
  right->setSizes({200, 110, 196, 34, 34, 240, 300});
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
  // With large fonts the openings leave no room for all panels beside them: others fold, so that the Bench stays whole,
  // until the openings go.
  const auto makeRoom = [this, right, height = metrics.height() * benchHeightLines] {
    const std::initializer_list<Panel*> others = {surfaces_, sections_, measure_};
    if (openings_->folded() || !openings_->isVisible()) {
      for (Panel* other : others) other->setCrowded(false);
      return;
    }
    for (Panel* other : others) {
      if (right->minimumSizeHint().height() + height <= rows_->height()) return;
      if (!other->folded()) other->setCrowded(true);
    }
  };
  const auto makeRoomSoon = [this, makeRoom] { QTimer::singleShot(0, this, makeRoom); };
  connect(openings_, &Panel::foldedChanged, this, makeRoomSoon);
  connect(&desk_.openings, &OpeningLists::changed, this, makeRoomSoon);
  connect(&desk_.selection, &Selection::changed, this, makeRoomSoon);
  setMenuWidget(makeStrip());
  status_ = new StatusLine(desk_, *files_, *bench_);
  setStatusBar(status_);
  connectParts();

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
  for (const Verb& verb : verbs())
    if (verb.offered && verb.offered())
      menu.addAction(icon(verb.picture), verb.offeredAs ? verb.offeredAs() : verb.text, this, verb.run);
  if (!menu.isEmpty()) menu.exec(at);
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
  if (event->type() != QEvent::PaletteChange || !view_ || !menus_) return;
  menus_->redrawPictures();
  view_->update();
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
  for (const int milliseconds : {0, 50, 200, 600}) QTimer::singleShot(milliseconds, this, [this] { fitScreen(*this); });
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
