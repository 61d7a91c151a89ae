// The kept views of the document, below the view: click to look that way, and keep the way one looks now.
#pragma once

#include <QButtonGroup>
#include <QHBoxLayout>
#include <QScrollArea>
#include <QToolButton>

#include "app/desk.h"
#include "app/view_panes.h"

namespace kervo::app {

class ViewsStrip : public QWidget {
  Q_OBJECT
 public:
  ViewsStrip(Desk& desk, Viewport& view, ViewPanes& panes, QWidget* parent = nullptr);

  /// Keeps the way one looks now, under a name that is asked.
  void keep();
  /// The way one looks now, as a view of that name that is not kept.
  SavedView now(const QString& name) const;
  /// Looks as the view of that number does, from 0; nothing happens if there is none.
  void look(std::size_t number);
  void focusFirst();
  /// What can be done with a view, at its button.
  void showMenu(const std::string& id, QPoint globalPosition);

  void update(const std::string& id);  ///< keeps the way one looks now in its place
  void rename(const std::string& id);  ///< its name is asked
  void duplicate(const std::string& id);
  void remove(const std::string& id);
  void move(const std::string& id, int by);  ///< to the left (-1) or right

 protected:
  bool eventFilter(QObject* watched, QEvent* event) override;
  void paintEvent(QPaintEvent* event) override;

 private:
  void refresh();
  /// The view that was looked at last, while nothing has changed since.
  void showCurrent();
  const std::vector<SavedView>& views() const { return desk_.session.document().seen.views; }
  const SavedView* find(const std::string& id) const;
  std::optional<QString> askName(const QString& title, const QString& name);
  void edit(const QString& what, const std::function<Document(const Document&)>& change);

  Desk& desk_;
  Viewport& view_;
  ViewPanes& panes_;
  QScrollArea* scrolled_;  ///< many views, or long names, must not make the window wider
  QHBoxLayout* row_;
  std::vector<QToolButton*> buttons_;
  std::string current_;
  std::string dragged_;
};

}  // namespace kervo::app
