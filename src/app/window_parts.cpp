#include "app/main_window.h"

#include "app/application.h"
#include "app/look.h"
#include "app/step_verbs.h"
#include "app/view_strip.h"
#include "model/names_for_people.h"
#include "steps/registry.h"

namespace kervo::app {

QWidget* MainWindow::makeStrip() {
  auto* strip = new QWidget;
  strip->setObjectName("strip");
  strip->setAttribute(Qt::WA_StyledBackground);
  auto* row = new QHBoxLayout(strip);
  row->setContentsMargins(14, 3, 14, 3);
  auto* brand = new QLabel("Kervo");
  brand->setObjectName("brand");
  menus_ = new VerbMenus(verbs_, *files_, this);
  title_ = new ElidedLabel;
  title_->setAlignment(Qt::AlignCenter);
  row->addWidget(brand);
  row->addWidget(menus_);
  row->addWidget(title_, 3);
  row->addWidget(find_, 2);
  return strip;
}

QWidget* MainWindow::makeViewPane() {
  auto* strip = new ViewStrip(verbs_);
  connect(view_, &Viewport::styleChanged, strip, &ViewStrip::refresh);
  connect(stage_.get(), &Stage::filterChanged, strip, &ViewStrip::refresh);
  auto* pane = new QWidget;
  auto* all = new QVBoxLayout(pane);
  all->setContentsMargins(0, 0, 0, 0);
  all->setSpacing(0);
  all->addWidget(strip);
  all->addWidget(message_);
  if (canDrawWithOpenGl()) {
    all->addWidget(panes_, 1);
  } else {
    panes_->setParent(this);
    panes_->hide();
    // Never in a window, so that Qt does not try.
    viewWithoutPicture_.reset(view_);
    auto* instead =
        new QLabel(tr("There is no picture: this display offers no OpenGL. Lists, the Bench and files work as usual."));
    instead->setWordWrap(true);
    instead->setAlignment(Qt::AlignCenter);
    instead->setMargin(24);
    all->addWidget(instead, 1);
  }
  views_ = new ViewsStrip(desk_, *view_, *panes_);
  all->addWidget(views_);
  return pane;
}

void MainWindow::showSide() {
  const bool draws = desk_.drawing.open();
  drawing_->setVisible(draws);
  constraints_->setVisible(draws);
  bodies_->setVisible(!draws);
  sections_->setVisible(!draws);
  measure_->setVisible(!draws);
  surfaces_->setVisible(!draws);
  openings_->setVisible(!draws);
}

void MainWindow::connectParts() {
  Session& session = desk_.session;
  connect(&session, &Session::modelChanged, this, [this] {
    desk_.selection.keepOnly(*before_, *desk_.session.made());
    announceNewPieces();
    before_ = desk_.session.made();
    stage_->refresh();
  });
  connect(&session, &Session::fileChanged, this, [this] {
    refreshTitle();
    status_->refresh();
  });
  connect(&session, &Session::failed, message_, [this](const Error& error) { message_->show(error); });
  connect(&desk_.worker, &Worker::stopped, this, [this] {
    if (desk_.session.upToDate() || desk_.trial.active()) return;
    message_->tell(tr("Rebuilding was stopped; the view shows the model as it was before."),
                   {{tr("Rebuild now"), [this] { desk_.session.rebuildAgain(); }}});
  });
  if (auto* application = qobject_cast<Application*>(qApp))
    connect(application, &Application::troubled, message_, [this](const Error& error) { message_->show(error); });
  connect(files_.get(), &Files::failed, message_, [this](const Error& error) { message_->show(error); });
  connect(files_.get(), &Files::noted, this, [this](const Error& error, bool damaged, const Report& report) {
    std::vector<MessageChoice> choices;
    if (damaged)
      choices = {{tr("Show it"), [this] { showFlaws(); }},
                 {tr("Repair …"), [this] { startStep(desk_, allStepKinds().mending(), selected_->get()); }}};
    if (report.rows.size() > 1)
      choices.push_back({tr("All %1 …").arg(report.rows.size()), [this, report] { showReport(report); }});
    message_->show(error, choices);
  });
  connect(files_.get(), &Files::reported, this, &MainWindow::showReport);
  connect(cutList_, &CutListPanel::reloadWanted, files_.get(), [this](const StepId& id) { files_->reload(id); });
  connect(files_.get(), &Files::asked, message_, &MessageBar::ask);
  connect(files_.get(), &Files::noticed, message_, &MessageBar::tell);
  connect(files_.get(), &Files::compared, this, &MainWindow::showDifferences);
  connect(files_.get(), &Files::curvesRead, this, &MainWindow::askForCurves);
  connect(drawing_, &DrawingPanel::fileWanted, files_.get(), [this] { files_->bringIn(); });
  connect(files_.get(), &Files::told, this, &MainWindow::tell);
  connect(files_.get(), &Files::loaded, this, [this] {
    message_->close();
    view_->goHome();
    view_->setFocus();
  });
  connect(cutList_, &CutListPanel::deleteWanted, this, &MainWindow::askToDelete);
  connect(dimensions_, &DimensionsPanel::changesWanted, this, &MainWindow::openCompare);
  connect(levels_, &LevelsPanel::lookDownWanted, this, [this] {
    view_->setProjection(Projection::Parallel);
    view_->look(StandardView::Top);
  });
  connect(bodies_, &BodiesPanel::materialsWanted, this, &MainWindow::openMaterials);
  connect(surfaces_, &SurfacesPanel::placeWanted, this, [this](const Point& place, const QString& text) {
    view_->goTo(place, view_->scene().box().diagonal() / 6);
    showMeasured(MeasureMark{place, place, text});
  });
  connect(openings_, &OpeningsPanel::stepWanted, this,
          [this](const StepKind* kind) { startStep(desk_, *kind, selected_->get()); });
  connect(&desk_.surfaces, &SurfaceLooks::failed, message_, [this](const Error& error) { message_->show(error); });
  connect(&desk_.surfaces, &SurfaceLooks::changed, this, [this] { showMeasured({}); });
  connect(measure_, &MeasurePanel::keepWanted, this,
          [this](const std::string& what) { startMeasure(desk_, selected_->get(), what); });
  connect(sections_, &SectionsPanel::addWanted, this,
          [this] { startStep(desk_, allStepKinds().cuttingOpen(), selected_->get()); });
  Trial& trial = desk_.trial;
  for (const auto signal : {&Trial::opened, &Trial::closed, &Trial::tried})
    connect(&trial, signal, this, [this] {
      stage_->refresh();
      status_->refresh();
    });
  // A drawing is selected once it is made, so that the next verb takes it.
  connect(&trial, &Trial::made, this, [this](const StepId& id) {
    const auto step = desk_.session.document().find(id);
    if (step && step->kind().makes() == Makes::Drawing) desk_.selection.setStep(id);
  });
  connect(&trial, &Trial::closed, view_, qOverload<>(&QWidget::setFocus));
  for (const auto signal : {&Trial::opened, &Trial::closed}) connect(&trial, signal, this, &MainWindow::showSide);
  connect(&desk_.drawing, &DrawingDesk::failed, message_, [this](const Error& error) { message_->show(error); });
  connect(&trial, &Trial::refused, this, [this](const Error& error) {
    const Tried& tried = *desk_.trial.result();
    const auto named = [&](const std::string& text) { return withNames(text, *tried.after); };
    message_->show(Error(named(error.happened()), "", named(error.help())));
  });
  connect(&trial, &Trial::opened, this, [this] {
    bench_->show();
    message_->close();
  });
  connect(&desk_.selection, &Selection::changed, status_, &StatusLine::refresh);
  connect(bench_, &Bench::armedChanged, this, [this] {
    stage_->refresh();
    status_->refresh();
  });
  connect(bench_, &Bench::viewWanted, this, [this] { view_->setFocus(Qt::OtherFocusReason); });
  connect(view_, &Viewport::menuWanted, this, &MainWindow::showMenuAt);
  connect(view_, &Viewport::pointed, status_, &StatusLine::showPointer);
  connect(view_, &Viewport::drawingFailed, message_, [this](const Error& error) { message_->show(error); });
}

}  // namespace kervo::app
