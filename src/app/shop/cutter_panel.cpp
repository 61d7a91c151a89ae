#include "app/shop/cutter_panel.h"

#include <QFormLayout>
#include <QHBoxLayout>
#include <QPainter>
#include <QVBoxLayout>

#include "app/look.h"

namespace kervo::app {

namespace {

constexpr int frames = 25;          ///< a second
constexpr double playSeconds = 20;  ///< that the whole takes to be played, if it takes longer
constexpr int shares = 10000;

QString timeText(double seconds) {
  const int whole = static_cast<int>(seconds);
  return QStringLiteral("%1:%2").arg(whole / 60).arg(whole % 60, 2, 10, QChar('0'));
}

}  // namespace

void CutterView::setRun(const CutRun* run, double kerf) {
  run_ = run;
  kerf_ = kerf;
  update();
}

void CutterView::setTime(double seconds) {
  seconds_ = seconds;
  update();
}

void CutterView::paintOver(QPainter& painter) {
  if (!run_) return;
  const double height = picture().height, thin = 1 / pixelsPerMillimetre();
  for (const FreedPart& part : run_->freed) {
    if (part.at > seconds_) continue;
    QPainterPath area = pathOf(run_->paths[part.path].chain, height);
    painter.fillPath(area, part.waste ? QColor("#ffffff") : QColor("#d4e7e3"));
  }
  for (const CutPath& path : run_->paths) {
    const bool begun = seconds_ > path.begins, done = seconds_ >= path.ends;
    const QPainterPath line = pathOf(path.chain, height);
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(path.marked ? QColor("#9db4d8") : QColor("#c6ccd0"), thin));
    painter.drawPath(line);
    if (!begun) continue;
    const QColor burned = path.marked ? QColor("#3568a8") : path.closed ? QColor("#1d2b33") : QColor("#c8452c");
    painter.setPen(
        QPen(burned, path.marked ? thin : std::max(kerf_, 1.5 * thin), Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
    if (done) {
      painter.drawPath(line);
      continue;
    }
    // As far as the beam is.
    const double share = (seconds_ - path.begins) / (path.ends - path.begins);
    QPainterPath part(line.pointAtPercent(0));
    constexpr int most = 400;
    for (int i = 1; i <= most && i * share / most <= share; ++i) part.lineTo(line.pointAtPercent(i * share / most));
    painter.drawPath(part);
  }
  const PlanePoint beam = beamAt(*run_, seconds_);
  painter.setPen(Qt::NoPen);
  painter.setBrush(QColor("#c8452c"));
  painter.drawEllipse(QPointF(beam.u, height - beam.v), 4 * thin, 4 * thin);
}

CutterPanel::CutterPanel(QWidget* parent)
    : QWidget(parent),
      view_(new CutterView),
      events_(new QListWidget),
      sums_(new QLabel),
      kerf_(new QDoubleSpinBox),
      feed_(new QDoubleSpinBox),
      slider_(new QSlider(Qt::Horizontal)),
      play_(new QPushButton(tr("Play"))) {
  kerf_->setRange(0, 20);
  kerf_->setDecimals(3);
  kerf_->setSingleStep(0.05);
  kerf_->setValue(CutterSettings().kerf);
  kerf_->setSuffix(tr(" mm"));
  kerf_->setAccessibleName(tr("Kerf"));
  feed_->setRange(0.01, 10000);
  feed_->setValue(CutterSettings().feed);
  feed_->setSuffix(tr(" mm/s"));
  feed_->setAccessibleName(tr("Feed"));
  slider_->setRange(0, shares);
  slider_->setAccessibleName(tr("Time"));
  events_->setAccessibleName(tr("What falls free, and what to look at"));
  sums_->setWordWrap(true);
  auto* form = new QFormLayout;
  form->addRow(tr("Kerf"), kerf_);
  form->addRow(tr("Feed"), feed_);
  auto* side = new QVBoxLayout;
  side->addLayout(form);
  side->addWidget(sums_);
  side->addWidget(events_, 1);
  auto* bar = new QHBoxLayout;
  bar->addWidget(play_);
  bar->addWidget(slider_, 1);
  auto* sheet = new QVBoxLayout;
  sheet->addWidget(view_, 1);
  sheet->addLayout(bar);
  auto* all = new QHBoxLayout(this);
  all->addLayout(sheet, 3);
  all->addLayout(side, 1);
  connect(kerf_, &QDoubleSpinBox::valueChanged, this, &CutterPanel::runAgain);
  connect(feed_, &QDoubleSpinBox::valueChanged, this, &CutterPanel::runAgain);
  connect(slider_, &QSlider::valueChanged, this, [this](int value) {
    if (timer_.isActive() && slider_->isSliderDown()) play(false);
    if (!timer_.isActive()) setTime(run_.seconds * value / shares);
  });
  connect(play_, &QPushButton::clicked, this, [this] { play(!timer_.isActive()); });
  connect(events_, &QListWidget::itemActivated, this, [this](const QListWidgetItem* item) {
    play(false);
    setTime(item->data(Qt::UserRole).toDouble());
  });
  connect(&timer_, &QTimer::timeout, this, [this] {
    setTime(seconds_ + std::max(1.0, run_.seconds / playSeconds) / frames);
    if (seconds_ >= run_.seconds) play(false);
  });
}

void CutterPanel::open(const QString& path) {
  Progress progress;
  file_ = readCurves(path.toStdString(), {}, progress);
  setWindowTitle(path.section('/', -1));
  const PlaneBox box = boxOf(file_);
  FlatPicture sheet{.width = std::max(box.high.u, 1.0) + std::max(0.0, box.low.u),
                    .height = std::max(box.high.v, 1.0) + std::max(0.0, box.low.v),
                    .layers = {}};
  view_->setPicture(std::move(sheet));
  runAgain();
  setTime(0);
}

void CutterPanel::runAgain() {
  Progress progress;
  const double share = run_.seconds > 0 ? seconds_ / run_.seconds : 0;
  run_ = runCutter(file_, {.kerf = kerf_->value(), .feed = feed_->value()}, progress);
  view_->setRun(&run_, kerf_->value());
  showState();
  setTime(share * run_.seconds);
}

void CutterPanel::showState() {
  int parts = 0;
  for (const FreedPart& part : run_.freed) parts += part.waste ? 0 : 1;
  sums_->setText(tr("%1 parts fall free. %2 m are cut, %3 m marked, in %4 min.")
                     .arg(parts)
                     .arg(run_.cut / 1000, 0, 'f', 2)
                     .arg(run_.marked / 1000, 0, 'f', 2)
                     .arg(timeText(run_.seconds)));
  events_->clear();
  for (const std::string& finding : run_.findings) {
    auto* item = new QListWidgetItem(QString::fromStdString(finding), events_);
    item->setForeground(look().vermilion);
  }
  int number = 0;
  for (const FreedPart& part : run_.freed) {
    const QString text =
        part.waste ? tr("%1  waste, %2 cm²").arg(timeText(part.at)).arg(part.area / 100, 0, 'f', 2)
                   : tr("%1  part %2, %3 cm²").arg(timeText(part.at)).arg(++number).arg(part.area / 100, 0, 'f', 2);
    auto* item = new QListWidgetItem(text, events_);
    item->setData(Qt::UserRole, part.at);
    if (part.waste) item->setForeground(look().dim);
  }
}

void CutterPanel::setTime(double seconds) {
  seconds_ = std::clamp(seconds, 0.0, run_.seconds);
  view_->setTime(seconds_);
  const QSignalBlocker still(slider_);
  slider_->setValue(run_.seconds > 0 ? static_cast<int>(shares * seconds_ / run_.seconds) : 0);
}

void CutterPanel::play(bool on) {
  play_->setText(on ? tr("Pause") : tr("Play"));
  if (!on) return timer_.stop();
  if (seconds_ >= run_.seconds) setTime(0);
  timer_.start(1000 / frames);
}

}  // namespace kervo::app
