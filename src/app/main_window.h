// Kervo's window: Cut list and Dimensions, the view, Bodies and Measure, the Bench.
#pragma once

#include <QDialog>
#include <QLabel>
#include <QMainWindow>
#include <QSplitter>
#include <memory>
#include <vector>

#include "app/bench/bench.h"
#include "app/desk.h"
#include "app/drawing/constraints_panel.h"
#include "app/drawing/drawing_fields.h"
#include "app/drawing/drawing_panel.h"
#include "app/files.h"
#include "app/find_box.h"
#include "app/gauge_fields.h"
#include "app/message_bar.h"
#include "app/panels/bodies_panel.h"
#include "app/panels/cut_list_panel.h"
#include "app/panels/dimensions_panel.h"
#include "app/panels/levels_panel.h"
#include "app/panels/measure_panel.h"
#include "app/panels/openings_panel.h"
#include "app/panels/sections_panel.h"
#include "app/panels/surfaces_panel.h"
#include "app/recovery.h"
#include "app/sections/views_strip.h"
#include "app/selected.h"
#include "app/stage.h"
#include "app/status_line.h"
#include "app/verb_menus.h"
#include "app/verb_table.h"
#include "app/viewport.h"

namespace kervo::app {

class MainWindow : public QMainWindow {
  Q_OBJECT
 public:
  /// `firstFile`: read and made while the window is built; may be empty.
  explicit MainWindow(const QString& firstFile = {});
  ~MainWindow() override;

  Desk& desk() { return desk_; }
  Files& files() { return *files_; }
  Viewport& view() { return *view_; }
  ViewPanes& panes() { return *panes_; }
  SurfacesPanel& surfaces() { return *surfaces_; }
  OpeningsPanel& openings() { return *openings_; }
  SectionsPanel& sections() { return *sections_; }
  ViewsStrip& views() { return *views_; }
  Bench& bench() { return *bench_; }
  CutListPanel& cutList() { return *cutList_; }
  DimensionsPanel& dimensions() { return *dimensions_; }
  LevelsPanel& levels() { return *levels_; }
  BodiesPanel& bodies() { return *bodies_; }
  DrawingPanel& drawing() { return *drawing_; }
  MessageBar& message() { return *message_; }
  GaugeFields& gauges() { return *gaugeFields_; }
  FindBox& find() { return *find_; }
  const std::shared_ptr<SelectedNow>& selected() const { return selected_; }
  QSplitter& sides() { return *columns_; }
  const std::vector<Verb>& verbs() const { return verbs_.verbs(); }

  /// Says what a crash left behind, and offers to bring it back.
  void offerRecovery() { recovery_->offer(); }
  void showReport(const Report& report);
  void showDifferences(const QString& name, const std::vector<DocumentDifference>& differences,
                       const std::function<void()>& then);
  void quit();
  void showAbout();
  /// Asks for the thickness below which Kervo warns about walls.
  void askForCurves(const QString& path, const Document& drawings);
  void askWallLimit();
  /// Planar surfaces on sheets for a cutter: those selected, or all that are shown.
  void openSheets();
  /// Asks for a file of triangles, and plays how it would be printed.
  void openPrint();
  /// What is wrong with the bodies that are selected, or all that are shown.
  void openCheck();
  /// What depends on a step, or on what made the selected body.
  void openUses(StepId step = {});
  /// Deletes a step; if others name it, says what would break and asks first.
  void askToDelete(const StepId& step);
  /// What the last change did, or what differs from a file.
  void openCompare();
  void openClearance();
  void openMaterials();
  /// A kept view at scale.
  void openViewOut();
  /// A section at scale.
  void openSectionOut();
  void showKeys();
  void showFirstTrouble();
  /// Selects the faces that are not valid, and moves the view to them.
  void showFlaws();
  void tell(const QString& text) { status_->tell(text); }
  Stage& stage() { return *stage_; }

 protected:
  void closeEvent(QCloseEvent* event) override;
  void showEvent(QShowEvent* event) override;
  void dragEnterEvent(QDragEnterEvent* event) override;
  void dropEvent(QDropEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;
  void changeEvent(QEvent* event) override;

 private:
  QWidget* makeStrip();
  QWidget* makeViewPane();
  void connectParts();
  /// While a drawing is on the Bench its curves and constraints stand where bodies and measures do.
  void showSide();
  /// Says which pieces an edit made appear that were not there before.
  void announceNewPieces();
  void refreshTitle();
  void stepBack();
  /// A distance that is shown in all panes, or none.
  void showMeasured(const std::optional<MeasureMark>& mark);
  void putOverBench(QDialog& dialog);
  void showMenuAt(const QPoint& at);

  Desk desk_;
  std::shared_ptr<SelectedNow> selected_ = std::make_shared<SelectedNow>(desk_);
  std::unique_ptr<Files> files_;
  VerbTable verbs_{*this};
  std::shared_ptr<const Made> before_;

  VerbMenus* menus_ = nullptr;
  QLabel* title_;
  FindBox* find_;
  MessageBar* message_;
  Viewport* view_;
  ViewPanes* panes_;
  std::unique_ptr<Viewport> viewWithoutPicture_;  ///< owns it where it cannot be shown
  std::unique_ptr<GaugeFields> gaugeFields_;
  std::unique_ptr<Recovery> recovery_;
  std::unique_ptr<Stage> stage_;
  CutListPanel* cutList_;
  DimensionsPanel* dimensions_;
  LevelsPanel* levels_;
  BodiesPanel* bodies_;
  SectionsPanel* sections_;
  ViewsStrip* views_ = nullptr;
  MeasurePanel* measure_;
  SurfacesPanel* surfaces_;
  OpeningsPanel* openings_;
  DrawingPanel* drawing_;
  ConstraintsPanel* constraints_;
  std::unique_ptr<DrawingFields> drawingFields_;
  Bench* bench_;
  QSplitter* columns_;
  QSplitter* rows_;
  StatusLine* status_;
  bool leaving_ = false;
};

}  // namespace kervo::app
