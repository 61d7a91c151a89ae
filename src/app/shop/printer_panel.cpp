#include "app/shop/printer_panel.h"

#include <QFormLayout>
#include <QHBoxLayout>
#include <QPainter>
#include <QPointer>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

#include "app/look.h"

namespace kervo::app {

namespace {

constexpr int frames = 25;          ///< a second
constexpr double playSeconds = 15;  ///< that the whole takes to be played, if it has more layers than frames

QColor inkOf(const std::optional<Color>& color) {
  if (!color) return QColor("#8fa3ad");
  return QColor::fromRgbF(static_cast<float>(color->red), static_cast<float>(color->green),
                          static_cast<float>(color->blue));
}

QString hoursText(double seconds) {
  const long minutes = std::lround(seconds / 60);
  return QObject::tr("%1 h %2 min").arg(minutes / 60).arg(minutes % 60);
}

}  // namespace

void PrinterView::setRun(std::shared_ptr<const PrintRun> run) {
  run_ = std::move(run);
  layer_ = 0;
  update();
}

void PrinterView::setLayer(std::size_t layer) {
  layer_ = layer;
  update();
}

QPainterPath PrinterView::pathOf(const std::vector<std::vector<PlanePoint>>& outlines) const {
  constexpr double margin = 5;
  QPainterPath path;
  for (const auto& outline : outlines) {
    QPolygonF polygon;
    for (const PlanePoint& point : outline)
      polygon << QPointF(point.u - run_->box.low.x + margin, picture().height - (point.v - run_->box.low.y) - margin);
    path.addPolygon(polygon);
    path.closeSubpath();
  }
  path.setFillRule(Qt::WindingFill);
  return path;
}

void PrinterView::paintOver(QPainter& painter) {
  if (!run_ || run_->layers.empty()) return;
  const double thin = 1 / pixelsPerMillimetre();
  const auto& layers = run_->layers;
  if (layer_ > 0)
    for (const PrintedPart& part : layers[layer_ - 1].parts) {
      painter.setPen(QPen(QColor("#c6ccd0"), thin));
      painter.setBrush(QColor("#eef1f3"));
      painter.drawPath(pathOf(part.outlines));
    }
  const PrintedLayer& layer = layers[std::min(layer_, layers.size() - 1)];
  for (const PrintedPart& part : layer.parts) {
    painter.setPen(QPen(inkOf(part.color).darker(150), 1.5 * thin));
    painter.setBrush(inkOf(part.color));
    painter.drawPath(pathOf(part.outlines));
  }
  // In the air: hatched in a ring; too thin: outlined broadly. Neither is told by its colour alone.
  painter.setPen(QPen(QColor("#c8452c"), 3 * thin));
  painter.setBrush(QBrush(QColor("#c8452c"), Qt::BDiagPattern));
  painter.drawPath(pathOf(layer.unsupported));
  painter.setBrush(Qt::NoBrush);
  painter.setPen(QPen(QColor("#c8452c"), 4 * thin, Qt::DotLine));
  painter.drawPath(pathOf(layer.thin));
}

QDoubleSpinBox* PrinterPanel::addNumber(QFormLayout* form, const QString& name, double value, double most,
                                        const QString& unit) {
  auto* box = new QDoubleSpinBox;
  box->setRange(most <= 100 && unit == "%" ? 0 : 0.01, most);
  box->setDecimals(unit == "%" ? 0 : 2);
  box->setSingleStep(value / 4);
  box->setValue(value);
  box->setSuffix(" " + unit);
  box->setAccessibleName(name);
  form->addRow(name, box);
  connect(box, &QDoubleSpinBox::valueChanged, this, [this] { typed_.start(); });
  return box;
}

PrinterPanel::PrinterPanel(Worker& worker, QWidget* parent)
    : QWidget(parent),
      worker_(worker),
      view_(new PrinterView),
      events_(new QListWidget),
      sums_(new QLabel),
      here_(new QLabel),
      slider_(new QSlider(Qt::Horizontal)),
      play_(new QPushButton(tr("Play"))) {
  const PrinterSettings usual;
  auto* form = new QFormLayout;
  height_ = addNumber(form, tr("Layer"), usual.layer, 10, tr("mm"));
  nozzle_ = addNumber(form, tr("Nozzle"), usual.nozzle, 10, tr("mm"));
  fill_ = addNumber(form, tr("Filling"), usual.fill * 100, 100, "%");
  wallSpeed_ = addNumber(form, tr("Speed, walls"), usual.wallSpeed, 10000, tr("mm/s"));
  fillSpeed_ = addNumber(form, tr("Speed, inside"), usual.fillSpeed, 10000, tr("mm/s"));
  width_ = addNumber(form, tr("Bed, width"), usual.width, 100000, tr("mm"));
  depth_ = addNumber(form, tr("Bed, depth"), usual.depth, 100000, tr("mm"));
  tall_ = addNumber(form, tr("Height"), usual.height, 100000, tr("mm"));
  typed_.setSingleShot(true);
  typed_.setInterval(400);
  connect(&typed_, &QTimer::timeout, this, &PrinterPanel::slice);
  slider_->setAccessibleName(tr("Layer shown"));
  events_->setAccessibleName(tr("What to look at, by layers"));
  events_->setWordWrap(true);
  sums_->setWordWrap(true);
  sums_->setTextFormat(Qt::RichText);
  auto* side = new QVBoxLayout;
  side->addLayout(form);
  side->addWidget(sums_);
  side->addWidget(events_, 1);
  auto* bar = new QHBoxLayout;
  bar->addWidget(play_);
  bar->addWidget(slider_, 1);
  bar->addWidget(here_);
  auto* sheet = new QVBoxLayout;
  sheet->addWidget(view_, 1);
  sheet->addLayout(bar);
  auto* all = new QHBoxLayout(this);
  all->addLayout(sheet, 3);
  all->addLayout(side, 1);
  connect(slider_, &QSlider::valueChanged, this, [this](int value) {
    if (slider_->isSliderDown()) play(false);
    setLayer(static_cast<std::size_t>(value));
  });
  connect(play_, &QPushButton::clicked, this, [this] { play(!timer_.isActive()); });
  connect(events_, &QListWidget::itemActivated, this, [this](const QListWidgetItem* item) {
    play(false);
    if (item->data(Qt::UserRole).isValid()) setLayer(static_cast<std::size_t>(item->data(Qt::UserRole).toInt()));
  });
  connect(&timer_, &QTimer::timeout, this, [this] {
    const auto count = static_cast<double>(run_->layers.size());
    setLayer(layer_ + static_cast<std::size_t>(std::max(1.0, count / playSeconds / frames)));
    if (layer_ + 1 >= run_->layers.size()) play(false);
  });
}

void PrinterPanel::open(const QString& path) {
  path_ = path;
  setWindowTitle(path.section('/', -1));
  slice();
}

void PrinterPanel::slice() {
  play(false);
  const int number = ++newest_;
  const PrinterSettings settings{.layer = height_->value(),
                                 .nozzle = nozzle_->value(),
                                 .fill = fill_->value() / 100,
                                 .wallSpeed = wallSpeed_->value(),
                                 .fillSpeed = fillSpeed_->value(),
                                 .width = width_->value(),
                                 .depth = depth_->value(),
                                 .height = tall_->value()};
  sums_->setText(tr("being sliced …"));
  const QPointer<PrinterPanel> panel(this);
  const auto refuse = [panel, number](const QString& text) {
    if (!panel || panel->newest_ != number) return;
    panel->run_.reset();
    panel->events_->clear();
    panel->sums_->setText(text.toHtmlEscaped());
    panel->view_->setRun(nullptr);
    panel->view_->setHint(tr("nothing to be printed"));
  };
  worker_.run(
      tr("Slicing"),
      [panel, number, settings, path = path_.toStdString()](Progress& progress) -> Worker::Then {
        auto run = std::make_shared<const PrintRun>(runPrinter(path, settings, progress));
        return [panel, number, run = std::move(run)] {
          if (panel && panel->newest_ == number) panel->take(run);
        };
      },
      [refuse](const std::optional<Error>& error) {
        refuse(error ? QString::fromStdString(error->what()) : tr("stopped"));
      });
}

void PrinterPanel::take(std::shared_ptr<const PrintRun> run) {
  run_ = std::move(run);
  constexpr double margins = 10;
  const Vector size = run_->box.high - run_->box.low;
  view_->setPicture({.width = size.x + margins, .height = size.y + margins, .layers = {}});
  view_->setRun(run_);
  QString text = tr("%1 layers, %2.").arg(run_->layers.size()).arg(hoursText(run_->seconds));
  for (const PrintedMaterial& material : run_->materials) {
    const QString ink = inkOf(material.color).name();
    text += QStringLiteral("<br><span style=\"color:%1\">■</span> ").arg(ink);  // for the machine
    text += tr("%1 cm³ of material").arg(material.volume / 1000, 0, 'f', 2);
  }
  sums_->setText(text);
  events_->clear();
  for (const std::string& finding : run_->findings) {
    auto* item = new QListWidgetItem(QString::fromStdString(finding), events_);
    item->setForeground(look().vermilion);
  }
  if (run_->findings.empty()) new QListWidgetItem(tr("nothing to look at"), events_);
  for (std::size_t i = 0; i < run_->layers.size(); ++i) {
    const PrintedLayer& layer = run_->layers[i];
    if (layer.unsupported.empty() && layer.thin.empty()) continue;
    const QString what = layer.unsupported.empty() ? tr("narrower than the nozzle") : tr("begins in the air");
    auto* item = new QListWidgetItem(tr("Layer %1, %2 mm: %3").arg(i + 1).arg(layer.top, 0, 'f', 2).arg(what), events_);
    item->setData(Qt::UserRole, static_cast<int>(i));
  }
  {
    const QSignalBlocker still(slider_);
    slider_->setRange(0, static_cast<int>(run_->layers.size()) - 1);
  }
  setLayer(std::min(layer_, run_->layers.size() - 1));
}

void PrinterPanel::setLayer(std::size_t layer) {
  if (!run_) return;
  layer_ = std::min(layer, run_->layers.size() - 1);
  view_->setLayer(layer_);
  here_->setText(
      tr("%1 of %2, %3 mm").arg(layer_ + 1).arg(run_->layers.size()).arg(run_->layers[layer_].top, 0, 'f', 2));
  const QSignalBlocker still(slider_);
  slider_->setValue(static_cast<int>(layer_));
}

void PrinterPanel::play(bool on) {
  on = on && run_;
  play_->setText(on ? tr("Pause") : tr("Play"));
  if (!on) return timer_.stop();
  if (layer_ + 1 >= run_->layers.size()) setLayer(0);
  timer_.start(1000 / frames);
}

}  // namespace kervo::app
