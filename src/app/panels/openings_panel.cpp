#include "app/panels/openings_panel.h"

#include <QGridLayout>
#include <QPainter>
#include <QStyledItemDelegate>
#include <algorithm>

#include "app/look.h"
#include "app/texts.h"
#include "geom/openings/opening_words.h"
#include "model/names_for_people.h"
#include "steps/registry.h"

namespace kervo::app {

namespace {

constexpr int toldRole = Qt::UserRole;

/// So many openings are seen at least.
constexpr int rowsSeen = 2;
int rowHeight() {
  return QFontMetrics(fontOf()).height() + QFontMetrics(fontOf(-1)).height() + 4;
}

/// Two lines: what it is and how large, and below, dimmer, how it runs.
class TwoLines : public QStyledItemDelegate {
 public:
  using QStyledItemDelegate::QStyledItemDelegate;

  void paint(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& index) const override {
    const bool selected = option.state & QStyle::State_Selected;
    if (selected) painter->fillRect(option.rect, look().tealSoft);
    if (option.state & QStyle::State_HasFocus) {
      painter->setPen(look().teal);
      painter->drawRect(option.rect.adjusted(0, 0, -1, -1));
    }
    const QRect room = option.rect.adjusted(margin, 1, -margin, -1);
    const auto line = [&](const QString& text, const QFont& font, const QColor& color, int top, int indent) {
      painter->setFont(font);
      painter->setPen(color);
      const QFontMetrics metrics(font);
      painter->drawText(QRect(room.left() + indent, top, room.width() - indent, metrics.height()), Qt::AlignLeft,
                        metrics.elidedText(text, Qt::ElideRight, room.width() - indent));
    };
    const QFont first = fontOf(0, selected ? QFont::DemiBold : QFont::Normal);
    line(index.data(Qt::DisplayRole).toString(), first, look().text, room.top(), 0);
    line(index.data(toldRole).toString(), fontOf(-1), look().dim, room.top() + QFontMetrics(first).height(),
         2 * margin);
  }
  QSize sizeHint(const QStyleOptionViewItem& option, const QModelIndex&) const override {
    return {option.rect.width(), rowHeight()};
  }

 private:
  static constexpr int margin = 6;
};

QString sizesText(const Opening& opening, const std::string& unit) {
  if (opening.form == OpeningForm::Round && opening.diameter > 0) return "⌀ " + lengthText(opening.diameter, unit);
  const QString width = lengthText(opening.width, unit), height = lengthText(opening.height, unit);
  return width.section(' ', 0, 0) + " × " + height;
}

}  // namespace

OpeningsPanel::OpeningsPanel(Desk& desk, QWidget* parent)
    : Panel(tr("Openings"), "openings", parent, true), desk_(desk) {
  hint_ = new QLabel;
  hint_->setObjectName("dim");
  hint_->setWordWrap(true);
  list_ = new QListWidget;
  list_->setAccessibleName(tr("Openings"));
  list_->setFrameShape(QFrame::NoFrame);
  list_->viewport()->setAutoFillBackground(false);
  list_->setMinimumHeight(rowsSeen * rowHeight());
  list_->setSelectionMode(QAbstractItemView::ExtendedSelection);
  list_->setItemDelegate(new TwoLines(list_));
  list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  verbs_ = new QWidget;
  auto* links = new QGridLayout(verbs_);
  links->setContentsMargins(4, 0, 4, 0);
  links->setHorizontalSpacing(8);
  links->setVerticalSpacing(0);
  alike_ = addVerb({}, {});
  made_ = addVerb({}, {});
  for (const StepKind* kind : allStepKinds().all()) {
    if (kind->table().ofOpening.empty()) continue;
    const QString label = kindText(kind->label());
    QToolButton* button = addVerb(kindText(kind->table().ofOpening), label);
    button->setToolTip(kindText(kind->table().help));
    connect(button, &QToolButton::clicked, this, [this, kind] { emit stepWanted(kind); });
    links->addWidget(button, 1, static_cast<int>(kinds_.size()), Qt::AlignLeft);
    kinds_.push_back(button);
  }
  const int columns = static_cast<int>(kinds_.size());
  links->addWidget(alike_, 0, 0, 1, columns, Qt::AlignLeft);
  links->addWidget(made_, 2, 0, 1, columns, Qt::AlignLeft);
  links->setColumnStretch(columns, 1);
  content()->addWidget(hint_);
  content()->addWidget(list_, 1);
  content()->addWidget(verbs_);
  connect(list_, &QListWidget::itemSelectionChanged, this, [this] {
    if (!showing_) selectRows();
  });
  connect(alike_, &QToolButton::clicked, this, [this] {
    if (!shown_ || !list_->currentItem()) return;
    const std::vector<int> all = allAlike(*shown_, (*shown_)[static_cast<std::size_t>(list_->currentRow())]);
    for (const int row : all) list_->item(row)->setSelected(true);
  });
  connect(made_, &QToolButton::clicked, this, [this] {
    if (!shown_ || !list_->currentItem()) return;
    const StepId step = madeBy((*shown_)[static_cast<std::size_t>(list_->currentRow())]);
    if (!step.empty()) desk_.trial.edit(step);
  });
  connect(this, &Panel::foldedChanged, this, &OpeningsPanel::refresh);
  connect(&desk_.openings, &OpeningLists::changed, this, &OpeningsPanel::refresh);
  connect(&desk_.selection, &Selection::changed, this, &OpeningsPanel::refresh);
  // Once what is shown has followed.
  connect(&desk_.session, &Session::modelChanged, this, &OpeningsPanel::refresh, Qt::QueuedConnection);
  refresh();
}

QToolButton* OpeningsPanel::addVerb(const QString& text, const QString& name) {
  auto* button = new QToolButton;
  button->setObjectName("link");
  button->setText(text);
  button->setAccessibleName(name);
  button->setFocusPolicy(Qt::TabFocus);
  return button;
}

void OpeningsPanel::focusList() {
  setFolded(false);
  if (list_->count() > 0 && !list_->currentItem()) list_->setCurrentRow(0, QItemSelectionModel::NoUpdate);
  list_->setFocus(Qt::OtherFocusReason);
}

BodyId OpeningsPanel::body() const {
  const std::vector<BodyId> selected = desk_.selection.bodies();
  if (selected.size() == 1) return selected.front();
  if (!selected.empty()) return {};
  // With nothing selected, the body that they were listed of last.
  if (desk_.shownPictures.contains(shownBody_)) return shownBody_;
  return desk_.shownPictures.size() == 1 ? desk_.shownPictures.begin()->first : BodyId();
}

void OpeningsPanel::refresh() {
  // Nothing is looked for while nobody sees it.
  if (folded()) {
    desk_.openings.setNumbers({});
    return setNote({});
  }
  shownBody_ = body();
  const auto picture = desk_.shownPictures.find(shownBody_);
  const bool any = picture != desk_.shownPictures.end() && picture->second->form.kind() == BodyKind::Solid;
  const OpeningLists::List list = any ? desk_.openings.of(picture->second) : nullptr;
  setNote(!any ? QString()
               : tr("in %1").arg(desk_.shownModel ? QString::fromStdString(withNames("\"" + shownBody_ + "\"",
                                                                                     *desk_.shownModel, Quotes::Drop))
                                                  : QString()));
  hint_->setText(!any            ? tr("Select a solid body to list its openings.")
                 : !list         ? tr("looking …")
                 : list->empty() ? tr("It has no openings.")
                                 : QString());
  hint_->setVisible(!hint_->text().isEmpty());
  list_->setVisible(list && !list->empty());
  showing_ = true;
  if (list != shown_) {
    shown_ = list;
    list_->clear();
    const std::string unit = desk_.session.document().made.unit;
    for (std::size_t i = 0; list && i < list->size(); ++i) {
      const Opening& opening = (*list)[i];
      const QString word = QString::fromStdString(wordFor(opening));
      auto* item = new QListWidgetItem(tr("%1 %2, %3").arg(i + 1).arg(word, sizesText(opening, unit)));
      item->setData(toldRole, QString::fromStdString(toldOf(opening)));
      item->setData(Qt::AccessibleTextRole, item->text() + ", " + QString::fromStdString(toldOf(opening)));
      list_->addItem(item);
    }
  }
  // Gone to before they were known.
  if (list_->hasFocus() && !list_->currentItem() && list_->count() > 0 && desk_.selection.picks().size() < 2) {
    list_->setCurrentRow(0, QItemSelectionModel::NoUpdate);
  }
  showSelected();
  showing_ = false;
  showLinks();
  std::vector<MeasureMark> numbers;
  for (std::size_t i = 0; shown_ && i < shown_->size(); ++i) {
    const Point at = (*shown_)[i].frame.origin;
    numbers.push_back({at, at, QString::number(i + 1)});
  }
  desk_.openings.setNumbers(std::move(numbers));
}

/// The rows of the openings of which a face is selected.
void OpeningsPanel::showSelected() {
  const auto picture = desk_.shownPictures.find(shownBody_);
  if (!shown_ || picture == desk_.shownPictures.end()) return;
  std::set<int> rows;
  for (const Pick& pick : desk_.selection.picks())
    if (pick.kind == Pick::Kind::Face && pick.body == shownBody_)
      if (const auto row = desk_.openings.known(picture->second, pick.index)) rows.insert(*row);
  for (int row = 0; row < list_->count(); ++row) list_->item(row)->setSelected(rows.contains(row));
  if (!rows.empty() && (!list_->currentItem() || !rows.contains(list_->currentRow()))) {
    list_->setCurrentRow(*rows.begin(), QItemSelectionModel::NoUpdate);
    list_->scrollToItem(list_->currentItem());
  }
}

/// The faces of the selected openings are selected in the view.
void OpeningsPanel::selectRows() {
  if (!shown_) return;
  std::vector<Pick> picks;
  for (int row = 0; row < list_->count(); ++row)
    if (list_->item(row)->isSelected())
      for (const int face : (*shown_)[static_cast<std::size_t>(row)].faces)
        picks.push_back({Pick::Kind::Face, shownBody_, face});
  desk_.selection.set(std::move(picks));
}

StepId OpeningsPanel::madeBy(const Opening& opening) const {
  const auto picture = desk_.shownPictures.find(shownBody_);
  if (picture == desk_.shownPictures.end()) return {};
  const Document& document = desk_.session.document();
  for (const int face : opening.faces)
    for (const std::string& origin : picture->second->faces[static_cast<std::size_t>(face)].origins()) {
      const StepId step(origin.substr(0, origin.find_first_of(":/")));
      const auto found = document.find(step);
      if (found && &found->kind() != &allStepKinds().bringingIn() && !shownBody_.isOfFamily(BodyId(step))) return step;
    }
  return {};
}

void OpeningsPanel::showLinks() {
  const auto selected = static_cast<int>(list_->selectedItems().size());
  verbs_->setVisible(shown_ && selected > 0);
  if (!shown_ || selected == 0 || !list_->currentItem()) return;
  const Opening& opening = (*shown_)[static_cast<std::size_t>(list_->currentRow())];
  const std::size_t alike = allAlike(*shown_, opening).size();
  alike_->setText(tr("all alike (%1)").arg(alike));
  alike_->setAccessibleName(tr("Select all alike"));
  alike_->setVisible(alike > 1 && static_cast<std::size_t>(selected) < alike);
  const StepId step = madeBy(opening);
  const auto found = desk_.session.document().find(step);
  made_->setVisible(found != nullptr);
  if (found) {
    const QString text = tr("or change %1").arg(stepName(desk_, *found));
    made_->setText(
        made_->fontMetrics().elidedText(text, Qt::ElideRight, list_->width() - 2 * hint_->fontMetrics().height()));
    made_->setToolTip(tr("%1, which made it").arg(stepName(desk_, *found)));
    made_->setAccessibleName(tr("Change the step that made it"));
  }
}

}  // namespace kervo::app
