// What the window asks and tells in dialogs of its own.
#include <QApplication>
#include <QDialog>
#include <QDialogButtonBox>
#include <QFileDialog>
#include <QHeaderView>
#include <QInputDialog>
#include <QMessageBox>
#include <QScreen>
#include <QTableWidget>
#include <QVBoxLayout>
#include <algorithm>

#include "app/compare/compare_dialog.h"
#include "app/curves_dialog.h"
#include "app/main_window.h"
#include "app/panels/check_dialog.h"
#include "app/panels/clearance_dialog.h"
#include "app/panels/materials_dialog.h"
#include "app/shop/flat_out_dialog.h"
#include "app/shop/printer_panel.h"
#include "app/shop/view_out_dialog.h"
#include "app/step_verbs.h"
#include "app/texts.h"
#include "app/uses/uses_dialog.h"
#include "steps/registry.h"

namespace kervo::app {

void MainWindow::showAbout() {
  QMessageBox::about(
      this, tr("About Kervo"),
      tr("<b>Kervo %1</b><p>Cuts exact solid and surface bodies.</p><p>Free software under the GNU General Public "
         "License, version 3 or later. Built with Qt, Open CASCADE Technology and CGAL; text in Inter.</p>")
          .arg(QApplication::applicationVersion()));
}

void MainWindow::showDifferences(const QString& name, const std::vector<DocumentDifference>& differences,
                                 const std::function<void()>& then) {
  QDialog dialog(this);
  dialog.setWindowTitle(tr("%1, here and on the disk").arg(name));
  auto* rows = new QTableWidget(static_cast<int>(differences.size()), 3);
  rows->setHorizontalHeaderLabels({tr("What"), tr("Here"), tr("On the disk")});
  rows->verticalHeader()->hide();
  rows->setEditTriggers(QAbstractItemView::NoEditTriggers);
  rows->setWordWrap(true);
  rows->horizontalHeader()->setSectionResizeMode(QHeaderView::Stretch);
  for (int row = 0; row < rows->rowCount(); ++row) {
    const DocumentDifference& each = differences[static_cast<std::size_t>(row)];
    const auto show = [&](int column, const std::string& text) {
      const QString shown = text.empty() ? tr("not there") : QString::fromStdString(text);
      rows->setItem(row, column, new QTableWidgetItem(shown));
    };
    show(0, each.what);
    show(1, each.here);
    show(2, each.there);
  }
  rows->resizeRowsToContents();
  auto* column = new QVBoxLayout(&dialog);
  column->addWidget(
      new QLabel(differences.empty() ? tr("Both are the same.") : tr("%1 differences.").arg(differences.size())));
  if (!differences.empty()) column->addWidget(rows, 1);
  auto* buttons = new QDialogButtonBox(QDialogButtonBox::Close);
  connect(buttons, &QDialogButtonBox::rejected, &dialog, &QDialog::reject);
  column->addWidget(buttons);
  if (!differences.empty()) dialog.resize(720, 420);
  dialog.exec();
  then();
}

void MainWindow::askForCurves(const QString& path, const Document& drawings) {
  CurvesDialog dialog(path, drawings, files_->reader().unit(), files_->reader().size(), this);
  if (dialog.exec() == QDialog::Accepted) files_->bringInCurves(path, dialog.wanted());
}

void MainWindow::askWallLimit() {
  const auto& known = desk_.session.document().seen.wallLimit;
  bool given = false;
  const QString text =
      QInputDialog::getText(this, tr("Wall limit"),
                            tr("Warn when a wall beside a cut is thinner than this (an expression with a unit).\n"
                               "Leave it empty for no limit."),
                            QLineEdit::Normal, known ? QString::fromStdString(known->text()) : QString(), &given)
          .trimmed();
  if (!given) return;
  const NumberWanted wanted{lengthDimension, NumberRule::Positive};
  const Expression limit(text.toStdString());
  if (!text.isEmpty())
    if (const QString problem = problemOf(wanted, limit, desk_.session.document(), desk_.session.dimensions());
        !problem.isEmpty())
      return message_->show(
          errorOf(tr("the limit \"%1\": %2").arg(text, problem), tr("Wall limit"), tr("Write a length")));
  desk_.session.edit(tr("Wall limit"), [&](const Document& document) {
    Document changed = document;
    changed.seen.wallLimit = text.isEmpty() ? std::nullopt : std::optional(limit);
    return changed;
  });
}

void MainWindow::openSheets() {
  const Model& model = *desk_.session.made()->model;
  const std::vector<BodyId> selected = desk_.selection.bodies();
  std::vector<Body> bodies;
  for (const Body& body : model.bodies) {
    const bool wanted = selected.empty() ? body.inSight()
                                         : std::any_of(selected.begin(), selected.end(),
                                                       [&](const BodyId& id) { return body.id.isOfFamily(id); });
    if (wanted) bodies.push_back(body);
  }
  SheetsDialog dialog(desk_, std::move(bodies), this);
  connect(&dialog, &FlatOutDialog::told, this, &MainWindow::tell);
  dialog.exec();
}

void MainWindow::openPrint() {
  const QString path =
      QFileDialog::getOpenFileName(this, tr("Play a print"), {}, tr("Triangles (*.3mf *.stl *.obj *.ply)"));
  if (path.isEmpty()) return;
  auto* panel = new PrinterPanel(desk_.worker, this);
  panel->setWindowFlag(Qt::Window);
  panel->setAttribute(Qt::WA_DeleteOnClose);
  panel->resize(1000, 680);
  panel->open(path);
  panel->show();
}

void MainWindow::openCheck() {
  std::vector<BodyId> bodies = desk_.selection.bodies();
  if (bodies.empty())
    for (const Body& body : desk_.session.made()->model->bodies)
      if (body.inSight()) bodies.push_back(body.id);
  auto* dialog = new CheckDialog(desk_, std::move(bodies), this);
  dialog->setAttribute(Qt::WA_DeleteOnClose);
  connect(dialog, &CheckDialog::placeWanted, this, [this](const Point& place, double reach, const QString& text) {
    view_->goTo(place, reach);
    showMeasured(MeasureMark{place, place, text});
  });
  connect(dialog, &QDialog::finished, this, [this] { showMeasured({}); });
  connect(dialog, &CheckDialog::repairWanted, this, [this](const std::vector<BodyId>& damaged) {
    std::vector<Pick> picks;
    for (const BodyId& id : damaged) picks.push_back({Pick::Kind::Body, id, 0});
    desk_.selection.set(picks);
    startStep(desk_, allStepKinds().mending(), selected_->get());
  });
  putOverBench(*dialog);
  dialog->show();
}

void MainWindow::openUses(StepId step) {
  if (const std::vector<BodyId> bodies = desk_.selection.bodies(); step.empty() && !bodies.empty())
    step = bodies.front().step();
  auto* dialog = new UsesDialog(desk_, this);
  dialog->setAttribute(Qt::WA_DeleteOnClose);
  connect(dialog, &UsesDialog::stepWanted, this, [this](const StepId& id) { desk_.selection.setStep(id); });
  connect(dialog, &UsesDialog::dimensionWanted, this, [this](const QString& name) {
    for (const Level& level : desk_.session.document().made.levels)
      if (name == QString::fromStdString(heightOfLevel(level.name))) return levels_->editLevel(level.name);
    dimensions_->editDimension(name);
  });
  dialog->showOf(step.empty() ? std::nullopt : std::optional(UsesNode{UsesNode::What::Step, step.text()}));
  dialog->show();
}

void MainWindow::askToDelete(const StepId& id) {
  const auto step = desk_.session.document().find(id);
  if (!step) return;
  const Uses uses = Uses::of(desk_.session.document());
  const UsesNode node{UsesNode::What::Step, id.text()};
  QStringList broken;
  for (const UsesNode& each : uses.namedIn(node)) {
    const auto user = desk_.session.document().find(StepId(each.id));
    if (each.what == UsesNode::What::Dimension || !user)
      broken << tr("dimension %1").arg(QString::fromStdString(each.id));
    else if (user->kind().makes() == Makes::Section)
      broken << tr("section %1").arg(desk_.sections.titleOf(user->id()));
    else
      broken << tr("\"%1\"").arg(stepName(desk_, *user));
  }
  if (broken.isEmpty()) return deleteStep(desk_, id);
  const auto further = uses.dependents(node).size() - static_cast<std::size_t>(broken.size());
  constexpr qsizetype most = 4;
  QString named = broken.mid(0, most).join(", ");
  if (broken.size() > most) named = tr("%1 and %2 more").arg(named).arg(broken.size() - most);
  QString text = broken.size() == 1 ? tr("%1 uses \"%2\" and would fail without it.")
                                    : tr("%1 use \"%2\" and would fail without it.");
  text = text.arg(named, stepName(desk_, *step));
  if (further > 0) text += " " + tr("%1 more depend on those.").arg(further);
  message_->ask(text, {{tr("Delete it"), [this, id] { deleteStep(desk_, id); }},
                       {tr("Show where it is used"), [this, id] { openUses(id); }},
                       {tr("Keep it"), [] {}}});
}

void MainWindow::showReport(const Report& report) {
  auto* dialog = new ReportDialog(report, this);
  dialog->setAttribute(Qt::WA_DeleteOnClose);
  putOverBench(*dialog);
  dialog->show();
}

void MainWindow::openCompare() {
  auto* dialog = new CompareDialog(desk_, *files_, this);
  dialog->setAttribute(Qt::WA_DeleteOnClose);
  connect(dialog, &CompareDialog::sceneMade, this, [this](const Scene& scene) { stage_->showInstead(scene); });
  connect(dialog, &CompareDialog::placeWanted, this,
          [this](const Box& box) { view_->goTo(box.centre(), box.diagonal() / 2); });
  connect(dialog, &QDialog::finished, this, [this] { stage_->showInstead({}); });
  putOverBench(*dialog);
  dialog->show();
  dialog->compareWith(desk_.session.canUndo() ? CompareDialog::With::LastEdit : CompareDialog::With::Disk);
}

void MainWindow::openClearance() {
  auto* dialog = new ClearanceDialog(desk_, this);
  dialog->setAttribute(Qt::WA_DeleteOnClose);
  connect(dialog, &ClearanceDialog::markWanted, this, &MainWindow::showMeasured);
  connect(dialog, &ClearanceDialog::overlapWanted, this, [this](const BodyId& a, const BodyId& b) {
    desk_.selection.set({{Pick::Kind::Body, a, 0}, {Pick::Kind::Body, b, 0}});
    startMeasure(desk_, selected_->get(), "overlap");
    desk_.trial.setField("as_body", FieldValue(true));
  });
  connect(dialog, &QDialog::finished, this, [this] { showMeasured({}); });
  putOverBench(*dialog);
  dialog->show();
}

void MainWindow::showMeasured(const std::optional<MeasureMark>& mark) {
  view_->setMeasured(mark);
  panes_->each([&](Viewport& each, int) { each.setMeasured(mark); });
}

/// Over the Bench, as far as the screen goes: the view is to be seen.
void MainWindow::putOverBench(QDialog& dialog) {
  const QRect room = screen()->availableGeometry().intersected(QRect(mapToGlobal(QPoint()), size()));
  const QPoint at = bench_->mapToGlobal(bench_->rect().center()) - dialog.rect().center();
  dialog.move(at.x(), std::max(room.top(), std::min(at.y(), room.bottom() - dialog.height())));
}

void MainWindow::openMaterials() {
  MaterialsDialog dialog(desk_, this);
  dialog.exec();
}

void MainWindow::openViewOut() {
  SavedView now = views_->now(tr("as it is seen now"));
  now.id.clear();
  ViewOutDialog dialog(desk_, now, this);
  connect(&dialog, &FlatOutDialog::told, this, &MainWindow::tell);
  dialog.exec();
}

void MainWindow::openSectionOut() {
  SectionOutDialog dialog(desk_, this);
  connect(&dialog, &FlatOutDialog::told, this, &MainWindow::tell);
  dialog.exec();
}

void MainWindow::showKeys() {
  QMessageBox box(this);
  box.setWindowTitle(tr("Keys and mouse"));
  box.setText(
      tr("<table cellpadding=3>"
         "<tr><td><b>Right drag</b></td><td>turn about what is under the pointer</td></tr>"
         "<tr><td><b>Middle drag</b></td><td>move the view</td></tr>"
         "<tr><td><b>Wheel, pinch</b></td><td>zoom to the pointer</td></tr>"
         "<tr><td><b>Alt + drag</b></td><td>turn; with Shift, move (touchpad)</td></tr>"
         "<tr><td><b>Click</b></td><td>pick; again at the same place: what lies behind</td></tr>"
         "<tr><td><b>Ctrl + click</b></td><td>pick one more</td></tr>"
         "<tr><td><b>Drag a box</b></td><td>to the right: what lies inside; to the left: what it touches</td></tr>"
         "<tr><td><b>Shift</b></td><td>while dragging a bead: without snapping</td></tr>"
         "<tr><td><b>Arrows, + and −</b></td><td>in the view: turn and zoom; with Ctrl, move</td></tr>"
         "<tr><td><b>N, P, Space</b></td><td>in the view: mark the next or previous face, take it</td></tr>"
         "<tr><td><b>Alt+1 … Alt+6</b></td><td>Cut list, Dimensions, view, Bodies, Bench, Sections</td></tr>"
         "<tr><td><b>Ctrl+7, Ctrl+8</b></td><td>two or four panes, or one again; Ctrl+Alt+P: the next pane</td></tr>"
         "<tr><td><b>Ctrl+Alt+1 … 9</b></td><td>show a kept view</td></tr>"
         "<tr><td><b>Page Up, Page Down</b></td><td>step the section on the ruler; with Shift, finely</td></tr>"
         "<tr><td><b>F2, Enter, Delete</b></td><td>in the Cut list: edit in place, edit on the Bench, delete</td></tr>"
         "<tr><td><b>Alt+Up, Alt+Down</b></td><td>in the Cut list: move the step</td></tr>"
         "<tr><td><b>Tab, Enter, Esc</b></td><td>on the Bench: next field, make it, put it back</td></tr>"
         "<tr><td><b>Click a badge, box</b></td><td>drop or keep pieces; in their list Space and Delete</td></tr>"
         "<tr><td><b>Ctrl+K</b></td><td>find any verb, body, step or dimension</td></tr></table>"));
  box.exec();
}

}  // namespace kervo::app
