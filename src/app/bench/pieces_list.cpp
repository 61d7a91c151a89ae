#include "app/bench/pieces_list.h"

#include <QMouseEvent>
#include <QPainter>
#include <QStyledItemDelegate>

#include "app/look.h"
#include "model/names_for_people.h"

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
    painter->setFont(small);
    const PiecesList::Words words = PiecesList::wordsIn(option.rect, smallMetrics);
    const bool choosable = static_cast<const PiecesList*>(option.widget)->property("choosable").toBool();
    for (const auto& [rect, text, on, color] :
         {std::tuple(words.keep, choosable ? QObject::tr("keep") : QObject::tr("stays"), kept, l.teal),
          std::tuple(words.drop, choosable ? QObject::tr("drop") : QObject::tr("goes"), !kept, l.vermilion)}) {
      if (!on && !choosable) continue;
      painter->setPen(on ? Qt::NoPen : QPen(l.line));
      painter->setBrush(on ? QBrush(color) : Qt::NoBrush);
      painter->drawRoundedRect(QRectF(rect).adjusted(0.5, 0.5, -0.5, -0.5), 3, 3);
      painter->setPen(on ? l.onStrong : l.dim);
      painter->drawText(rect, Qt::AlignCenter, text);
    }

    const QString volume = index.data(PiecesModel::VolumeRole).toString();
    const int volumeWidth = smallMetrics.horizontalAdvance(volume) + 10;
    const QRectF volumeRect(words.keep.left() - volumeWidth, option.rect.top(), volumeWidth - 6, option.rect.height());
    painter->setPen(l.dim);
    painter->drawText(volumeRect, Qt::AlignRight | Qt::AlignVCenter, volume);

    painter->setPen(l.text);
    painter->setFont(option.font);
    const QRectF text(disc.right() + 6, option.rect.top(), volumeRect.left() - disc.right() - 10, option.rect.height());
    painter->drawText(text, Qt::AlignLeft | Qt::AlignVCenter,
                      option.fontMetrics.elidedText(index.data().toString(), Qt::ElideMiddle, int(text.width())));
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
  QString name = QString::fromStdString(body ? body->name : withNames(piece.name, *tried_->after, Quotes::Drop));
  // Dropped parts are named after their body's id; people know it by its name.
  if (const Body* from = tried_->before->find(piece.from); from && !piece.kept)
    name = name.contains(QString::fromStdString(piece.from))
               ? name.replace(QString::fromStdString(piece.from), QString::fromStdString(from->name))
               : QStringLiteral("%1, %2").arg(QString::fromStdString(from->name), name);
  const QString size = piece.volume > 0   ? volumeText(piece.volume)
                       : piece.length > 0 ? lengthText(piece.length, "mm")
                                          : areaText(piece.area);
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
      return QStringLiteral("%1 · %2 · %3")
          .arg(name, piece.volume > 0 ? QStringLiteral("%1 · %2").arg(size, areaText(piece.area)) : size,
               piece.kept ? tr("stays") : tr("goes"));
    default:
      return {};
  }
}

const Piece* PiecesModel::at(int row) const {
  if (!tried_ || row < 0 || row >= rowCount()) return nullptr;
  return &tried_->report().result->pieces[static_cast<std::size_t>(row)];
}

PiecesList::PiecesList(QWidget* parent) : QListView(parent), model_(new PiecesModel(this)) {
  setModel(model_);
  setItemDelegate(new PieceDelegate(this));
  setFrameShape(QFrame::NoFrame);
  setMouseTracking(true);
  setUniformItemSizes(true);
  setSelectionMode(QAbstractItemView::ExtendedSelection);
  setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  setAccessibleName(tr("Pieces"));
  setToolTip(tr("Space turns a piece round, Delete drops it"));
  viewport()->setAutoFillBackground(false);
  connect(this, &QListView::entered, this, [this](const QModelIndex& index) { emit pointed(index.row()); });
  connect(selectionModel(), &QItemSelectionModel::currentChanged, this,
          [this](const QModelIndex& index) { emit pointed(index.row()); });
}

void PiecesList::light(int row) {
  setCurrentIndex(model_->index(row));
}

void PiecesList::setChoosable(bool choosable) {
  setProperty("choosable", choosable);
  viewport()->update();
}

PiecesList::Words PiecesList::wordsIn(const QRect& row, const QFontMetrics& metrics) {
  const int width = std::max(metrics.horizontalAdvance(tr("keep")), metrics.horizontalAdvance(tr("drop"))) + 12;
  const QRect drop(row.right() - width, row.top() + 3, width, row.height() - 6);
  return {drop.translated(-width - 2, 0), drop};
}

void PiecesList::choose(const QModelIndexList& rows, std::optional<bool> stay) {
  if (!property("choosable").toBool()) return;
  std::map<BodyId, bool> wanted;
  for (const QModelIndex& index : rows)
    if (const Piece* piece = model_->at(index.row()))
      if (const bool stays = stay.value_or(!piece->kept); stays != piece->kept) wanted[piece->key] = stays;
  if (!wanted.empty()) emit chosen(wanted);
}

void PiecesList::mouseReleaseEvent(QMouseEvent* event) {
  QListView::mouseReleaseEvent(event);
  const QModelIndex index = indexAt(event->position().toPoint());
  if (event->button() != Qt::LeftButton || !index.isValid()) return;
  const Words words = wordsIn(visualRect(index), QFontMetrics(fontOf(-1)));
  const bool keep = words.keep.contains(event->position().toPoint());
  if (!keep && !words.drop.contains(event->position().toPoint())) return;
  // A word in one of several selected rows counts for all of them.
  const QModelIndexList selected = selectionModel()->selectedIndexes();
  choose(selected.contains(index) && selected.size() > 1 ? selected : QModelIndexList{index}, keep);
}

void PiecesList::keyPressEvent(QKeyEvent* event) {
  if (event->key() == Qt::Key_Space) return choose(selectionModel()->selectedIndexes(), std::nullopt);
  if (event->key() == Qt::Key_Delete) return choose(selectionModel()->selectedIndexes(), false);
  QListView::keyPressEvent(event);
}

void PiecesList::leaveEvent(QEvent* event) {
  QListView::leaveEvent(event);
  emit pointed(-1);
}

}  // namespace kervo::app
