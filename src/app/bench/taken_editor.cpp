#include "app/bench/taken_editor.h"

#include "app/look.h"
#include "app/selection.h"

namespace kervo::app {

TakenEditor::TakenEditor(const Field& field, Desk& desk, QWidget* parent) : FieldEditor(field, desk, parent) {
  rows_ = new QGridLayout(this);
  rows_->setContentsMargins(0, 0, 0, 0);
  rows_->setSpacing(2);
  const auto word = [&](TakenAlong::What what, const QString& text, const QString& help) {
    auto* button = new QToolButton;
    button->setObjectName("segment");
    button->setCheckable(true);
    button->setFocusPolicy(Qt::StrongFocus);
    button->setText(text);
    button->setToolTip(help);
    button->setAccessibleName(tr("Take along: %1").arg(text));
    // They get narrower where there is less room.
    button->setSizePolicy(QSizePolicy::Maximum, QSizePolicy::Preferred);
    button->setMinimumWidth(36);
    button->setFixedHeight(QFontMetrics(fontOf()).height() + 5);
    connect(button, &QToolButton::clicked, this, [this, what] {
      if (armed_ && what_ == what) return emit armWanted(this);
      what_ = what;
      // The view is told again what can be picked.
      if (armed_) emit armWanted(this);
      emit pickWanted(this);
    });
    words_.push_back(button);
  };
  word(TakenAlong::What::Edge, tr("edge"), tr("Edges of bodies, as they are seen from here; they follow the body"));
  word(TakenAlong::What::Outline, tr("outline"), tr("All edges around a face"));
  word(TakenAlong::What::Silhouette, tr("silhouette"), tr("The outline of a whole body, as it is seen from here"));
  word(TakenAlong::What::Section, tr("section"), tr("Where the plane of the drawing meets a body"));
  arrange();
}

void TakenEditor::arrange() {
  int wanted = 0;
  for (const QToolButton* word : words_) wanted += word->sizeHint().width() + rows_->spacing();
  const int columns = wanted <= width() ? static_cast<int>(words_.size()) : 2;
  if (columns == columns_) return;
  columns_ = columns;
  for (QToolButton* word : words_) rows_->removeWidget(word);
  for (std::size_t i = 0; i < words_.size(); ++i)
    rows_->addWidget(words_[i], static_cast<int>(i) / columns, static_cast<int>(i) % columns);
}

void TakenEditor::resizeEvent(QResizeEvent* event) {
  FieldEditor::resizeEvent(event);
  arrange();
}

void TakenEditor::refresh() {
  setArmed(armed_);
}

std::optional<PickFilter> TakenEditor::filter() const {
  switch (what_) {
    case TakenAlong::What::Edge:
      return PickFilter{false, false, true, false, false};
    case TakenAlong::What::Outline:
      return PickFilter{false, true, false, false, false};
    default:
      return PickFilter{true, false, false, false, false};
  }
}

void TakenEditor::take(const std::vector<Pick>& picks, bool) {
  std::vector<TakenAlong> more;
  for (const Pick& pick : picks) {
    TakenAlong taken;
    taken.what = what_;
    if (what_ == TakenAlong::What::Edge) {
      const auto edge = edgeReference(pick, desk_.shownPictures);
      if (!edge) continue;
      taken.edge = *edge;
    } else if (what_ == TakenAlong::What::Outline) {
      const auto face = faceReference(pick, desk_.shownPictures);
      if (!face) continue;
      taken.face = *face;
    } else {
      taken.body = pick.body;
    }
    more.push_back(std::move(taken));
  }
  desk_.drawing.takeAlong(std::move(more));
}

void TakenEditor::setArmed(bool armed) {
  FieldEditor::setArmed(armed);
  for (std::size_t i = 0; i < words_.size(); ++i) words_[i]->setChecked(armed && static_cast<std::size_t>(what_) == i);
}

}  // namespace kervo::app
