// Where a step or dimension is used, as a graph: what it goes back to on its left, what would feel a change on its
// right.
#pragma once

#include <QDialog>
#include <QGraphicsView>
#include <QLabel>

#include "app/desk.h"
#include "app/uses/graph_layout.h"
#include "model/uses.h"

namespace kervo::app {

class UsesDialog : public QDialog {
  Q_OBJECT
 public:
  UsesDialog(Desk& desk, QWidget* parent);

  /// Of one node with all that is before and behind it; of the whole document without one.
  void showOf(std::optional<UsesNode> node);
  /// Where a node stands in the graph, in the coordinates of graph()'s viewport; an empty one if it is not there.
  QRect rectOf(const UsesNode& node) const;
  QGraphicsView* graph() { return graph_; }
  QString words() const { return words_->text(); }

 signals:
  /// A step was clicked: it is to be looked at.
  void stepWanted(const kervo::StepId& step);
  void dimensionWanted(const QString& name);

 protected:
  bool eventFilter(QObject* watched, QEvent* event) override;
  void changeEvent(QEvent* event) override;

 private:
  QString nameOf(const UsesNode& node) const;
  /// What a change or its deletion would do.
  QString saidOf(const UsesNode& node, const Uses& uses) const;
  void choose(const UsesNode& node);
  void step(int by);

  Desk& desk_;
  QGraphicsView* graph_;
  QLabel* words_;
  std::optional<UsesNode> node_;
  std::vector<UsesNode> shown_;
  GraphLayout layout_;
};

}  // namespace kervo::app
