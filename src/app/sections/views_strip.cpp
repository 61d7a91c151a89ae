#include "app/sections/views_strip.h"

#include <QInputDialog>
#include <QKeyEvent>
#include <QMenu>
#include <QMouseEvent>
#include <QPainter>
#include <QScrollBar>
#include <QShortcut>
#include <QStyleOption>
#include <QWheelEvent>
#include <algorithm>
#include <cmath>

#include "app/look.h"

namespace kervo::app {

namespace {

constexpr const char* styleNames[] = {"shaded", "clear", "lines"};

DrawStyle styleNamed(const std::string& name) {
  for (std::size_t i = 0; i < std::size(styleNames); ++i)
    if (name == styleNames[i]) return static_cast<DrawStyle>(i);
  return DrawStyle::ShadedEdges;
}

/// But for what the camera rounds.
bool sameCamera(const ViewCamera& a, const ViewCamera& b) {
  constexpr double near = 1e-6;
  return length(a.centre - b.centre) < near * b.height && length(a.towardsEye - b.towardsEye) < near &&
         length(a.up - b.up) < near && std::abs(a.height - b.height) < near * b.height &&
         a.perspective == b.perspective;
}

}  // namespace

ViewsStrip::ViewsStrip(Desk& desk, Viewport& view, ViewPanes& panes, QWidget* parent)
    : QWidget(parent), desk_(desk), view_(view), panes_(panes) {
  setObjectName("viewsStrip");
  auto* all = new QHBoxLayout(this);
  all->setContentsMargins(0, 0, 0, 0);
  scrolled_ = new QScrollArea;
  scrolled_->setFrameShape(QFrame::NoFrame);
  scrolled_->setWidgetResizable(true);
  scrolled_->setFocusPolicy(Qt::NoFocus);
  scrolled_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  scrolled_->setVerticalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  scrolled_->setWidget(new QWidget);
  scrolled_->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
  all->addWidget(scrolled_);
  row_ = new QHBoxLayout(scrolled_->widget());
  row_->setContentsMargins(14, 3, 14, 3);
  row_->setSpacing(6);
  connect(&desk_.session, &Session::documentChanged, this, &ViewsStrip::refresh);
  connect(&desk_.session, &Session::seenChanged, this, &ViewsStrip::refresh);
  connect(&view_, &Viewport::moved, this, &ViewsStrip::showCurrent);
  connect(&view_, &Viewport::styleChanged, this, &ViewsStrip::showCurrent);
  for (int number = 0; number < 9; ++number) {
    auto* shortcut = new QShortcut(QKeySequence(QStringLiteral("Ctrl+Alt+%1").arg(number + 1)), this);
    connect(shortcut, &QShortcut::activated, this, [this, number] { look(static_cast<std::size_t>(number)); });
  }
  refresh();
}

void ViewsStrip::focusFirst() {
  if (auto* first = buttons_.empty() ? findChild<QToolButton*>("link") : buttons_.front())
    first->setFocus(Qt::OtherFocusReason);
}

const SavedView* ViewsStrip::find(const std::string& id) const {
  for (const SavedView& view : views())
    if (view.id == id) return &view;
  return nullptr;
}

SavedView ViewsStrip::now(const QString& name) const {
  SavedView view = viewOf(desk_.session.document(), view_.lookedFrom(),
                          styleNames[static_cast<std::size_t>(view_.style())], name.toStdString());
  // A pane may have sections of its own.
  if (panes_.count() > 1)
    if (const auto& own = panes_.sectionsOf(panes_.active())) view.sections = *own;
  return view;
}

void ViewsStrip::edit(const QString& what, const std::function<Document(const Document&)>& change) {
  desk_.session.edit(what, change);
}

void ViewsStrip::refresh() {
  while (QLayoutItem* item = row_->takeAt(0)) {
    if (item->widget()) {
      item->widget()->hide();
      item->widget()->deleteLater();
    }
    delete item;
  }
  buttons_.clear();
  auto* title = new QLabel(tr("Views"));
  title->setObjectName("dim");
  row_->addWidget(title);
  for (std::size_t i = 0; i < views().size(); ++i) {
    const SavedView& view = views()[i];
    auto* button = new QToolButton;
    button->setObjectName("viewChip");
    button->setCheckable(true);
    button->setFocusPolicy(Qt::StrongFocus);
    button->setText(QString::fromStdString(view.name));
    button->setAccessibleName(tr("View %1").arg(QString::fromStdString(view.name)));
    button->setToolTip(i < 9 ? tr("Look this way (Ctrl+Alt+%1); the menu has more").arg(i + 1) : tr("Look this way"));
    button->setProperty("view", QString::fromStdString(view.id));
    button->setContextMenuPolicy(Qt::CustomContextMenu);
    button->installEventFilter(this);
    connect(button, &QToolButton::clicked, this, [this, i] { look(i); });
    connect(button, &QWidget::customContextMenuRequested, this,
            [this, button, id = view.id](QPoint at) { showMenu(id, button->mapToGlobal(at)); });
    row_->addWidget(button);
    // At once, so that it can have the keyboard.
    button->show();
    buttons_.push_back(button);
  }
  auto* keep = new QToolButton;
  keep->setObjectName("link");
  keep->setFocusPolicy(Qt::StrongFocus);
  keep->setText(tr("+ keep this view"));
  keep->setToolTip(tr("Camera, visible bodies, sections and look, under a name"));
  connect(keep, &QToolButton::clicked, this, &ViewsStrip::keep);
  row_->addWidget(keep);
  row_->addStretch();
  // By the buttons: a layout whose widgets are not shown yet knows no height.
  int height = keep->sizeHint().height();
  for (const QToolButton* button : buttons_) height = std::max(height, button->sizeHint().height());
  const QMargins margins = row_->contentsMargins();
  scrolled_->setFixedHeight(height + margins.top() + margins.bottom());
  showCurrent();
}

void ViewsStrip::showCurrent() {
  // As it was looked at, and not turned, switched or hidden since.
  const SavedView* view = find(current_);
  if (view) {
    SavedView here = now({});
    const bool same = sameCamera(here.camera, view->camera) && here.style == view->style &&
                      here.visible == view->visible && here.sections == view->sections;
    if (!same) current_.clear();
  }
  for (QToolButton* button : buttons_)
    button->setChecked(!current_.empty() && button->property("view").toString().toStdString() == current_);
}

std::optional<QString> ViewsStrip::askName(const QString& title, const QString& name) {
  bool taken = false;
  const QString text =
      QInputDialog::getText(window(), title, tr("Name of the view"), QLineEdit::Normal, name, &taken).trimmed();
  return taken && !text.isEmpty() ? std::optional(text) : std::nullopt;
}

void ViewsStrip::keep() {
  const auto name = askName(tr("Keep this view"), tr("View %1").arg(views().size() + 1));
  if (!name) return;
  const SavedView view = now(*name);
  current_ = view.id;
  edit(tr("Keep the view %1").arg(*name), [&](const Document& document) { return withView(document, view); });
}

void ViewsStrip::look(std::size_t number) {
  if (number >= views().size()) return;
  const SavedView view = views()[number];
  current_ = view.id;
  view_.lookFrom(view.camera);
  view_.setStyle(styleNamed(view.style));
  if (panes_.count() > 1)
    // The other panes go on showing what they do.
    panes_.setSections(panes_.active(), view.sections);
  else
    edit(tr("Look: %1").arg(QString::fromStdString(view.name)),
         [&](const Document& document) { return asSeen(document, view); });
  // The camera as it took it: what is read back is what was kept.
  current_ = view.id;
  showCurrent();
}

void ViewsStrip::update(const std::string& id) {
  const SavedView* old = find(id);
  if (!old) return;
  SavedView view = now(QString::fromStdString(old->name));
  view.id = id;
  current_ = id;
  edit(tr("Update the view %1").arg(QString::fromStdString(view.name)),
       [&](const Document& document) { return withView(document, view); });
}

void ViewsStrip::rename(const std::string& id) {
  const SavedView* old = find(id);
  if (!old) return;
  const auto name = askName(tr("Rename the view"), QString::fromStdString(old->name));
  if (!name) return;
  SavedView view = *find(id);
  view.name = name->toStdString();
  edit(tr("Rename the view %1").arg(*name), [&](const Document& document) { return withView(document, view); });
}

void ViewsStrip::duplicate(const std::string& id) {
  const SavedView* old = find(id);
  if (!old) return;
  SavedView copy = *old;
  copy.id = now({}).id;
  copy.name = tr("%1, copy").arg(QString::fromStdString(old->name)).toStdString();
  edit(tr("Duplicate the view %1").arg(QString::fromStdString(old->name)),
       [&](const Document& document) { return withView(document, copy); });
}

void ViewsStrip::remove(const std::string& id) {
  const SavedView* old = find(id);
  if (!old) return;
  const QString name = QString::fromStdString(old->name);
  const auto place = static_cast<std::size_t>(old - views().data());
  edit(tr("Delete the view %1").arg(name), [&](const Document& document) { return withoutView(document, id); });
  if (buttons_.empty()) return focusFirst();
  buttons_[std::min(place, buttons_.size() - 1)]->setFocus(Qt::OtherFocusReason);
}

void ViewsStrip::move(const std::string& id, int by) {
  for (std::size_t i = 0; i < views().size(); ++i) {
    if (views()[i].id != id) continue;
    const auto to = static_cast<std::ptrdiff_t>(i) + by;
    if (to < 0 || to >= static_cast<std::ptrdiff_t>(views().size())) return;
    const QString name = QString::fromStdString(views()[i].name);
    edit(tr("Move the view %1").arg(name),
         [&](const Document& document) { return withViewMoved(document, id, static_cast<std::size_t>(to)); });
    // The keyboard stays on it.
    buttons_[static_cast<std::size_t>(to)]->setFocus(Qt::OtherFocusReason);
    return;
  }
}

void ViewsStrip::showMenu(const std::string& id, QPoint globalPosition) {
  QMenu menu(this);
  menu.addAction(tr("Update to how it is seen now"), this, [this, id] { update(id); });
  menu.addAction(tr("Rename …"), this, [this, id] { rename(id); });
  menu.addAction(tr("Duplicate"), this, [this, id] { duplicate(id); });
  menu.addAction(tr("Move to the left"), this, [this, id] { move(id, -1); });
  menu.addAction(tr("Move to the right"), this, [this, id] { move(id, 1); });
  menu.addAction(tr("Delete"), this, [this, id] { remove(id); });
  menu.exec(globalPosition);
}

bool ViewsStrip::eventFilter(QObject* watched, QEvent* event) {
  const std::string id = watched->property("view").toString().toStdString();
  if (id.empty()) return QWidget::eventFilter(watched, event);
  if (event->type() == QEvent::FocusIn) scrolled_->ensureWidgetVisible(static_cast<QWidget*>(watched));
  if (event->type() == QEvent::Wheel) {
    const QPoint by = static_cast<QWheelEvent*>(event)->angleDelta();
    QScrollBar* bar = scrolled_->horizontalScrollBar();
    bar->setValue(bar->value() - (by.x() != 0 ? by.x() : by.y()));
    return true;
  }
  if (event->type() == QEvent::KeyPress || event->type() == QEvent::ShortcutOverride) {
    const auto* key = static_cast<QKeyEvent*>(event);
    const bool alt = key->modifiers().testFlag(Qt::AltModifier);
    const bool moves = alt && (key->key() == Qt::Key_Left || key->key() == Qt::Key_Right);
    const bool removes = key->key() == Qt::Key_Delete, renames = key->key() == Qt::Key_F2;
    if (!moves && !removes && !renames) return QWidget::eventFilter(watched, event);
    event->accept();
    if (event->type() == QEvent::ShortcutOverride) return true;
    if (moves) move(id, key->key() == Qt::Key_Left ? -1 : 1);
    if (removes) remove(id);
    if (renames) rename(id);
    return true;
  }
  // Dragged beyond a neighbour's middle, they change places when it is let go.
  auto* button = qobject_cast<QToolButton*>(watched);
  if (event->type() == QEvent::MouseButtonRelease && button) {
    const auto* mouse = static_cast<QMouseEvent*>(event);
    const int x = button->mapTo(scrolled_->widget(), mouse->position().toPoint()).x();
    int by = 0;
    bool before = true;
    for (const QToolButton* other : buttons_) {
      if (other == button) {
        before = false;
        continue;
      }
      const int middle = other->geometry().center().x();
      if (before && x < middle) --by;
      if (!before && x > middle) ++by;
    }
    if (mouse->button() == Qt::LeftButton && by != 0) {
      button->setDown(false);
      move(id, by);
      return true;
    }
  }
  return QWidget::eventFilter(watched, event);
}

void ViewsStrip::paintEvent(QPaintEvent*) {
  QStyleOption option;
  option.initFrom(this);
  QPainter painter(this);
  style()->drawPrimitive(QStyle::PE_Widget, &option, &painter, this);
}

}  // namespace kervo::app
