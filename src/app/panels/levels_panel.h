// The levels: names, heights and which one is worked on; what of them is shown; plans and copies.
#pragma once

#include <QAbstractTableModel>
#include <QButtonGroup>

#include "app/desk.h"
#include "app/panels/panel.h"
#include "model/storeys.h"

namespace kervo::app {

/// The highest level first.
class LevelsModel : public QAbstractTableModel {
  Q_OBJECT
 public:
  enum Column { Work, Eye, Name, Is, Value, columnCount_ };
  enum Role { EditableRole = Qt::UserRole, WorkingRole };

  explicit LevelsModel(Desk& desk, QObject* parent = nullptr);
  int rowCount(const QModelIndex& = {}) const override { return static_cast<int>(rows_.size()); }
  int columnCount(const QModelIndex& = {}) const override { return columnCount_; }
  QVariant data(const QModelIndex& index, int role) const override;
  Qt::ItemFlags flags(const QModelIndex& index) const override;
  bool setData(const QModelIndex& index, const QVariant& value, int role) override;
  /// The level in that row; null if there is none.
  const Level* levelAt(int row) const;
  int rowOf(const std::string& name) const;
  /// The bodies on a level, whether or not they are shown.
  std::vector<BodyId> bodiesOn(const Level& level) const;
  /// Whether any of them is to be seen, or there is none to be hidden.
  bool anyVisible(const Level& level) const;

 private:
  void refresh();
  std::size_t numberOf(const Level& level) const;

  Desk& desk_;
  std::vector<std::string> rows_;
};

class LevelsPanel : public Panel {
  Q_OBJECT
 public:
  explicit LevelsPanel(Desk& desk, QWidget* parent = nullptr);
  Sheet* sheet() { return sheet_; }

  void addLevel();
  /// The level in the current row, or the working one, with all bodies on it.
  void copyLevel();
  void editLevel(const std::string& name);
  /// Makes a level the working one, or none if it is that already; its plan if a plan is shown.
  void workOn(const std::string& name);
  /// The selected bodies are on it from now on.
  void putOnWorkingLevel();
  /// The next level above (1) or below (−1) becomes the working one.
  void go(int up);
  void show(LevelSight::Show what);
  LevelSight::Show shown() const { return desk_.session.document().seen.levels.show; }
  /// Shows the plan of the working level, or no plan.
  void setPlan(bool on);
  bool planIsOn() const { return planShown(desk_.session.document()).has_value(); }
  bool anyLevel() const { return !desk_.session.document().made.levels.empty(); }

 signals:
  /// A plan is shown: one looks straight down.
  void lookDownWanted();

 private:
  void refresh();
  void press(const QModelIndex& index);
  void toggleEye(const Level& level);
  /// How several bodies are seen, as one edit.
  void changeLooks(const QString& what, const std::vector<BodyId>& bodies,
                   const std::function<void(BodyLook&)>& change);
  void removeSelected();
  std::string freeName(const std::string& wanted) const;
  void editNew(const std::string& name);

  Desk& desk_;
  LevelsModel* model_;
  Sheet* sheet_;
  QLabel* trouble_;
  QWidget* shows_;
  QButtonGroup* show_;
  QToolButton* plan_;
  QToolButton* copy_;
};

}  // namespace kervo::app
