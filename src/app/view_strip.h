// The strip above the view: its words, and what can be picked.
#pragma once

#include <QComboBox>
#include <QToolBar>

#include "app/verb_table.h"

namespace kervo::app {

class ViewStrip : public QToolBar {
  Q_OBJECT
 public:
  /// Of the verbs that stand there; they must stay as they are.
  explicit ViewStrip(const VerbTable& verbs);
  /// Marks the words that are on now.
  void refresh();

 protected:
  void changeEvent(QEvent* event) override;

 private:
  /// The button behind which the words are that do not fit, in the look's colours.
  void dressRest();

  std::vector<std::pair<QAction*, const Verb*>> words_;
  std::vector<const Verb*> picks_;
  QComboBox* pick_;
};

}  // namespace kervo::app
