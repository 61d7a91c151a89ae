#include "app/panels/field_delegate.h"

#include <QLineEdit>
#include <QPainter>

#include "app/look.h"

namespace kervo::app {

void FieldDelegate::paint(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& index) const {
  const Look& l = look();
  painter->save();
  painter->setRenderHint(QPainter::Antialiasing);
  const bool marked = barRole_ >= 0 && index.data(barRole_).toBool();
  if ((option.state & QStyle::State_Selected) || marked) painter->fillRect(option.rect, l.tealSoft);
  if (marked && index.column() == 0)
    painter->fillRect(QRect(option.rect.left(), option.rect.top() + 2, 3, option.rect.height() - 4), l.teal);
  QRect text = option.rect.adjusted(5, 0, -4, 0);
  if (boxRole_ >= 0 && index.data(boxRole_).toBool()) {
    const QRectF box = QRectF(option.rect).adjusted(1.5, 3.5, -2.5, -3.5);
    painter->setPen(QPen(l.fieldLine, 1));
    painter->setBrush(l.field);
    painter->drawRoundedRect(box, 3, 3);
    text = option.rect.adjusted(7, 0, -7, 0);
  }
  if ((option.state & QStyle::State_HasFocus) && option.widget && option.widget->hasFocus()) {
    painter->setPen(QPen(l.teal, 1.5));
    painter->setBrush(Qt::NoBrush);
    painter->drawRoundedRect(QRectF(option.rect).adjusted(1, 1, -1, -1), 3, 3);
  }
  const QVariant picture = index.data(Qt::DecorationRole);
  if (picture.canConvert<QIcon>() && !picture.isNull()) {
    const QRect place(0, 0, 16, 16);
    const QIcon icon = picture.value<QIcon>();
    icon.paint(painter, place.translated(option.rect.center() - place.center()));
  } else if (picture.canConvert<QColor>() && !picture.isNull()) {
    QRectF swatch(0, 0, 12, 12);
    swatch.moveCenter(QRectF(option.rect).center());
    painter->setPen(QPen(l.text, 1));
    painter->setBrush(picture.value<QColor>());
    painter->drawRoundedRect(swatch, 2, 2);
  }
  QFont font = option.font;
  if (const QVariant own = index.data(Qt::FontRole); own.isValid()) font = own.value<QFont>();
  painter->setFont(font);
  const QVariant brush = index.data(Qt::ForegroundRole);
  painter->setPen(brush.isValid() ? brush.value<QBrush>().color() : l.text);
  const QVariant alignment = index.data(Qt::TextAlignmentRole);
  const QString shown = index.data(Qt::DisplayRole).toString();
  painter->drawText(text, alignment.isValid() ? alignment.toInt() : int(Qt::AlignLeft | Qt::AlignVCenter),
                    QFontMetrics(font).elidedText(shown, Qt::ElideRight, text.width()));
  painter->restore();
}

QWidget* FieldDelegate::createEditor(QWidget* parent, const QStyleOptionViewItem& option,
                                     const QModelIndex& index) const {
  QWidget* editor = QStyledItemDelegate::createEditor(parent, option, index);
  if (auto* line = qobject_cast<QLineEdit*>(editor)) {
    line->setAccessibleName(index.model()->headerData(index.column(), Qt::Horizontal).toString());
    line->setMinimumWidth(150);
  }
  return editor;
}

}  // namespace kervo::app
