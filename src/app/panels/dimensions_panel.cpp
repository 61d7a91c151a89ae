#include "app/panels/dimensions_panel.h"

#include <QBrush>
#include <QHeaderView>

#include "app/look.h"
#include "app/panels/field_delegate.h"
#include "app/selection.h"
#include "model/document_edits.h"

namespace kervo::app {

DimensionsModel::DimensionsModel(Desk& desk, QObject* parent) : QAbstractTableModel(parent), desk_(desk) {
  connect(&desk_.session, &Session::documentChanged, this, [this] {
    beginResetModel();
    endResetModel();
  });
  connect(&desk_.session, &Session::modelChanged, this, [this] {
    // Somebody may be typing into one that is not measured.
    if (measured().size() == measured_) {
      if (rowCount() > 0) emit dataChanged(index(0, 0), index(rowCount() - 1, columnCount_ - 1));
      return;
    }
    beginResetModel();
    measured_ = measured().size();
    endResetModel();
  });
}

std::vector<const StepReport*> DimensionsModel::measured() const {
  std::vector<const StepReport*> result;
  for (const StepReport& report : desk_.session.made()->model->steps)
    if (!report.measures.empty()) result.push_back(&report);
  return result;
}

int DimensionsModel::rowCount(const QModelIndex&) const {
  return static_cast<int>(desk_.session.document().made.dimensions.size() + measured().size());
}

StepId DimensionsModel::measuredBy(int row) const {
  const auto typed = desk_.session.document().made.dimensions.size();
  const auto reports = measured();
  const auto number = static_cast<std::size_t>(row);
  return row >= 0 && number >= typed && number - typed < reports.size() ? reports[number - typed]->id : StepId();
}

QVariant DimensionsModel::measuredData(const StepReport& report, int column, int role) const {
  switch (role) {
    case Qt::DisplayRole:
    case Qt::EditRole:
      if (column == Name) return QString::fromStdString(report.measures);
      if (column == Is) return tr("measured by %1").arg(QString::fromStdString(report.name));
      if (report.result)
        if (const auto& found = report.result->measured)
          return quantityText(found->value, desk_.session.document().made.unit);
      return tr("no value");
    case Qt::ForegroundRole:
      if (!report.result) return QBrush(look().vermilion);
      return column == Name ? QVariant() : QVariant(QBrush(look().dim));
    case Qt::TextAlignmentRole:
      return column == Value ? QVariant(Qt::AlignRight | Qt::AlignVCenter) : QVariant(Qt::AlignLeft | Qt::AlignVCenter);
    case Qt::ToolTipRole:
      return report.error ? QString::fromStdString(report.error->what()) : tr("Enter edits the step that measures it");
    case EditableRole:
      return false;
    default:
      return {};
  }
}

QVariant DimensionsModel::data(const QModelIndex& index, int role) const {
  const auto row = static_cast<std::size_t>(index.row());
  const auto& dimensions = desk_.session.document().made.dimensions;
  if (row >= dimensions.size()) {
    const auto reports = measured();
    return row - dimensions.size() < reports.size()
               ? measuredData(*reports[row - dimensions.size()], index.column(), role)
               : QVariant();
  }
  const auto& error = desk_.session.dimensions().error(row);
  const auto& value = desk_.session.dimensions().value(row);
  switch (role) {
    case Qt::DisplayRole:
    case Qt::EditRole:
      if (index.column() == Name) return QString::fromStdString(dimensions[row].name);
      if (index.column() == Is) return QString::fromStdString(dimensions[row].expression.text());
      return value ? quantityText(*value, desk_.session.document().made.unit) : tr("no value");
    case Qt::ForegroundRole:
      if (error) return QBrush(look().vermilion);
      return index.column() == Value ? QVariant(QBrush(look().dim)) : QVariant();
    case Qt::TextAlignmentRole:
      return index.column() == Value ? QVariant(Qt::AlignRight | Qt::AlignVCenter)
                                     : QVariant(Qt::AlignLeft | Qt::AlignVCenter);
    case Qt::ToolTipRole:
      return error ? QString::fromStdString(error->what()) : QVariant();
    case EditableRole:
      return index.column() == Is;
    default:
      return {};
  }
}

QVariant DimensionsModel::headerData(int section, Qt::Orientation orientation, int role) const {
  if (orientation != Qt::Horizontal || role != Qt::DisplayRole) return {};
  const QString titles[] = {tr("Name"), tr("Is"), tr("Value")};
  return titles[section];
}

Qt::ItemFlags DimensionsModel::flags(const QModelIndex& index) const {
  Qt::ItemFlags flags = Qt::ItemIsEnabled | Qt::ItemIsSelectable;
  const StepId by = measuredBy(index.row());
  if (by.empty() ? index.column() != Value : index.column() == Name) flags |= Qt::ItemIsEditable;
  return flags;
}

bool DimensionsModel::setData(const QModelIndex& index, const QVariant& value, int role) {
  const auto row = static_cast<std::size_t>(index.row());
  const auto& dimensions = desk_.session.document().made.dimensions;
  const std::string text = value.toString().trimmed().toStdString();
  if (role != Qt::EditRole || text.empty()) return false;
  if (const StepId by = measuredBy(index.row()); !by.empty()) {
    const std::string old = data(index, Qt::EditRole).toString().toStdString();
    if (text == old) return false;
    desk_.session.edit(tr("Rename %1").arg(QString::fromStdString(old)),
                       [&](const Document& document) { return withDimensionRenamed(document, old, text); });
    return true;
  }
  if (row >= dimensions.size()) return false;
  const std::string name = dimensions[row].name;
  if (text == (index.column() == Name ? name : dimensions[row].expression.text())) return false;
  if (index.column() == Name) {
    desk_.session.edit(tr("Rename %1").arg(QString::fromStdString(name)),
                       [&](const Document& document) { return withDimensionRenamed(document, name, text); });
  } else {
    desk_.session.edit(tr("Change %1").arg(QString::fromStdString(name)),
                       [&](const Document& document) { return document.withDimension(name, Expression(text)); });
  }
  return true;
}

DimensionsPanel::DimensionsPanel(Desk& desk, QWidget* parent)
    : Panel(tr("Dimensions"), "dimensions", parent), desk_(desk) {
  model_ = new DimensionsModel(desk, this);
  sheet_ = new Sheet;
  sheet_->setAccessibleName(tr("Dimensions"));
  sheet_->setModel(model_);
  sheet_->setItemDelegate(new FieldDelegate(DimensionsModel::EditableRole, -1, this));
  sheet_->setEditTriggers(QAbstractItemView::EditKeyPressed | QAbstractItemView::DoubleClicked |
                          QAbstractItemView::AnyKeyPressed | QAbstractItemView::SelectedClicked);
  sheet_->horizontalHeader()->hide();
  const QFontMetrics metrics(font());
  sheet_->horizontalHeader()->setSectionResizeMode(DimensionsModel::Is, QHeaderView::Stretch);
  sheet_->setColumnWidth(DimensionsModel::Name, metrics.horizontalAdvance("length of it"));
  sheet_->setColumnWidth(DimensionsModel::Value, metrics.horizontalAdvance("0000.00 mm") + 10);
  trouble_ = new QLabel;
  trouble_->setObjectName("bad");
  trouble_->setWordWrap(true);
  trouble_->hide();
  content()->addWidget(sheet_);
  content()->addWidget(trouble_);
  QToolButton* add = addLink(tr("+ add"));
  add->setAccessibleName(tr("Add a dimension"));
  connect(add, &QToolButton::clicked, this, &DimensionsPanel::addDimension);
  connect(sheet_, &Sheet::deletePressed, this, &DimensionsPanel::removeSelected);
  QToolButton* changes = addLink(tr("changes"));
  changes->setAccessibleName(tr("What changed"));
  changes->setToolTip(tr("Material that the last change added and removed"));
  connect(changes, &QToolButton::clicked, this, &DimensionsPanel::changesWanted);
  connect(sheet_, &Sheet::enterPressed, this, [this] {
    const StepId by = model_->measuredBy(sheet_->currentIndex().row());
    if (!by.empty()) return desk_.trial.edit(by);
    if (sheet_->currentIndex().isValid()) sheet_->edit(sheet_->currentIndex().siblingAtColumn(DimensionsModel::Is));
  });
  connect(&desk_.session, &Session::documentChanged, this, &DimensionsPanel::showTrouble);
  showTrouble();
}

void DimensionsPanel::addDimension() {
  setFolded(false);
  std::string name = "size";
  const auto& dimensions = desk_.session.document().made.dimensions;
  const auto taken = [&] {
    return std::any_of(dimensions.begin(), dimensions.end(), [&](const DimensionRow& row) { return row.name == name; });
  };
  for (int number = 1; taken(); ++number) name = "size" + std::to_string(number);
  desk_.session.edit(tr("Add a dimension"), [&](const Document& document) {
    return document.withDimension(name, Expression("10 " + document.made.unit));
  });
  const int last = static_cast<int>(desk_.session.document().made.dimensions.size()) - 1;
  const QModelIndex added = model_->index(last, DimensionsModel::Name);
  sheet_->setFocus();
  sheet_->setCurrentIndex(added);
  sheet_->scrollTo(added);
  sheet_->edit(added);
}

void DimensionsPanel::editDimension(const QString& name) {
  setFolded(false);
  for (int row = 0; row < model_->rowCount(); ++row)
    if (model_->index(row, DimensionsModel::Name).data().toString() == name) {
      const QModelIndex index = model_->index(row, DimensionsModel::Is);
      sheet_->setFocus();
      sheet_->setCurrentIndex(index);
      sheet_->edit(index);
    }
}

void DimensionsPanel::removeSelected() {
  const QModelIndex index = sheet_->currentIndex().siblingAtColumn(DimensionsModel::Name);
  if (!index.isValid()) return;
  if (const StepId by = model_->measuredBy(index.row()); !by.empty()) return desk_.selection.setStep(by);
  const std::string name = index.data().toString().toStdString();
  desk_.session.edit(tr("Delete %1").arg(index.data().toString()),
                     [&](const Document& document) { return withoutDimension(document, name); });
}

void DimensionsPanel::showTrouble() {
  const auto& dimensions = desk_.session.document().made.dimensions;
  QStringList lines;
  for (std::size_t row = 0; row < dimensions.size(); ++row)
    if (const auto& error = desk_.session.dimensions().error(row))
      lines << tr("%1: %2").arg(QString::fromStdString(dimensions[row].name),
                                QString::fromStdString(error->happened()));
  trouble_->setVisible(!lines.isEmpty());
  trouble_->setText(lines.join("\n"));
}

}  // namespace kervo::app
