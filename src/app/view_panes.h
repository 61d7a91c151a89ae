// The view in one, two or four panes, each with its own camera, look and sections.
//
// One viewport takes all input, with its fields and marks; it stands in the pane that is worked in. The others only
// show what it shows. When the pointer enters one of them, the two change places, each taking the other's way of
// looking: so a curve begun in one pane goes on in the next.
#pragma once

#include <QToolButton>
#include <QWidget>
#include <array>
#include <optional>
#include <vector>

#include "app/desk.h"
#include "app/viewport.h"

namespace kervo::app {

class ViewPanes : public QWidget {
  Q_OBJECT
 public:
  /// `view` takes the input; null where it cannot be shown.
  ViewPanes(Desk& desk, Viewport* view, QWidget* parent = nullptr);

  /// Into one, two or four panes.
  void divide(int count);
  int count() const { return static_cast<int>(panes_.size()); }
  /// The pane that is worked in, from 0.
  int active() const { return active_; }
  void activate(int pane);
  void activateNext() { activate((active_ + 1) % count()); }
  QRect rectOf(int pane) const;
  /// Where one looks from in a pane.
  const Camera& cameraOf(int pane) const { return panes_[static_cast<std::size_t>(pane)].view->camera(); }
  /// What stands on the button of a pane: "Top · A".
  QString nameOf(int pane) const;
  QToolButton* buttonOf(int pane) const { return panes_[static_cast<std::size_t>(pane)].button; }

  /// The sections that the pane shows of its own; nothing: those that are on in the document.
  const std::optional<std::vector<StepId>>& sectionsOf(int pane) const {
    return panes_[static_cast<std::size_t>(pane)].sections;
  }
  void setSections(int pane, std::optional<std::vector<StepId>> sections);

  /// Calls it for every viewport that shows something, with the number of its pane.
  template <class Call>
  void each(Call&& call) {
    for (std::size_t i = 0; i < panes_.size(); ++i) call(*panes_[i].view, static_cast<int>(i));
  }
  /// A section as it is being moved, in all panes that show it.
  void showSection(const StepId& section, const SectionCut& cut);

 signals:
  /// Another number of panes, or other sections in one: what they show is to be set again.
  void changed();

 protected:
  void resizeEvent(QResizeEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;
  void mouseReleaseEvent(QMouseEvent* event) override;
  void mouseMoveEvent(QMouseEvent* event) override;
  bool eventFilter(QObject* watched, QEvent* event) override;

 private:
  struct Pane {
    Viewport* view = nullptr;
    std::optional<std::vector<StepId>> sections = {};
    QToolButton* button = nullptr;
  };
  void layOut();
  Pane paneOf(Viewport* view);
  void refreshButtons();
  void showMenu(int pane);
  int paneWith(const QObject* view) const;

  Desk& desk_;
  Viewport* view_;
  std::vector<Pane> panes_;
  int active_ = 0;
  double across_ = 0.5, down_ = 0.5;                ///< where the lines between panes are
  bool movesUpright_ = false, movesLevel_ = false;  ///< which of them is dragged
};

}  // namespace kervo::app
