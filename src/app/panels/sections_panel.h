// The document's sections: on or off, what they cut, flip; the current one is on the ruler.
#pragma once

#include <QTreeWidget>

#include "app/desk.h"
#include "app/panels/panel.h"

namespace kervo::app {

class SectionsPanel : public Panel {
  Q_OBJECT
 public:
  explicit SectionsPanel(Desk& desk, QWidget* parent = nullptr);
  QTreeWidget* list() { return list_; }
  /// The list, or the word that adds the first section.
  void focusList();

 signals:
  /// Another section is to be added.
  void addWanted();

 protected:
  bool eventFilter(QObject* watched, QEvent* event) override;
  void changeEvent(QEvent* event) override;

 private:
  void refresh();
  void showState();
  StepId idOf(const QTreeWidgetItem* item) const;
  StepId selected() const { return idOf(list_->currentItem()); }

  Desk& desk_;
  QTreeWidget* list_;
  QLabel* hint_;
  QToolButton* add_;
  bool showing_ = false;
};

}  // namespace kervo::app
