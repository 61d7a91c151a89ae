#include "app/bench/pieces_chooser.h"

#include <QHBoxLayout>
#include <QItemSelectionModel>
#include <QPointer>
#include <algorithm>

#include "app/look.h"
#include "geom/measure/approach.h"
#include "geom/surface/sheet.h"

namespace kervo::app {

PiecesChooser::PiecesChooser(Desk& desk, QWidget* parent) : QWidget(parent), desk_(desk) {
  list_ = new PiecesList;
  words_ = new QWidget;
  auto* row = new QHBoxLayout(words_);
  row->setContentsMargins(0, 0, 0, 0);
  row->setSpacing(2);
  const auto word = [&](const QString& text, const QString& help) {
    auto* button = new QToolButton;
    button->setText(text);
    button->setObjectName("link");
    button->setFont(fontOf(-1));
    button->setToolTip(help);
    button->setAccessibleName(text);
    button->setFocusPolicy(Qt::StrongFocus);
    row->addWidget(button);
    return button;
  };
  connect(word(tr("keep largest"), tr("Of each body its largest piece stays, the others go")), &QToolButton::clicked,
          this, &PiecesChooser::keepLargest);
  touching_ = word(tr("keep touching …"), tr("Then pick a body or face: pieces that touch it stay, the others go"));
  touching_->setCheckable(true);
  connect(touching_, &QToolButton::toggled, this, &PiecesChooser::waitingChanged);
  connect(word(tr("invert"), tr("What stays goes, what goes stays")), &QToolButton::clicked, this,
          &PiecesChooser::invert);
  row->addStretch();
  auto* all = new QVBoxLayout(this);
  all->setContentsMargins(0, 0, 0, 0);
  all->setSpacing(1);
  all->addWidget(words_);
  all->addWidget(list_, 1);
  connect(list_, &PiecesList::chosen, &desk_.trial, &Trial::choosePieces);
  refresh();
}

void PiecesChooser::refresh() {
  // Who steps through the list with the keyboard stays where they are, by name.
  BodyId current;
  std::vector<BodyId> selected;
  if (const Piece* piece = list_->pieces()->at(list_->currentIndex().row())) current = piece->key;
  for (const QModelIndex& index : list_->selectionModel()->selectedIndexes())
    if (const Piece* piece = list_->pieces()->at(index.row())) selected.push_back(piece->key);
  list_->pieces()->show(desk_.trial.result());
  const QSignalBlocker quiet(list_->selectionModel());
  for (int row = 0; row < list_->pieces()->rowCount(); ++row) {
    const BodyId& key = list_->pieces()->at(row)->key;
    const QModelIndex index = list_->pieces()->index(row);
    if (key == current) list_->selectionModel()->setCurrentIndex(index, QItemSelectionModel::NoUpdate);
    if (std::find(selected.begin(), selected.end(), key) != selected.end())
      list_->selectionModel()->select(index, QItemSelectionModel::Select);
  }
  list_->viewport()->update();
  list_->setChoosable(desk_.trial.hasPieceChoice());
  words_->setVisible(desk_.trial.hasPieceChoice() && list_->pieces()->rowCount() > 1);
}

void PiecesChooser::toggle(int row) {
  if (const Piece* piece = list_->pieces()->at(row)) desk_.trial.choosePieces({{piece->key, !piece->kept}});
}

void PiecesChooser::toggleAll(const std::vector<std::size_t>& rows) {
  bool anyStays = false;
  for (const std::size_t row : rows)
    if (const Piece* piece = list_->pieces()->at(static_cast<int>(row))) anyStays |= piece->kept;
  std::map<BodyId, bool> stay;
  for (const std::size_t row : rows)
    if (const Piece* piece = list_->pieces()->at(static_cast<int>(row)))
      if (piece->kept == anyStays) stay[piece->key] = !anyStays;
  desk_.trial.choosePieces(stay);
}

void PiecesChooser::keepLargest() {
  std::map<BodyId, const Piece*> largest;
  for (int row = 0; row < list_->pieces()->rowCount(); ++row) {
    const Piece* piece = list_->pieces()->at(row);
    const Piece*& so = largest[piece->from];
    if (!so || std::pair(piece->volume, piece->area) > std::pair(so->volume, so->area)) so = piece;
  }
  std::map<BodyId, bool> stay;
  for (int row = 0; row < list_->pieces()->rowCount(); ++row) {
    const Piece* piece = list_->pieces()->at(row);
    const bool stays = largest.at(piece->from) == piece;
    if (stays != piece->kept) stay[piece->key] = stays;
  }
  desk_.trial.choosePieces(stay);
}

void PiecesChooser::invert() {
  std::map<BodyId, bool> stay;
  for (int row = 0; row < list_->pieces()->rowCount(); ++row) {
    const Piece* piece = list_->pieces()->at(row);
    stay[piece->key] = !piece->kept;
  }
  desk_.trial.choosePieces(stay);
}

bool PiecesChooser::take(const Pick& pick) {
  if (!waiting()) return false;
  touching_->setChecked(false);
  const auto picture = desk_.shownPictures.find(pick.body);
  if (picture == desk_.shownPictures.end()) return true;
  if (pick.kind == Pick::Kind::Face && static_cast<std::size_t>(pick.index) < picture->second->faces.size())
    keepTouching(lifted({picture->second->faces[static_cast<std::size_t>(pick.index)]}));
  else
    keepTouching(picture->second->form.exact(pick.body));
  return true;
}

void PiecesChooser::keepTouching(const Shape& shape) {
  // Distances are measured by the worker; meanwhile another step may have come onto the Bench.
  const auto tried = desk_.trial.result();
  if (!tried || !tried->report().result) return;
  desk_.worker.run(
      tr("Looking for what touches"),
      [list = QPointer<PiecesChooser>(this), shape, tried](Progress& progress) -> Worker::Then {
        std::map<BodyId, bool> stay;
        for (const Piece& piece : tried->report().result->pieces) {
          progress.throwIfStopped();
          stay[piece.key] = touches(piece.shape, shape);
        }
        return [list, stay, tried] {
          if (list && list->desk_.trial.active() && list->desk_.trial.step().id() == tried->step)
            list->desk_.trial.choosePieces(stay);
        };
      },
      [list = QPointer<PiecesChooser>(this)](const std::optional<Error>& error) {
        if (list && error) emit list->desk_.trial.refused(*error);
      });
}

}  // namespace kervo::app
