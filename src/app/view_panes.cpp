#include "app/view_panes.h"

#include <QApplication>
#include <QMenu>
#include <QMouseEvent>
#include <algorithm>
#include <cmath>

#include "app/look.h"

namespace kervo::app {

namespace {

constexpr int between = 4, margin = 8, chipRoom = 40;
constexpr double least = 0.2;  ///< share of the room that a pane keeps

/// How a camera looks, if it looks along an axis.
QString directionOf(const Camera& camera) {
  const Vector eye = camera.towardsEye();
  constexpr double straight = 1 - 1e-9;
  const struct {
    Vector way;
    QString name;
  } known[] = {{{0, 0, 1}, ViewPanes::tr("Top")},  {{0, -1, 0}, ViewPanes::tr("Front")},
               {{1, 0, 0}, ViewPanes::tr("Side")}, {{0, 0, -1}, ViewPanes::tr("Bottom")},
               {{0, 1, 0}, ViewPanes::tr("Back")}, {{-1, 0, 0}, ViewPanes::tr("Other side")}};
  for (const auto& each : known)
    if (dot(eye, each.way) > straight) return each.name;
  return ViewPanes::tr("Turned");
}

}  // namespace

ViewPanes::ViewPanes(Desk& desk, Viewport* view, QWidget* parent) : QWidget(parent), desk_(desk), view_(view) {
  setMouseTracking(true);
  setMinimumSize(240, 180);
  if (!view_) return;
  view_->setParent(this);
  panes_.push_back(paneOf(view_));
  connect(view_, &Viewport::moved, this, &ViewPanes::refreshButtons);
  connect(view_, &Viewport::styleChanged, this, &ViewPanes::refreshButtons);
  connect(&desk_.session, &Session::seenChanged, this, &ViewPanes::refreshButtons);
  layOut();
}

ViewPanes::Pane ViewPanes::paneOf(Viewport* view) {
  Pane pane{view};
  pane.button = new QToolButton(this);
  pane.button->setObjectName("viewChip");
  pane.button->setFocusPolicy(Qt::StrongFocus);
  pane.button->setFont(fontOf(-1));
  pane.button->setToolTip(tr("How this pane looks, and what is cut open in it"));
  connect(pane.button, &QToolButton::clicked, this, [this, button = pane.button] {
    for (std::size_t i = 0; i < panes_.size(); ++i)
      if (panes_[i].button == button) showMenu(static_cast<int>(i));
  });
  return pane;
}

void ViewPanes::divide(int count) {
  if (!view_ || count == this->count()) return;
  activate(0);
  while (this->count() > count) {
    delete panes_.back().button;
    delete panes_.back().view;
    panes_.pop_back();
  }
  constexpr std::array<StandardView, 3> looks{StandardView::Top, StandardView::Front, StandardView::Side};
  const int had = this->count();
  while (this->count() < count) {
    auto* view = new Viewport(this);
    view->setFocusPolicy(Qt::NoFocus);
    view->setStyle(view_->style());
    view->installEventFilter(this);
    panes_.push_back(paneOf(view));
    view->show();
  }
  layOut();
  emit changed();
  // Once there is something to fit.
  for (int i = had; i < count; ++i)
    panes_[static_cast<std::size_t>(i)].view->look(looks[static_cast<std::size_t>(i) - 1]);
  refreshButtons();
}

int ViewPanes::paneWith(const QObject* view) const {
  for (std::size_t i = 0; i < panes_.size(); ++i)
    if (panes_[i].view == view) return static_cast<int>(i);
  return -1;
}

void ViewPanes::activate(int pane) {
  if (pane < 0 || pane >= count() || pane == active_) return;
  Pane &here = panes_[static_cast<std::size_t>(active_)], &there = panes_[static_cast<std::size_t>(pane)];
  here.view->exchangeLook(*there.view);
  std::swap(here.view, there.view);
  const bool differ = here.sections != there.sections;
  active_ = pane;
  layOut();
  // The scenes went with the viewports.
  if (differ) emit changed();
  refreshButtons();
}

void ViewPanes::setSections(int pane, std::optional<std::vector<StepId>> sections) {
  if (pane < 0 || pane >= count()) return;
  panes_[static_cast<std::size_t>(pane)].sections = std::move(sections);
  emit changed();
  refreshButtons();
}

void ViewPanes::showSection(const StepId& section, const SectionCut& cut) {
  each([&](Viewport& view, int) {
    const auto& sections = view.scene().sections;
    const auto here =
        std::find_if(sections.begin(), sections.end(), [&](const SceneSection& each) { return each.id == section; });
    if (here != sections.end()) view.setSection(static_cast<std::size_t>(here - sections.begin()), cut);
  });
}

QRect ViewPanes::rectOf(int pane) const {
  if (count() <= 1) return rect();
  const int x = static_cast<int>(std::lround(width() * across_)), y = static_cast<int>(std::lround(height() * down_));
  const bool right = pane % 2 == 1, below = pane / 2 == 1;
  const int left = right ? x + between / 2 : 0, top = below ? y + between / 2 : 0;
  const int end = right ? width() : x - between / 2;
  const int bottom = count() == 2 || below ? height() : y - between / 2;
  return {left, top, end - left, bottom - top};
}

void ViewPanes::layOut() {
  for (int i = 0; i < count(); ++i) {
    const Pane& pane = panes_[static_cast<std::size_t>(i)];
    const QRect room = rectOf(i);
    pane.view->setGeometry(room);
    pane.button->adjustSize();
    // The ruler has the right side; what is drawn on stands in this corner while something is drawn.
    const int below = desk_.drawing.open() && i == active_ ? chipRoom : 0;
    pane.button->move(room.left() + margin, room.top() + margin + below);
    pane.button->setVisible(count() > 1);
    pane.button->raise();
  }
}

QString ViewPanes::nameOf(int pane) const {
  const Pane& shown = panes_[static_cast<std::size_t>(pane)];
  QStringList letters;
  for (const SceneSection& section : shown.view->scene().sections) letters << QString::fromStdString(section.letter);
  const QString look = directionOf(shown.view->camera());
  return letters.isEmpty() ? look : tr("%1 · %2").arg(look, letters.join(' '));
}

void ViewPanes::refreshButtons() {
  for (int i = 0; i < count(); ++i) {
    QToolButton* button = panes_[static_cast<std::size_t>(i)].button;
    button->setText(nameOf(i));
    button->setAccessibleName(tr("Pane %1: %2").arg(i + 1).arg(nameOf(i)));
  }
  layOut();
}

void ViewPanes::showMenu(int pane) {
  activate(pane);
  QMenu menu;
  const std::pair<QString, StandardView> looks[] = {{tr("Home"), StandardView::Home},
                                                    {tr("Top"), StandardView::Top},
                                                    {tr("Front"), StandardView::Front},
                                                    {tr("Side"), StandardView::Side}};
  for (const auto& [name, look] : looks) menu.addAction(name, this, [this, look = look] { view_->look(look); });
  menu.addSeparator();
  const std::pair<QString, DrawStyle> styles[] = {
      {tr("Shaded + edges"), DrawStyle::ShadedEdges}, {tr("Clear"), DrawStyle::Clear}, {tr("Lines"), DrawStyle::Lines}};
  for (const auto& [name, style] : styles) {
    QAction* action = menu.addAction(name, this, [this, style = style] { view_->setStyle(style); });
    action->setCheckable(true);
    action->setChecked(view_->style() == style);
  }
  const std::vector<SectionDesk::Entry> entries = desk_.sections.entries();
  if (!entries.empty()) {
    menu.addSeparator();
    const auto& own = sectionsOf(pane);
    QAction* follow = menu.addAction(tr("Sections as in their list"), this, [this, pane] { setSections(pane, {}); });
    follow->setCheckable(true);
    follow->setChecked(!own);
    std::vector<StepId> now;
    for (const SectionDesk::Entry& entry : entries)
      if (own ? std::find(own->begin(), own->end(), entry.id) != own->end() : entry.on) now.push_back(entry.id);
    for (const SectionDesk::Entry& entry : entries) {
      const bool on = std::find(now.begin(), now.end(), entry.id) != now.end();
      QAction* action = menu.addAction(tr("Section %1").arg(desk_.sections.titleOf(entry.id)), this,
                                       [this, pane, now, on, id = entry.id]() mutable {
                                         if (on)
                                           std::erase(now, id);
                                         else
                                           now.push_back(id);
                                         setSections(pane, now);
                                       });
      action->setCheckable(true);
      action->setChecked(on);
    }
  }
  menu.addSeparator();
  menu.addAction(tr("One pane"), this, [this] { divide(1); });
  QToolButton* button = panes_[static_cast<std::size_t>(pane)].button;
  menu.exec(button->mapToGlobal(QPoint(0, button->height())));
}

void ViewPanes::resizeEvent(QResizeEvent* event) {
  QWidget::resizeEvent(event);
  layOut();
}

void ViewPanes::mousePressEvent(QMouseEvent* event) {
  movesUpright_ = count() > 1 && std::abs(event->position().x() - width() * across_) < 2 * between;
  movesLevel_ = count() == 4 && std::abs(event->position().y() - height() * down_) < 2 * between;
  event->accept();
}

void ViewPanes::mouseReleaseEvent(QMouseEvent*) {
  movesUpright_ = movesLevel_ = false;
}

void ViewPanes::mouseMoveEvent(QMouseEvent* event) {
  if (count() < 2) return;
  if (movesUpright_) across_ = std::clamp(event->position().x() / std::max(1, width()), least, 1 - least);
  if (movesLevel_) down_ = std::clamp(event->position().y() / std::max(1, height()), least, 1 - least);
  if (movesUpright_ || movesLevel_) return layOut();
  const bool upright = std::abs(event->position().x() - width() * across_) < 2 * between;
  const bool level = count() == 4 && std::abs(event->position().y() - height() * down_) < 2 * between;
  setCursor(upright && level ? Qt::SizeAllCursor : upright ? Qt::SplitHCursor : Qt::SplitVCursor);
}

bool ViewPanes::eventFilter(QObject* watched, QEvent* event) {
  const int pane = paneWith(watched);
  if (pane < 0 || pane == active_) return QWidget::eventFilter(watched, event);
  switch (event->type()) {
    case QEvent::Enter: {
      // What is being typed in the view stays where it is.
      const QWidget* typing = QApplication::focusWidget();
      const bool inView = typing && typing != view_ && view_->isAncestorOf(typing);
      if (!inView) activate(pane);
      return true;
    }
    case QEvent::MouseButtonPress:
      activate(pane);
      return true;
    case QEvent::MouseMove:
    case QEvent::MouseButtonRelease:
    case QEvent::MouseButtonDblClick:
    case QEvent::Wheel:
    case QEvent::HoverMove:
      return true;
    default:
      return QWidget::eventFilter(watched, event);
  }
}

}  // namespace kervo::app
