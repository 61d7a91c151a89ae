#include "app/gauge_fields.h"

#include <QHBoxLayout>
#include <algorithm>
#include <optional>

#include "app/look.h"

namespace kervo::app {

GaugeFields::GaugeFields(Trial& trial, Viewport& view) : trial_(trial), view_(view) {
  connect(&view_, &Viewport::moved, this, &GaugeFields::place);
}

void GaugeFields::show(const std::vector<Gauge>& gauges) {
  gauges_ = gauges;
  for (auto it = fields_.begin(); it != fields_.end();) {
    const bool wanted =
        std::any_of(gauges.begin(), gauges.end(), [&](const Gauge& gauge) { return gauge.field == it->first; });
    if (wanted) {
      ++it;
    } else {
      it->second.frame->hide();
      it->second.frame->deleteLater();
      it = fields_.erase(it);
    }
  }
  for (const Gauge& gauge : gauges) {
    const kervo::Field* driven = trial_.step().kind().field(gauge.field);
    if (!driven) continue;
    Line& field = fields_[gauge.field];
    if (!field.frame) {
      field.frame = new QFrame(&view_);
      field.frame->setObjectName("card");
      auto* row = new QHBoxLayout(field.frame);
      row->setContentsMargins(6, 2, 3, 2);
      row->setSpacing(4);
      auto* label = new QLabel(QString::fromStdString(driven->label()).toLower());
      label->setFont(fontOf(-1));
      field.line = new QLineEdit;
      field.line->setAccessibleName(tr("%1, in the view").arg(QString::fromStdString(driven->label())));
      field.line->setFixedWidth(QFontMetrics(fontOf()).horizontalAdvance("000.000 mm") + 14);
      row->addWidget(label);
      row->addWidget(field.line);
      connect(field.line, &QLineEdit::textEdited, this, [this, key = gauge.field](const QString& text) {
        if (trial_.active()) trial_.setField(key, Expression(text.trimmed().toStdString()));
      });
      connect(field.line, &QLineEdit::returnPressed, &trial_, &Trial::makeIt);
    }
    const QString text = QString::fromStdString(trial_.step().value(*driven).as<Expression>().text());
    if (field.line->text().trimmed() != text) {
      field.line->setText(text);
      field.line->setCursorPosition(0);
    }
  }
  place();
}

void GaugeFields::place() {
  constexpr int beadSize = 14;
  std::vector<QRect> taken = view_.badgeRects();
  std::vector<std::pair<QFrame*, QPoint>> beads;
  for (const Gauge& gauge : gauges_) {
    const auto found = fields_.find(gauge.field);
    if (found == fields_.end()) continue;
    const QPoint bead = (shapeOf(gauge, view_.camera()).bead / view_.devicePixelRatioF()).toPoint();
    beads.emplace_back(found->second.frame, bead);
    taken.emplace_back(bead.x() - beadSize / 2, bead.y() - beadSize / 2, beadSize, beadSize);
  }
  for (const auto& [frame, bead] : beads) {
    const QRect rect = placeBeside(bead, beadSize, frame->sizeHint(), taken);
    taken.push_back(rect);
    frame->setGeometry(rect);
    frame->show();
  }
}

QRect GaugeFields::placeBeside(QPoint bead, int gap, QSize size, const std::vector<QRect>& taken) const {
  const QRect room = view_.rect().adjusted(4, 4, -4, -4);
  // A bead outside the view has its field where the view ends.
  const int x = std::clamp(bead.x(), room.left(), room.right()), y = std::clamp(bead.y(), room.top(), room.bottom());
  const int step = size.height() / 2 + gap / 2;
  std::optional<QRect> nearest;
  for (const int off : {0, 1, -1, 2, -2, 3, -3, 4, -4})
    for (const int left : {x + gap, x - gap - size.width()}) {
      const QRect rect(QPoint(left, y - size.height() / 2 + off * step), size);
      if (!room.contains(rect)) continue;
      if (!nearest) nearest = rect;
      if (std::none_of(taken.begin(), taken.end(), [&](const QRect& other) { return rect.intersects(other); }))
        return rect;
    }
  return nearest.value_or(QRect(room.topLeft(), size));
}

QLineEdit* GaugeFields::field(const std::string& key) const {
  const auto found = fields_.find(key);
  return found == fields_.end() ? nullptr : found->second.line;
}

void GaugeFields::focus(const QString& field) {
  if (QLineEdit* line = this->field(field.toStdString())) {
    line->setFocus(Qt::MouseFocusReason);
    line->selectAll();
  }
}

}  // namespace kervo::app
