#include "app/panels/cut_list_model.h"

#include <QBrush>
#include <algorithm>
#include <cmath>

#include "app/look.h"
#include "app/panels/driven_by.h"
#include "app/selection.h"
#include "model/names_for_people.h"

namespace kervo::app {

namespace {

/// A unit in which the largest change of a list is a number of few digits.
struct VolumeUnit {
  const char* name;
  double cubicMillimetres;
};

VolumeUnit unitFor(const Model& model) {
  double largest = 0;
  for (const StepReport& step : model.steps) largest = std::max(largest, std::abs(step.volumeChange));
  if (largest > 0 && largest < 1e3) return {"mm³", 1};
  if (largest < 1e8) return {"cm³", 1e3};
  return {"m³", 1e9};
}

QString shortNumber(double value) {
  return QString::number(value, 'f', value < 100 ? 2 : value < 1e4 ? 1 : 0);
}

}  // namespace

CutListModel::CutListModel(Desk& desk, QObject* parent) : QAbstractTableModel(parent), desk_(desk) {
  const auto refresh = [this] {
    beginResetModel();
    endResetModel();
  };
  connect(&desk_.session, &Session::documentChanged, this, refresh);
  const auto repaint = [this] {
    if (rowCount() > 0) emit dataChanged(index(0, 0), index(rowCount() - 1, columnCount_ - 1));
  };
  connect(&desk_.session, &Session::modelChanged, this, repaint);
  connect(&desk_.session, &Session::seenChanged, this, repaint);
  connect(&desk_.session, &Session::modelChanged, this,
          [this] { emit headerDataChanged(Qt::Horizontal, Volume, Volume); });
  connect(&desk_.trial, &Trial::opened, this, repaint);
  connect(&desk_.trial, &Trial::closed, this, repaint);
}

int CutListModel::rowCount(const QModelIndex&) const {
  return static_cast<int>(desk_.session.document().made.steps.size());
}

StepId CutListModel::stepAt(int row) const {
  const auto& steps = desk_.session.document().made.steps;
  return row >= 0 && static_cast<std::size_t>(row) < steps.size() ? steps[static_cast<std::size_t>(row)]->id()
                                                                  : StepId();
}

int CutListModel::rowOf(const StepId& id) const {
  const auto& steps = desk_.session.document().made.steps;
  for (std::size_t i = 0; i < steps.size(); ++i)
    if (steps[i]->id() == id) return static_cast<int>(i);
  return -1;
}

const StepReport* CutListModel::report(const StepId& id) const {
  for (const StepReport& report : desk_.session.made()->model->steps)
    if (report.id == id) return &report;
  return nullptr;
}

QVariant CutListModel::data(const QModelIndex& index, int role) const {
  const auto step = desk_.session.document().find(stepAt(index.row()));
  if (!step) return {};
  const StepReport* made = report(step->id());
  const bool failed = made && made->state == StepState::Failed;
  switch (role) {
    case Qt::DisplayRole:
      switch (index.column()) {
        case Number:
          return index.row() + 1;
        case Name:
          return stepName(desk_, *step);
        case DrivenBy:
          return drivenBy(*step);
        case Volume:
          if (!step->on()) return tr("off");
          if (failed) return tr("failed");
          if (!made || made->volumeChange == 0) return QString();
          return (made->volumeChange > 0 ? QStringLiteral("+") : QStringLiteral("−")) +
                 shortNumber(std::abs(made->volumeChange) / unitFor(*desk_.session.made()->model).cubicMillimetres);
        default:
          return {};
      }
    case Qt::EditRole:
      return index.column() == DrivenBy ? QVariant(drivenBy(*step)) : QVariant(stepName(desk_, *step));
    case Qt::ForegroundRole:
      if (!step->on() || index.column() == Number) return QBrush(look().dim);
      if (failed) return QBrush(look().vermilion);
      if (index.column() == Volume && made) return QBrush(made->volumeChange > 0 ? look().teal : look().vermilion);
      return {};
    case Qt::TextAlignmentRole:
      return index.column() == Volume ? QVariant(Qt::AlignRight | Qt::AlignVCenter)
                                      : QVariant(Qt::AlignLeft | Qt::AlignVCenter);
    case Qt::ToolTipRole:
      if (failed && made->error)
        return QString::fromStdString(withNames(made->error->what(), *desk_.session.made()->model));
      if (index.column() == DrivenBy) return drivenByLabel(*step);
      return QString::fromStdString(step->kind().label() + " · " + step->id());
    case Qt::AccessibleTextRole:
      if (failed && made->error)
        return tr("%1 failed: %2")
            .arg(data(index, Qt::DisplayRole).toString(),
                 QString::fromStdString(withNames(made->error->happened(), *desk_.session.made()->model)));
      return data(index, Qt::DisplayRole);
    case FailedRole:
      return failed;
    case OffRole:
      return !step->on();
    case OnBenchRole:
      return desk_.trial.active() && desk_.trial.step().id() == step->id();
    case EditableRole:
      return index.column() == DrivenBy && drivenByEditable(*step);
    default:
      return {};
  }
}

QVariant CutListModel::headerData(int section, Qt::Orientation orientation, int role) const {
  if (orientation != Qt::Horizontal) return {};
  if (role == Qt::TextAlignmentRole)
    return section == Volume ? QVariant(Qt::AlignRight | Qt::AlignVCenter) : QVariant(Qt::AlignLeft | Qt::AlignVCenter);
  if (role != Qt::DisplayRole) return {};
  const QString titles[] = {tr("№"), tr("Step"), tr("Driven by"), QString(unitFor(*desk_.session.made()->model).name)};
  return titles[section];
}

Qt::ItemFlags CutListModel::flags(const QModelIndex& index) const {
  Qt::ItemFlags flags = Qt::ItemIsEnabled | Qt::ItemIsSelectable;
  if (index.column() == Name || index.data(EditableRole).toBool()) flags |= Qt::ItemIsEditable;
  return flags;
}

bool CutListModel::setData(const QModelIndex& index, const QVariant& value, int role) {
  if (role != Qt::EditRole) return false;
  const auto step = desk_.session.document().find(stepAt(index.row()));
  const QString text = value.toString().trimmed();
  if (!step || text == data(index, Qt::EditRole).toString()) return false;
  const bool name = index.column() == Name;
  desk_.session.edit(name ? tr("Rename") : tr("Change %1").arg(stepName(desk_, *step)), [&](const Document& document) {
    if (!name) return document.withReplaced(withDrivenBy(*step, document.nameOf(*step), text));
    const std::string own = text.toStdString();
    return document.withStepNamed(step->id(), own == step->kind().label() ? std::string() : own);
  });
  return true;
}

}  // namespace kervo::app
