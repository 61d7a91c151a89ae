#include "app/bench/hatch_editor.h"

#include <QEvent>
#include <QGridLayout>
#include <QPainter>
#include <QPainterPath>
#include <QToolButton>
#include <cmath>

#include "app/look.h"
#include "model/hatches.h"

namespace kervo::app {

namespace {

constexpr int columns = 4;
constexpr QSize swatch(44, 22);
/// Pixels a millimetre of the hatch on paper: so that the widest still shows what it is.
constexpr double pixels = 2.2;

QPixmap picture(const Hatch& hatch, double ratio) {
  QPixmap image(swatch * ratio);
  image.setDevicePixelRatio(ratio);
  image.fill(Qt::transparent);
  QPainter painter(&image);
  painter.setRenderHint(QPainter::Antialiasing);
  const QRectF frame(0.5, 0.5, swatch.width() - 1, swatch.height() - 1);
  QPainterPath inside;
  inside.addRoundedRect(frame, 3, 3);
  painter.fillPath(inside, look().tealSoft);
  painter.setClipPath(inside);
  const double reach = swatch.width();
  for (const HatchLines& lines : hatch.lines) {
    painter.save();
    painter.translate(frame.center());
    painter.rotate(-lines.angle * 180 / std::acos(-1.0));
    QPen pen(look().text, 1);
    pen.setCapStyle(Qt::FlatCap);
    if (lines.dash > 0) pen.setDashPattern({lines.dash * pixels, lines.gap * pixels});
    const double spacing = lines.spacing * pixels;
    const int most = static_cast<int>(std::ceil(reach / spacing));
    for (int i = -most; i <= most; ++i) {
      if (lines.dash > 0) pen.setDashOffset(-i * lines.shift * pixels);
      painter.setPen(pen);
      const double y = i * spacing + lines.offset * pixels;
      painter.drawLine(QPointF(-reach, y), QPointF(reach, y));
    }
    painter.restore();
  }
  painter.setClipping(false);
  painter.setPen(QPen(look().text, 1));
  painter.drawPath(inside);
  return image;
}

}  // namespace

bool HatchEditor::fits(const WordField& field) {
  return field.words() == hatchKeys();
}

HatchEditor::HatchEditor(const WordField& field, Desk& desk, QWidget* parent)
    : FieldEditor(field, desk, parent), keys_(field.words()), swatches_(new QButtonGroup(this)) {
  auto* grid = new QGridLayout(this);
  grid->setContentsMargins(0, 0, 0, 0);
  grid->setSpacing(2);
  for (std::size_t i = 0; i < keys_.size(); ++i) {
    auto* button = new QToolButton;
    button->setObjectName("swatch");
    button->setCheckable(true);
    button->setFocusPolicy(Qt::StrongFocus);
    button->setToolButtonStyle(Qt::ToolButtonTextUnderIcon);
    button->setIconSize(swatch);
    button->setFont(fontOf(-2));
    button->setText(QString::fromStdString(say(findHatch(keys_[i])->label.c_str())));
    button->setAccessibleName(tr("Hatch: %1").arg(button->text()));
    button->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    swatches_->addButton(button, static_cast<int>(i));
    grid->addWidget(button, static_cast<int>(i) / columns, static_cast<int>(i) % columns);
  }
  connect(swatches_, &QButtonGroup::idClicked, this, [this](int id) { set(keys_[static_cast<std::size_t>(id)]); });
  paintAll();
}

void HatchEditor::paintAll() {
  for (QAbstractButton* button : swatches_->buttons())
    button->setIcon(picture(*findHatch(keys_[static_cast<std::size_t>(swatches_->id(button))]), devicePixelRatioF()));
}

void HatchEditor::changeEvent(QEvent* event) {
  FieldEditor::changeEvent(event);
  if (event->type() == QEvent::PaletteChange) paintAll();
}

void HatchEditor::refresh() {
  const auto found = std::find(keys_.begin(), keys_.end(), valueAs<std::string>());
  if (found != keys_.end()) swatches_->button(static_cast<int>(found - keys_.begin()))->setChecked(true);
}

QWidget* HatchEditor::first() {
  return swatches_->checkedButton() ? swatches_->checkedButton() : swatches_->button(0);
}

}  // namespace kervo::app
