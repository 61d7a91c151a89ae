#include "app/bench/pieces_list.h"

#include <QPainter>
#include <QStyledItemDelegate>

#include "app/look.h"

namespace kervo::app {

namespace {

/// Badge, name, volume, and whether it stays.
class PieceDelegate : public QStyledItemDelegate {
 public:
  using QStyledItemDelegate::QStyledItemDelegate;

  QSize sizeHint(const QStyleOptionViewItem& option, const QModelIndex&) const override {
    return {160, option.fontMetrics.height() + 9};
  }

  void paint(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& index) const override {
    const Look& l = look();
    const bool kept = index.data(PiecesModel::KeptRole).toBool();
    painter->save();
    painter->setRenderHint(QPainter::Antialiasing);
    if (option.state & (QStyle::State_MouseOver | QStyle::State_Selected)) painter->fillRect(option.rect, l.tealSoft);
    QRectF disc(0, 0, option.rect.height() - 5, option.rect.height() - 5);
    disc.moveCenter(QPointF(option.rect.left() + option.rect.height() / 2.0, option.rect.center().y() + 0.5));
    painter->setPen(Qt::NoPen);
    painter->setBrush(kept ? ViewLook::pieceBadge(index.data(PiecesModel::TintRole).toInt()) : l.view.ochre);
    painter->drawEllipse(disc);
    painter->setPen(Qt::white);
    painter->setFont(fontOf(-1, QFont::Bold));
    painter->drawText(disc, Qt::AlignCenter, index.data(PiecesModel::BadgeRole).toString());

    const QFont small = fontOf(-1);
    const QFontMetrics smallMetrics(small);
    const QString word = kept ? QObject::tr("stays") : QObject::tr("goes");
    const int wordWidth = smallMetrics.horizontalAdvance(word) + 12;
    QRectF tag(option.rect.right() - wordWidth, option.rect.top() + 4, wordWidth, option.rect.height() - 8);
    painter->setPen(Qt::NoPen);
    painter->setBrush(kept ? l.teal : l.vermilion);
    painter->drawRoundedRect(tag, 3, 3);
    painter->setPen(l.onStrong);
    painter->setFont(small);
    painter->drawText(tag, Qt::AlignCenter, word);

    const QString volume = index.data(PiecesModel::VolumeRole).toString();
    const int volumeWidth = smallMetrics.horizontalAdvance(volume) + 10;
    const QRectF volumeRect(tag.left() - volumeWidth, option.rect.top(), volumeWidth - 6, option.rect.height());
    painter->setPen(l.dim);
    painter->drawText(volumeRect, Qt::AlignRight | Qt::AlignVCenter, volume);

    painter->setPen(l.text);
    painter->setFont(option.font);
    const QRectF text(disc.right() + 6, option.rect.top(), volumeRect.left() - disc.right() - 10, option.rect.height());
    painter->drawText(text, Qt::AlignLeft | Qt::AlignVCenter,
                      option.fontMetrics.elidedText(index.data().toString(), Qt::ElideRight, int(text.width())));
    painter->restore();
  }
};

}  // namespace

void PiecesModel::show(std::shared_ptr<const Tried> tried) {
  beginResetModel();
  tried_ = tried && tried->report().result ? std::move(tried) : nullptr;
  numbers_.clear();
  int number = 0;
  if (tried_)
    for (const Piece& piece : tried_->report().result->pieces) numbers_.push_back(piece.kept ? number++ : -1);
  endResetModel();
}

int PiecesModel::rowCount(const QModelIndex&) const {
  return tried_ ? static_cast<int>(tried_->report().result->pieces.size()) : 0;
}

QVariant PiecesModel::data(const QModelIndex& index, int role) const {
  const auto row = static_cast<std::size_t>(index.row());
  if (!tried_ || row >= numbers_.size()) return {};
  const Piece& piece = tried_->report().result->pieces[row];
  const Body* body = piece.kept ? tried_->after->find(piece.body) : nullptr;
  QString name = QString::fromStdString(body ? body->name : piece.name);
  // Dropped parts are named after their body's id; people know it by its name.
  if (const Body* from = tried_->before->find(piece.from); from && !piece.kept)
    name.replace(QString::fromStdString(piece.from), QString::fromStdString(from->name));
  const QString size = piece.volume > 0 ? volumeText(piece.volume) : areaText(piece.area);
  switch (role) {
    case Qt::DisplayRole:
      return name;
    case VolumeRole:
      return size;
    case KeptRole:
      return piece.kept;
    case BadgeRole:
      return piece.kept ? QString::number(numbers_[row] + 1) : QStringLiteral("–");
    case TintRole:
      return std::max(0, numbers_[row]);
    case Qt::ToolTipRole:
    case Qt::AccessibleTextRole:
      return QStringLiteral("%1 · %2 · %3 · %4")
          .arg(name, size, areaText(piece.area), piece.kept ? tr("stays") : tr("goes"));
    default:
      return {};
  }
}

PiecesList::PiecesList(QWidget* parent) : QListView(parent), model_(new PiecesModel(this)) {
  setModel(model_);
  setItemDelegate(new PieceDelegate(this));
  setFrameShape(QFrame::NoFrame);
  setMouseTracking(true);
  setUniformItemSizes(true);
  setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  setAccessibleName(tr("Pieces"));
  viewport()->setAutoFillBackground(false);
  connect(this, &QListView::entered, this, [this](const QModelIndex& index) { emit pointed(index.row()); });
  connect(selectionModel(), &QItemSelectionModel::currentChanged, this,
          [this](const QModelIndex& index) { emit pointed(index.row()); });
}

void PiecesList::light(int row) {
  setCurrentIndex(model_->index(row));
}

void PiecesList::leaveEvent(QEvent* event) {
  QListView::leaveEvent(event);
  emit pointed(-1);
}

}  // namespace kervo::app
