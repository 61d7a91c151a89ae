// The openings of a body, listed with their sizes.
#pragma once

#include <QListWidget>

#include "app/desk.h"
#include "app/panels/panel.h"

namespace kervo::app {

class OpeningsPanel : public Panel {
  Q_OBJECT
 public:
  explicit OpeningsPanel(Desk& desk, QWidget* parent = nullptr);
  QListWidget* list() { return list_; }
  /// Unfolds it, and goes to the list.
  void focusList();
  void refresh();

 signals:
  /// A step of that kind is to begin with what is selected.
  void stepWanted(const kervo::StepKind* kind);

 private:
  /// Whose openings are listed: the body that is selected, or the only one.
  BodyId body() const;
  void selectRows();
  void showSelected();
  void showLinks();
  /// The step that made an opening, if it can be changed itself.
  StepId madeBy(const Opening& opening) const;
  QToolButton* addVerb(const QString& text, const QString& name);

  Desk& desk_;
  QListWidget* list_;
  QLabel* hint_;
  QWidget* verbs_;
  QToolButton *alike_, *made_;
  std::vector<QToolButton*> kinds_;
  OpeningLists::List shown_;
  BodyId shownBody_;
  bool showing_ = false;
};

}  // namespace kervo::app
