#include "app/gauge_fields.h"

#include <QHBoxLayout>

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
    const FieldSpec* spec = trial_.step().kind().field(gauge.field);
    if (!spec) continue;
    Field& field = fields_[gauge.field];
    if (!field.frame) {
      field.frame = new QFrame(&view_);
      field.frame->setObjectName("card");
      auto* row = new QHBoxLayout(field.frame);
      row->setContentsMargins(6, 2, 3, 2);
      row->setSpacing(4);
      auto* label = new QLabel(QString::fromStdString(spec->label).toLower());
      label->setFont(fontOf(-1));
      field.line = new QLineEdit;
      field.line->setAccessibleName(tr("%1, in the view").arg(QString::fromStdString(spec->label)));
      field.line->setFixedWidth(QFontMetrics(fontOf()).horizontalAdvance("000.000 mm") + 14);
      row->addWidget(label);
      row->addWidget(field.line);
      connect(field.line, &QLineEdit::textEdited, this, [this, key = gauge.field](const QString& text) {
        if (trial_.active()) trial_.setField(key, Expression(text.trimmed().toStdString()));
      });
      connect(field.line, &QLineEdit::returnPressed, &trial_, &Trial::makeIt);
    }
    const QString text = QString::fromStdString(std::get<Expression>(trial_.step().value(gauge.field)).text());
    if (field.line->text().trimmed() != text) {
      field.line->setText(text);
      field.line->setCursorPosition(0);
    }
  }
  place();
}

void GaugeFields::place() {
  for (const Gauge& gauge : gauges_) {
    const auto found = fields_.find(gauge.field);
    if (found == fields_.end()) continue;
    QFrame* frame = found->second.frame;
    const GaugeShape shape = shapeOf(gauge, view_.camera());
    const QPointF bead = shape.bead / view_.devicePixelRatioF();
    const QSize size = frame->sizeHint();
    QPoint at(int(bead.x()) + 14, int(bead.y()) - size.height() / 2);
    // Beside the bead, inside the view.
    if (at.x() + size.width() > view_.width() - 4) at.setX(int(bead.x()) - 14 - size.width());
    at.setX(std::clamp(at.x(), 4, std::max(4, view_.width() - size.width() - 4)));
    at.setY(std::clamp(at.y(), 4, std::max(4, view_.height() - size.height() - 4)));
    frame->resize(size);
    frame->move(at);
    frame->show();
  }
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
