#include "app/panels/sections_panel.h"

#include <QHeaderView>
#include <QKeyEvent>

#include "app/look.h"

namespace kervo::app {

namespace {

enum Column { Name, Scope, Flip, columnCount };
constexpr int idRole = Qt::UserRole;

}  // namespace

SectionsPanel::SectionsPanel(Desk& desk, QWidget* parent) : Panel(tr("Sections"), "sections", parent), desk_(desk) {
  add_ = addLink(tr("+ add"));
  add_->setAccessibleName(tr("Add a section"));
  connect(add_, &QToolButton::clicked, this, &SectionsPanel::addWanted);
  list_ = new QTreeWidget;
  list_->setAccessibleName(tr("Sections"));
  list_->setColumnCount(columnCount);
  list_->setHeaderHidden(true);
  list_->setRootIsDecorated(false);
  list_->setFrameShape(QFrame::NoFrame);
  list_->setEditTriggers(QAbstractItemView::NoEditTriggers);
  list_->header()->setStretchLastSection(false);
  list_->header()->setMinimumSectionSize(10);
  list_->header()->setSectionResizeMode(Name, QHeaderView::Stretch);
  list_->header()->setSectionResizeMode(Scope, QHeaderView::Stretch);
  list_->header()->setSectionResizeMode(Flip, QHeaderView::ResizeToContents);
  list_->installEventFilter(this);
  hint_ = new QLabel(tr("A section cuts bodies open for the eye; the model stays whole."));
  hint_->setObjectName("dim");
  hint_->setWordWrap(true);
  content()->addWidget(hint_);
  content()->addWidget(list_, 1);
  connect(list_, &QTreeWidget::itemClicked, this, [this](QTreeWidgetItem* item, int column) {
    if (column == Flip) desk_.sections.flip(idOf(item));
  });
  connect(list_, &QTreeWidget::itemDoubleClicked, this, [this](QTreeWidgetItem* item, int column) {
    if (column != Flip) desk_.sections.edit(idOf(item));
  });
  connect(list_, &QTreeWidget::currentItemChanged, this, [this](QTreeWidgetItem* item) {
    if (!showing_ && item) desk_.sections.setCurrent(idOf(item));
  });
  connect(list_, &QTreeWidget::itemChanged, this, [this](QTreeWidgetItem* item, int column) {
    if (!showing_ && column == Name) desk_.sections.switchOn(idOf(item), item->checkState(Name) == Qt::Checked);
  });
  connect(&desk_.sections, &SectionDesk::changed, this, &SectionsPanel::refresh);
  refresh();
}

void SectionsPanel::focusList() {
  if (list_->topLevelItemCount() == 0) return add_->setFocus(Qt::OtherFocusReason);
  if (!list_->currentItem()) list_->setCurrentItem(list_->topLevelItem(0));
  list_->setFocus(Qt::OtherFocusReason);
}

StepId SectionsPanel::idOf(const QTreeWidgetItem* item) const {
  return item ? StepId(item->data(Name, idRole).toString().toStdString()) : StepId();
}

void SectionsPanel::refresh() {
  const std::vector<SectionDesk::Entry> entries = desk_.sections.entries();
  showing_ = true;
  const int count = static_cast<int>(entries.size());
  while (list_->topLevelItemCount() > count) delete list_->takeTopLevelItem(count);
  while (list_->topLevelItemCount() < count) list_->addTopLevelItem(new QTreeWidgetItem);
  for (int row = 0; row < count; ++row) {
    const SectionDesk::Entry& entry = entries[static_cast<std::size_t>(row)];
    QTreeWidgetItem* item = list_->topLevelItem(row);
    item->setData(Name, idRole, QString::fromStdString(entry.id.text()));
    item->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable | Qt::ItemIsUserCheckable);
    item->setCheckState(Name, entry.on ? Qt::Checked : Qt::Unchecked);
    item->setText(Name, entry.name.isEmpty() ? entry.letter : entry.letter + " " + entry.name);
    QFont font = fontOf();
    font.setBold(entry.on);
    item->setFont(Name, font);
    const bool fails = entry.on && entry.why;
    item->setText(Scope, fails      ? tr("fails: %1").arg(QString::fromStdString(entry.why->happened()))
                         : entry.on ? entry.scope
                                    : tr("off"));
    item->setToolTip(Scope, fails ? QString::fromStdString(entry.why->what()) : entry.scope);
    item->setForeground(Scope, fails ? look().vermilion : look().dim);
    item->setText(Flip, tr("flip"));
    item->setToolTip(Flip, tr("The other side goes"));
    item->setForeground(Flip, look().teal);
    if (entry.id == desk_.sections.current()) list_->setCurrentItem(item);
  }
  showing_ = false;
  showState();
}

void SectionsPanel::changeEvent(QEvent* event) {
  Panel::changeEvent(event);
  // States are written in the look's colours.
  if (event->type() == QEvent::PaletteChange) refresh();
}

void SectionsPanel::showState() {
  const int count = list_->topLevelItemCount();
  hint_->setVisible(count == 0);
  list_->setVisible(count > 0);
}

bool SectionsPanel::eventFilter(QObject* watched, QEvent* event) {
  const bool press = event->type() == QEvent::KeyPress;
  if (watched != list_ || (!press && event->type() != QEvent::ShortcutOverride))
    return Panel::eventFilter(watched, event);
  const int key = static_cast<QKeyEvent*>(event)->key();
  const bool removes = key == Qt::Key_Delete || key == Qt::Key_Backspace;
  const bool edits = key == Qt::Key_Return || key == Qt::Key_Enter || key == Qt::Key_F2;
  if ((!removes && !edits && key != Qt::Key_F) || selected().empty()) return Panel::eventFilter(watched, event);
  event->accept();
  if (!press) return true;
  if (removes) desk_.sections.remove(selected());
  if (edits) desk_.sections.edit(selected());
  if (key == Qt::Key_F) desk_.sections.flip(selected());
  return true;
}

}  // namespace kervo::app
