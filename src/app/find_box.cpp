#include "app/find_box.h"

#include <QKeyEvent>
#include <algorithm>

#include "app/icons.h"
#include "app/look.h"

namespace kervo::app {

int matchRank(const QString& text, const QString& typed) {
  const QString lower = text.toLower();
  int rank = 0;
  for (const QString& word : typed.toLower().split(' ', Qt::SkipEmptyParts)) {
    const auto at = lower.indexOf(word);
    if (at < 0) return -1;
    // At the very start, at the start of a word, anywhere.
    rank += at == 0 ? 0 : lower[at - 1].isLetterOrNumber() ? 2 : 1;
  }
  return rank;
}

FindBox::FindBox(std::function<std::vector<FindEntry>()> entries, QWidget* window)
    : source_(std::move(entries)), list_(new QListWidget(window)) {
  setPlaceholderText(tr("Find a verb, body or dimension   Ctrl+K"));
  setAccessibleName(tr("Find"));
  setMinimumWidth(120);
  setMaximumWidth(QFontMetrics(fontOf()).horizontalAdvance(placeholderText()) + 48);
  list_->hide();
  list_->setFocusPolicy(Qt::NoFocus);
  list_->setAccessibleName(tr("Found"));
  list_->setObjectName("card");
  connect(this, &QLineEdit::textChanged, this, &FindBox::filter);
  connect(list_, &QListWidget::itemClicked, this, &FindBox::choose);
}

void FindBox::open() {
  setFocus(Qt::ShortcutFocusReason);
  selectAll();
}

void FindBox::focusInEvent(QFocusEvent* event) {
  QLineEdit::focusInEvent(event);
  entries_ = source_();
  // Passing by with Tab, or because what had the keyboard went away, opens nothing.
  const Qt::FocusReason reason = event->reason();
  if (reason == Qt::MouseFocusReason || reason == Qt::ShortcutFocusReason) filter();
}

void FindBox::focusOutEvent(QFocusEvent* event) {
  QLineEdit::focusOutEvent(event);
  closeList();
}

void FindBox::closeList() {
  list_->hide();
}

void FindBox::filter() {
  if (!hasFocus()) return;
  std::vector<std::pair<int, std::size_t>> ranked;
  for (std::size_t i = 0; i < entries_.size(); ++i) {
    // "Plan" itself comes before "Plane".
    const bool all = entries_[i].text.compare(text().trimmed(), Qt::CaseInsensitive) == 0;
    if (const int rank = matchRank(entries_[i].text, text()); rank >= 0) ranked.emplace_back(all ? -1 : rank, i);
  }
  std::stable_sort(ranked.begin(), ranked.end(), [](const auto& a, const auto& b) { return a.first < b.first; });
  constexpr std::size_t most = 14;
  if (ranked.size() > most) ranked.resize(most);
  shown_.clear();
  list_->clear();
  for (const auto& [rank, i] : ranked) {
    const FindEntry& entry = entries_[i];
    auto* item =
        new QListWidgetItem(icon(entry.picture), entry.text + "   ·   " + entry.kind +
                                                     (entry.shortcut.isEmpty() ? QString() : "   " + entry.shortcut));
    if (!entry.enabled) item->setForeground(look().dim);
    list_->addItem(item);
    shown_.push_back(i);
  }
  if (shown_.empty()) list_->addItem(tr("nothing of that name"));
  list_->setCurrentRow(0);
  const int rowHeight = std::max(list_->sizeHintForRow(0), 20);
  const QPoint at = list_->parentWidget()->mapFromGlobal(mapToGlobal(QPoint(0, height() + 2)));
  const int width = std::max(this->width(), 340);
  list_->setGeometry(std::min(at.x(), list_->parentWidget()->width() - width - 8), at.y(), width,
                     rowHeight * list_->count() + 8);
  list_->raise();
  list_->show();
}

void FindBox::choose() {
  const int row = list_->currentRow();
  if (row < 0 || static_cast<std::size_t>(row) >= shown_.size()) return;
  const FindEntry entry = entries_[shown_[static_cast<std::size_t>(row)]];
  if (!entry.enabled) return;
  clear();
  closeList();
  parentWidget()->setFocus();
  entry.run();
}

void FindBox::keyPressEvent(QKeyEvent* event) {
  switch (event->key()) {
    case Qt::Key_Down:
      if (list_->isHidden()) return filter();
      return list_->setCurrentRow(std::min(list_->currentRow() + 1, list_->count() - 1));
    case Qt::Key_Up:
      return list_->setCurrentRow(std::max(list_->currentRow() - 1, 0));
    case Qt::Key_Return:
    case Qt::Key_Enter:
      return choose();
    case Qt::Key_Escape:
      clear();
      closeList();
      parentWidget()->setFocus();
      return;
    default:
      QLineEdit::keyPressEvent(event);
  }
}

}  // namespace kervo::app
