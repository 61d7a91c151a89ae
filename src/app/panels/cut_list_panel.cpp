#include "app/panels/cut_list_panel.h"

#include <QHeaderView>
#include <QMenu>

#include "app/icons.h"
#include "app/panels/field_delegate.h"
#include "model/document_edits.h"
#include "steps/registry.h"

namespace kervo::app {

CutListPanel::CutListPanel(Desk& desk, QWidget* parent) : Panel(tr("Cut list"), "cutList", parent), desk_(desk) {
  model_ = new CutListModel(desk, this);
  sheet_ = new Sheet;
  sheet_->setAccessibleName(tr("Cut list"));
  sheet_->setModel(model_);
  sheet_->setItemDelegate(new FieldDelegate(CutListModel::EditableRole, CutListModel::OnBenchRole, this));
  auto* header = sheet_->horizontalHeader();
  const QFontMetrics metrics(font());
  header->setSectionResizeMode(CutListModel::Name, QHeaderView::Stretch);
  sheet_->setColumnWidth(CutListModel::Number, metrics.horizontalAdvance("00") + 10);
  sheet_->setColumnWidth(CutListModel::DrivenBy, metrics.horizontalAdvance("120 × 60 × 40") + 18);
  sheet_->setColumnWidth(CutListModel::Volume, metrics.horizontalAdvance("−0.0000") + 2);
  sheet_->setContextMenuPolicy(Qt::CustomContextMenu);
  trouble_ = new QLabel;
  trouble_->setObjectName("bad");
  trouble_->setWordWrap(true);
  trouble_->setTextInteractionFlags(Qt::TextSelectableByMouse);
  trouble_->hide();
  empty_ = new QLabel(tr("Every step you make stands here: what it is, what drives it, what it changes."));
  empty_->setObjectName("dim");
  empty_->setWordWrap(true);
  content()->addWidget(empty_, 1, Qt::AlignTop);
  content()->addWidget(sheet_, 1);
  content()->addWidget(trouble_);

  connect(sheet_->selectionModel(), &QItemSelectionModel::currentRowChanged, this, [this](const QModelIndex& now) {
    if (now.isValid()) desk_.selection.setStep(model_->stepAt(now.row()));
  });
  connect(model_, &QAbstractItemModel::modelReset, this, [this] {
    const int row = model_->rowOf(desk_.selection.step());
    if (row >= 0) sheet_->setCurrentIndex(model_->index(row, CutListModel::DrivenBy));
  });
  connect(&desk_.selection, &Selection::changed, this, [this] {
    if (desk_.selection.step().empty())
      sheet_->clearSelection();
    else if (const int row = model_->rowOf(desk_.selection.step()); row >= 0 && row != sheet_->currentIndex().row())
      sheet_->setCurrentIndex(model_->index(row, CutListModel::DrivenBy));
    showState();
  });
  connect(sheet_, &QTableView::doubleClicked, this, [this](const QModelIndex& index) {
    if (index.data(CutListModel::EditableRole).toBool())
      sheet_->edit(index);
    else
      desk_.trial.edit(model_->stepAt(index.row()));
  });
  connect(sheet_, &Sheet::enterPressed, this,
          [this] { desk_.trial.edit(model_->stepAt(sheet_->currentIndex().row())); });
  connect(sheet_, &Sheet::deletePressed, this,
          [this] { emit deleteWanted(model_->stepAt(sheet_->currentIndex().row())); });
  connect(sheet_, &Sheet::moveWanted, this,
          [this](int direction) { moveStep(desk_, model_->stepAt(sheet_->currentIndex().row()), direction); });
  connect(sheet_, &QWidget::customContextMenuRequested, this, &CutListPanel::showMenu);
  connect(&desk_.session, &Session::modelChanged, this, &CutListPanel::showState);
  connect(&desk_.session, &Session::documentChanged, this, &CutListPanel::showState);
  showState();
}

void CutListPanel::showState() {
  empty_->setVisible(model_->rowCount() == 0);
  sheet_->setVisible(model_->rowCount() > 0);
  setNote({});
  if (model_->rowCount() == 0) return trouble_->hide();
  const auto& made = *desk_.session.made();
  setNote(desk_.session.upToDate() ? tr("rebuilt in %1 ms").arg(made.seconds * 1000, 0, 'f', made.seconds < 0.1 ? 1 : 0)
                                   : tr("rebuilding …"));
  const StepReport* chosen = model_->report(desk_.selection.step());
  if (!chosen || !chosen->error) {
    chosen = nullptr;
    for (const StepReport& report : made.model->steps)
      if (report.error && !chosen) chosen = &report;
  }
  const Error* error = chosen && chosen->error ? &*chosen->error : nullptr;
  trouble_->setVisible(error != nullptr);
  if (!error) return;
  QString text = tr("%1: %2.").arg(QString::fromStdString(chosen->name), QString::fromStdString(error->happened()));
  if (!error->help().empty()) text += " " + QString::fromStdString(error->help()) + ".";
  trouble_->setText(text);
}

void CutListPanel::renameSelected() {
  if (sheet_->currentIndex().isValid()) sheet_->edit(sheet_->currentIndex().siblingAtColumn(CutListModel::Name));
}

void CutListPanel::editDrivenBy() {
  if (sheet_->currentIndex().isValid()) sheet_->edit(sheet_->currentIndex().siblingAtColumn(CutListModel::DrivenBy));
}

void CutListPanel::showMenu(QPoint at) {
  const QModelIndex index = sheet_->indexAt(at);
  if (!index.isValid()) return;
  const StepId id = model_->stepAt(index.row());
  const auto step = desk_.session.document().find(id);
  QMenu menu;
  menu.addAction(icon("edit"), tr("Edit on the Bench"), this, [&] { desk_.trial.edit(id); });
  menu.addAction(icon("rename"), tr("Rename"), this, [&] { renameSelected(); });
  menu.addAction(icon("off"), step->on() ? tr("Switch off") : tr("Switch on"), this, [&] { switchStep(desk_, id); });
  menu.addAction(icon("up"), tr("Move up"), this, [&] { moveStep(desk_, id, -1); });
  menu.addAction(icon("down"), tr("Move down"), this, [&] { moveStep(desk_, id, 1); });
  if (&step->kind() == &allStepKinds().bringingIn())
    menu.addAction(icon("bring-in"), tr("Reload from its file"), this, [&] { emit reloadWanted(id); });
  menu.addSeparator();
  menu.addAction(icon("delete"), tr("Delete"), this, [&] { emit deleteWanted(id); });
  menu.exec(sheet_->viewport()->mapToGlobal(at));
}

void switchStep(Desk& desk, const StepId& id) {
  const auto step = desk.session.document().find(id);
  if (!step) return;
  const QString name = stepName(desk, *step);
  desk.session.edit(step->on() ? QObject::tr("Switch off %1").arg(name) : QObject::tr("Switch on %1").arg(name),
                    [&](const Document& document) { return document.withReplaced(step->switched(!step->on())); });
}

void deleteStep(Desk& desk, const StepId& id) {
  const auto step = desk.session.document().find(id);
  if (!step) return;
  desk.session.edit(QObject::tr("Delete %1").arg(stepName(desk, *step)),
                    [&](const Document& document) { return document.withoutStep(id); });
}

void moveStep(Desk& desk, const StepId& id, int direction) {
  const auto& steps = desk.session.document().made.steps;
  for (std::size_t i = 0; i < steps.size(); ++i) {
    if (steps[i]->id() != id) continue;
    if ((direction < 0 && i == 0) || (direction > 0 && i + 1 == steps.size())) return;
    return desk.session.edit(QObject::tr("Move %1").arg(stepName(desk, *steps[i])), [&](const Document& document) {
      return withStepMoved(document, id, direction < 0 ? i - 1 : i + 1);
    });
  }
}

}  // namespace kervo::app
