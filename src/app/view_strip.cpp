#include "app/view_strip.h"

#include <QEvent>
#include <QToolButton>

#include "app/icons.h"

namespace kervo::app {

ViewStrip::ViewStrip(const VerbTable& verbs) {
  // A tool bar keeps words that do not fit, with a large font, in a list at its end.
  setObjectName("viewStrip");
  setToolButtonStyle(Qt::ToolButtonTextOnly);
  bool onOff = false;
  for (const Verb& verb : verbs.verbs()) {
    if (verb.strip == StripPlace::Pick) picks_.push_back(&verb);
    if (verb.strip != StripPlace::Word) continue;
    // What is on or off is set apart from what only looks.
    if (bool(verb.checked) != onOff) addSeparator();
    onOff = bool(verb.checked);
    QAction* action = addAction(verb.text, this, verb.run);
    action->setCheckable(onOff);
    widgetForAction(action)->setFocusPolicy(Qt::StrongFocus);
    if (onOff) words_.emplace_back(action, &verb);
  }
  auto* room = new QWidget;
  room->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Preferred);
  addWidget(room);
  pick_ = new QComboBox;
  pick_->setAccessibleName(tr("What can be picked"));
  for (const Verb* verb : picks_) pick_->addItem(verb->text);
  connect(pick_, &QComboBox::activated, this, [this](int index) { picks_[static_cast<std::size_t>(index)]->run(); });
  addWidget(pick_);
  dressRest();
  refresh();
}

void ViewStrip::dressRest() {
  auto* rest = findChild<QToolButton*>("qt_toolbar_ext_button");
  if (!rest) return;
  rest->setIcon(icon("down"));
  rest->setIconSize({12, 12});
  rest->setAccessibleName(tr("More of the view's words"));
}

void ViewStrip::changeEvent(QEvent* event) {
  QToolBar::changeEvent(event);
  if (event->type() == QEvent::PaletteChange) dressRest();
}

void ViewStrip::refresh() {
  for (const auto& [action, verb] : words_) action->setChecked(verb->checked());
  for (std::size_t i = 0; i < picks_.size(); ++i)
    if (picks_[i]->checked()) pick_->setCurrentIndex(static_cast<int>(i));
}

}  // namespace kervo::app
