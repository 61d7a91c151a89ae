#include "app/drawing/drawing_fields.h"

#include <QHBoxLayout>
#include <QKeyEvent>
#include <QStyle>
#include <algorithm>
#include <cmath>
#include <numbers>

#include "app/look.h"
#include "base/say.h"
#include "drawing/constraint_kind.h"

namespace kervo::app {

namespace {

QFrame* cardIn(QWidget* parent) {
  auto* frame = new QFrame(parent);
  frame->setObjectName("card");
  auto* row = new QHBoxLayout(frame);
  row->setContentsMargins(6, 2, 4, 2);
  row->setSpacing(4);
  frame->hide();
  return frame;
}

/// In the view, near a place.
void putNear(QFrame* frame, QPointF at, const QRect& room) {
  const QSize size = frame->sizeHint();
  const int x =
      std::clamp(static_cast<int>(at.x()), room.left() + 4, std::max(room.left() + 4, room.right() - size.width() - 4));
  const int y =
      std::clamp(static_cast<int>(at.y()), room.top() + 4, std::max(room.top() + 4, room.bottom() - size.height() - 4));
  frame->setGeometry(QRect(QPoint(x, y), size));
}

}  // namespace

DrawingFields::DrawingFields(Desk& desk, Viewport& view) : desk_(desk), view_(view) {
  sizes_ = cardIn(&view_);
  dimension_ = cardIn(&view_);
  value_ = new QLineEdit;
  value_->setAccessibleName(tr("Value of the dimension"));
  value_->setFixedWidth(QFontMetrics(fontOf()).horizontalAdvance("flange * 0.7 + 10 mm") + 14);
  value_->installEventFilter(this);
  dimension_->layout()->addWidget(value_);
  connect(&view_, &Viewport::sizeTyped, this, &DrawingFields::begin);
  connect(&view_, &Viewport::strokeChanged, this, &DrawingFields::followStroke);
  connect(&view_, &Viewport::partTyped, this, &DrawingFields::type);
  connect(&desk_.drawing, &DrawingDesk::typeWanted, this, &DrawingFields::type);
  connect(&desk_.drawing, &DrawingDesk::toolChanged, this, [this] {
    if (!desk_.drawing.kind()) sizes_->hide();
  });
  connect(&desk_.trial, &Trial::closed, this, [this] {
    sizes_->hide();
    dimension_->hide();
  });
}

bool DrawingFields::eventFilter(QObject* watched, QEvent* event) {
  if (event->type() != QEvent::KeyPress) return QObject::eventFilter(watched, event);
  const auto* key = static_cast<QKeyEvent*>(event);
  if (key->key() == Qt::Key_Escape) {
    leave();
    return true;
  }
  if (key->key() == Qt::Key_Return || key->key() == Qt::Key_Enter) {
    watched == value_ ? takeDimension() : takeSizes();
    return true;
  }
  const auto line = std::find(lines_.begin(), lines_.end(), watched);
  const bool back =
      key->key() == Qt::Key_Backtab || (key->key() == Qt::Key_Tab && key->modifiers() & Qt::ShiftModifier);
  if (line != lines_.end() && (key->key() == Qt::Key_Tab || back)) {
    // Round among what is asked: length, Tab, angle.
    const auto count = static_cast<std::ptrdiff_t>(lines_.size());
    const std::ptrdiff_t next = (line - lines_.begin() + (back ? count - 1 : 1)) % count;
    lines_[static_cast<std::size_t>(next)]->setFocus(Qt::TabFocusReason);
    lines_[static_cast<std::size_t>(next)]->selectAll();
    return true;
  }
  return QObject::eventFilter(watched, event);
}

void DrawingFields::leave() {
  sizes_->hide();
  dimension_->hide();
  view_.setFocus();
}

void DrawingFields::buildSizes() {
  for (QLabel* label : labels_) label->deleteLater();
  for (QLineEdit* line : lines_) {
    line->hide();
    line->deleteLater();
  }
  labels_.clear();
  lines_.clear();
  for (const StrokeKind::Size& size : asked_) {
    const QString name = QString::fromStdString(say(size.label));
    auto* label = new QLabel(name);
    label->setFont(fontOf(-1));
    auto* line = new QLineEdit;
    line->setAccessibleName(tr("%1, while drawing").arg(name));
    line->setFixedWidth(QFontMetrics(fontOf()).horizontalAdvance("000.000 mm") + 14);
    line->installEventFilter(this);
    sizes_->layout()->addWidget(label);
    sizes_->layout()->addWidget(line);
    labels_.push_back(label);
    lines_.push_back(line);
  }
}

void DrawingFields::begin(const QString& text) {
  asked_ = view_.drawTool().asked();
  if (asked_.empty()) return;
  buildSizes();
  sizes_->show();
  followStroke();
  lines_.front()->setText(text);
  lines_.front()->setFocus(Qt::OtherFocusReason);
  lines_.front()->setCursorPosition(static_cast<int>(text.size()));
}

void DrawingFields::followStroke() {
  if (sizes_->isHidden()) return;
  const auto now = view_.drawTool().asked();
  const bool same = std::equal(now.begin(), now.end(), asked_.begin(), asked_.end(),
                               [](const auto& a, const auto& b) { return std::string_view(a.label) == b.label; });
  if (!same) return leave();
  const std::vector<double> values = view_.drawTool().askedNow();
  for (std::size_t i = 0; i < lines_.size() && i < values.size(); ++i) {
    const bool angle = asked_[i].dimension == angleDimension;
    lines_[i]->setPlaceholderText(QString::number(angle ? values[i] * 180 / std::numbers::pi : values[i], 'g', 5));
  }
  putNear(sizes_, view_.drawTool().pointer() + QPointF(18, 22), view_.rect());
}

void DrawingFields::takeSizes() {
  std::vector<DrawTool::Typed> typed;
  bool good = true;
  for (std::size_t i = 0; i < lines_.size(); ++i) {
    const QString text = lines_[i]->text().trimmed();
    std::optional<double> value;
    if (!text.isEmpty()) {
      value = desk_.drawing.valueOf(Expression(text.toStdString()), asked_[i].dimension);
      lines_[i]->setProperty("bad", !value);
      lines_[i]->style()->polish(lines_[i]);
      good = good && value;
    }
    typed.push_back({Expression(text.toStdString()), value});
  }
  if (!good) return;
  leave();
  view_.drawTool().take(typed);
}

void DrawingFields::type(const std::string& constraint) {
  for (const DrawnConstraint& each : desk_.drawing.drawing().constraints) {
    if (each.id != constraint || !each.value) continue;
    constraint_ = constraint;
    value_->setText(QString::fromStdString(each.value->text()));
    value_->setToolTip(inWords(desk_.drawing.drawing(), each));
    value_->setProperty("bad", false);
    value_->style()->polish(value_);
    QPointF at(view_.width() / 2.0, view_.height() / 2.0);
    for (const DrawingMark& mark : view_.drawingTool().marks())
      if (mark.constraint == constraint) at = mark.rect.topLeft();
    putNear(dimension_, at, view_.rect());
    dimension_->show();
    dimension_->raise();
    value_->setFocus(Qt::OtherFocusReason);
    value_->selectAll();
  }
}

void DrawingFields::takeDimension() {
  Drawing changed = desk_.drawing.drawing();
  for (DrawnConstraint& each : changed.constraints) {
    if (each.id != constraint_ || !each.value) continue;
    const Expression expression(value_->text().trimmed().toStdString());
    const ConstraintKind* kind = findConstraintKind(each.kind);
    const QString problem =
        problemOf({kind->measures, NumberRule::Any}, expression, desk_.session.document(), desk_.session.dimensions());
    if (!problem.isEmpty()) {
      // It stays to be set right.
      value_->setProperty("bad", true);
      value_->style()->polish(value_);
      value_->setToolTip(problem);
      return;
    }
    each.value = expression;
    desk_.drawing.set(changed, tr("Change %1").arg(inWords(changed, each)));
    return leave();
  }
  leave();
}

}  // namespace kervo::app
