#include "app/status_line.h"

#include <QFileInfo>

namespace kervo::app {

namespace {

constexpr int progressSteps = 1000;

}  // namespace

StatusLine::StatusLine(Desk& desk, Files& files, const Bench& bench) : desk_(desk), files_(files), bench_(bench) {
  hint_ = new QLabel;
  where_ = new QLabel;
  where_->setObjectName("dim");
  progress_ = new QProgressBar;
  progress_->setTextVisible(false);
  progress_->setFixedWidth(120);
  progress_->hide();
  stop_ = new QPushButton(tr("Stop"));
  stop_->hide();
  addWidget(hint_, 1);
  addPermanentWidget(progress_);
  addPermanentWidget(stop_);
  addPermanentWidget(where_);
  setSizeGripEnabled(false);
  setContentsMargins(12, 0, 12, 0);
  connect(&desk_.drawing, &DrawingDesk::toolChanged, this, &StatusLine::refresh);
  connect(&desk_.worker, &Worker::progressed, this, [this](double fraction, const QString& activity) {
    if (!files_.reader().busy()) showWork(fraction, activity);
  });
  connect(&desk_.worker, &Worker::becameIdle, this, &StatusLine::hideWork);
  connect(&files_.reader(), &ForeignReader::started, this,
          [this](const QString& path) { showWork(-1, tr("Reading %1").arg(QFileInfo(path).fileName())); });
  connect(&files_.reader(), &ForeignReader::finished, this, &StatusLine::hideWork);
  connect(stop_, &QPushButton::clicked, this, [this] {
    files_.reader().stop();
    desk_.worker.stop();
  });
}

void StatusLine::showWork(double fraction, const QString& activity) {
  // How far another process is cannot be known.
  progress_->setRange(0, fraction < 0 ? 0 : progressSteps);
  progress_->setValue(int(fraction * progressSteps));
  progress_->show();
  stop_->show();
  hint_->setText(activity + " …");
}

void StatusLine::hideWork() {
  progress_->hide();
  stop_->hide();
  refresh();
}

void StatusLine::showPointer(const std::optional<Point>& at) {
  const std::string& unit = desk_.session.document().made.unit;
  // −0.001 is not to be −0.00.
  const auto text = [factor = unitNamed(unit).factor](double coordinate) {
    return QString::number(std::round(coordinate / factor * 100) / 100 + 0.0, 'f', 2);
  };
  where_->setText(
      at ? tr("%1 · x %2  y %3  z %4").arg(QString::fromStdString(unit), text(at->x), text(at->y), text(at->z))
         : QString::fromStdString(unit));
}

void StatusLine::refresh() {
  if (!desk_.worker.busy() || !progress_->isVisible()) hint_->setText(hint());
}

QString StatusLine::hint() const {
  if (bench_.armed())
    return tr(
        "Click in the view to pick, drag a box for several. N and P step through with the keyboard, Space takes. "
        "Esc ends picking.");
  if (bench_.chooser() && bench_.chooser()->waiting())
    return tr("Pick a body or face in the view: the pieces that touch it stay.");
  if (desk_.drawing.open()) {
    if (desk_.drawing.trim() == TrimMode::Sweep)
      return tr("Click or sweep over the stretches that shall go. Esc ends it.");
    if (desk_.drawing.trim() == TrimMode::Lengthen)
      return tr("Click a curve near the end that shall go on to the next curve. Esc ends it.");
    if (const StrokeKind* kind = desk_.drawing.kind()) {
      if (kind->more) return tr("Click place after place; double-click or Enter ends the curve. Alt: no constraints.");
      if (kind->chain)
        return tr("Click place after place. Enter closes the chain, Ctrl+click begins another, Esc ends it.");
      return tr(
          "Click or drag in the view, or type numbers: Tab goes on to the next, Enter takes them. Alt: no "
          "constraints.");
    }
    return tr(
        "Drag points and curves; click them to constrain. Double-click a dimension to type it. N and P step through.");
  }
  if (desk_.trial.hasPieceChoice())
    return tr("Drag a bead or type a value. Click a numbered piece to drop or keep it. Enter makes it.");
  if (desk_.trial.active()) return tr("Drag a bead in the view or type a value. Enter makes it, Esc puts it back.");
  if (!desk_.selection.empty())
    return tr("Choose a verb on the Bench. Ctrl+click adds to the selection, Esc clears it.");
  if (desk_.session.untouched()) return tr("Choose how to start on the Bench, or drop a file into the window.");
  return tr("Right drag turns, middle drag moves, the wheel zooms. Click a face, edge or body to start.");
}

}  // namespace kervo::app
