#include "app/panels/bodies_panel.h"

#include <QBrush>
#include <QColorDialog>
#include <QGridLayout>
#include <QHeaderView>
#include <QLabel>
#include <QMenu>
#include <algorithm>

#include "app/icons.h"
#include "app/look.h"
#include "app/panels/field_delegate.h"
#include "app/scene_maker.h"

namespace kervo::app {

namespace {

QColor qt(const Color& color) {
  return QColor::fromRgbF(float(color.red), float(color.green), float(color.blue));
}

/// Changes how bodies are seen, all in one edit.
void changeLooks(Desk& desk, const std::vector<BodyId>& bodies, const QString& what,
                 const std::function<void(BodyLook&)>& change) {
  desk.session.edit(what, [&](const Document& document) {
    Document result = document;
    for (const BodyId& id : bodies) {
      BodyLook look = result.lookOf(id);
      change(look);
      result = result.withLook(id, std::move(look));
    }
    return result;
  });
}

}  // namespace

BodiesModel::BodiesModel(Desk& desk, QObject* parent) : QAbstractTableModel(parent), desk_(desk) {
  connect(&desk_.session, &Session::modelChanged, this, [this] {
    std::vector<BodyId> now;
    for (const Body& body : model().bodies) now.push_back(body.id);
    for (const Guide& guide : model().guides) now.push_back(guide.id);
    // A reset would take away the editor in which a body is just being renamed.
    if (now == ids_) {
      if (!now.empty()) emit dataChanged(index(0, 0), index(rowCount() - 1, columnCount_ - 1));
      return;
    }
    beginResetModel();
    ids_ = std::move(now);
    endResetModel();
  });
}

int BodiesModel::rowCount(const QModelIndex&) const {
  return static_cast<int>(ids_.size());
}

const ShownAs* BodiesModel::lookAt(int row) const {
  return row >= 0 && row < rowCount() ? model().lookOf(idAt(row)) : nullptr;
}

Pick BodiesModel::pickOf(int row) const {
  return {model().guide(idAt(row)) ? Pick::Kind::Guide : Pick::Kind::Body, idAt(row), 0};
}

int BodiesModel::rowOf(const BodyId& id) const {
  const auto found = std::find(ids_.begin(), ids_.end(), id);
  return found == ids_.end() ? -1 : static_cast<int>(found - ids_.begin());
}

QVariant BodiesModel::data(const QModelIndex& index, int role) const {
  const ShownAs* look = lookAt(index.row());
  if (!look) return {};
  const QString name = QString::fromStdString(look->name);
  const int column = index.column();
  switch (role) {
    case Qt::DisplayRole:
    case Qt::EditRole:
      if (column == Name) return name;
      break;
    case Qt::DecorationRole:
      if (column == Eye) return look->visible ? icon("eye") : icon("eye-closed", app::look().dim);
      break;
    case Qt::ForegroundRole:
      return column == Kind || !look->inSight() ? QVariant(QBrush(app::look().dim)) : QVariant();
    case Qt::ToolTipRole:
      if (column == Eye && look->sight == ShownAs::Sight::Hidden)
        return tr("%1 is on %2, which is not shown now: Levels, all").arg(name, QString::fromStdString(look->level));
      if (column == Eye)
        return look->visible ? tr("Visible. Click to hide %1").arg(name) : tr("Hidden. Click to show %1").arg(name);
      break;
    case Qt::AccessibleTextRole:
      if (column == Eye) return look->visible ? tr("visible") : tr("hidden");
      break;
    default:
      return {};
  }
  const BodyId& id = idAt(index.row());
  if (const Guide* guide = model().guide(id)) return guideData(*guide, column, role);
  return bodyData(*model().find(id), column, role);
}

QVariant BodiesModel::guideData(const Guide& guide, int column, int role) const {
  if (role == Qt::DisplayRole && column == Kind) return QString(guide.kindName());
  if (role == Qt::DecorationRole && column == Swatch) return icon(guide.kindName(), look().view.axes[2]);
  if (role == Qt::ToolTipRole)
    return QStringLiteral("%1 · %2").arg(QString::fromStdString(guide.name), QString::fromStdString(guide.id));
  return {};
}

QVariant BodiesModel::bodyData(const Body& body, int column, int role) const {
  const QString name = QString::fromStdString(body.name);
  const bool damaged = body.form.hasFlawedFaces();
  switch (role) {
    case Qt::DisplayRole:
      if (column == Kind) return body.holeMaker ? tr("hole") : QString(nameOf(body.form.kind()));
      return {};
    case Qt::DecorationRole:
      if (column == Swatch) return qt(bodyColor(body));
      if (column == Name && damaged) return icon("warning", look().ochre);
      if (column == Shield) return body.shielded ? icon("shield-on", look().ochre) : icon("shield", look().dim);
      return {};
    case Qt::ToolTipRole:
      if (column == Shield)
        return body.shielded ? tr("Shielded: no step cuts %1. Click to let steps cut it").arg(name)
                             : tr("Click to shield %1: no step will cut it").arg(name);
      if (column == Kind && body.holeMaker) return tr("Hole-maker: a group takes %1 away from its solids").arg(name);
      if (column == Swatch) return tr("Click to choose a colour");
      if (damaged)
        return tr("%1 has a face that is not valid, marked in the view: cuts that meet it are refused. Use Repair")
            .arg(name);
      return QStringLiteral("%1 · %2").arg(name, QString::fromStdString(body.id));
    case Qt::AccessibleTextRole:
      if (column == Shield) return body.shielded ? tr("shielded") : tr("not shielded");
      if (column == Swatch) return tr("colour %1").arg(qt(bodyColor(body)).name());
      if (column == Name && damaged) return tr("%1, damaged").arg(name);
      return {};
    default:
      return {};
  }
}

QVariant BodiesModel::headerData(int section, Qt::Orientation orientation, int role) const {
  if (orientation != Qt::Horizontal || role != Qt::DisplayRole) return {};
  const QString titles[] = {tr("Colour"), tr("Name"), tr("Kind"), tr("Visible"), tr("Shield")};
  return titles[section];
}

Qt::ItemFlags BodiesModel::flags(const QModelIndex& index) const {
  Qt::ItemFlags flags = Qt::ItemIsEnabled | Qt::ItemIsSelectable;
  if (index.column() == Name) flags |= Qt::ItemIsEditable;
  return flags;
}

bool BodiesModel::setData(const QModelIndex& index, const QVariant& value, int role) {
  const ShownAs* now = lookAt(index.row());
  const std::string name = value.toString().trimmed().toStdString();
  if (role != Qt::EditRole || !now || name.empty() || name == now->name) return false;
  changeLooks(desk_, {idAt(index.row())}, tr("Rename"), [&](BodyLook& look) { look.name = name; });
  return true;
}

BodiesPanel::BodiesPanel(Desk& desk, QWidget* parent) : Panel(tr("Bodies"), "bodies", parent), desk_(desk) {
  model_ = new BodiesModel(desk, this);
  sheet_ = new Sheet;
  sheet_->setAccessibleName(tr("Bodies"));
  sheet_->setModel(model_);
  sheet_->setItemDelegate(new FieldDelegate(-1, -1, this));
  sheet_->setSelectionMode(QAbstractItemView::ExtendedSelection);
  auto* header = sheet_->horizontalHeader();
  header->hide();
  const QFontMetrics metrics(font());
  header->setSectionResizeMode(BodiesModel::Name, QHeaderView::Stretch);
  sheet_->setColumnWidth(BodiesModel::Swatch, 24);
  sheet_->setColumnWidth(BodiesModel::Kind,
                         std::max(metrics.horizontalAdvance("surface"), metrics.horizontalAdvance("drawing")) + 14);
  sheet_->setColumnWidth(BodiesModel::Eye, 26);
  sheet_->setColumnWidth(BodiesModel::Shield, 26);
  sheet_->setContextMenuPolicy(Qt::CustomContextMenu);
  details_ = new QWidget;
  auto* row = new QGridLayout(details_);
  row->setContentsMargins(4, 2, 4, 2);
  row->setVerticalSpacing(3);
  row->setColumnStretch(1, 1);
  auto* label = new QLabel(tr("&Layer"));
  layer_ = new QLineEdit;
  layer_->setPlaceholderText(tr("none"));
  layer_->setAccessibleName(tr("Layer of the selected bodies"));
  label->setBuddy(layer_);
  row->addWidget(label, 0, 0);
  row->addWidget(layer_, 0, 1);
  auto* materialLabel = new QLabel(tr("&Material"));
  material_ = new QComboBox;
  material_->setAccessibleName(tr("Material of the selected bodies"));
  material_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
  materialLabel->setBuddy(material_);
  row->addWidget(materialLabel, 1, 0);
  row->addWidget(material_, 1, 1);
  connect(material_, &QComboBox::activated, this, &BodiesPanel::takeMaterial);
  details_->hide();
  content()->addWidget(sheet_);
  content()->addWidget(details_);

  connect(sheet_, &QTableView::clicked, this, [this](const QModelIndex& index) {
    // The click that makes the window active changes the rows before the sheet has the keyboard.
    takeRows();
    act(index);
  });
  connect(sheet_, &Sheet::enterPressed, this, [this] { act(sheet_->currentIndex()); });
  connect(sheet_->selectionModel(), &QItemSelectionModel::selectionChanged, this, [this] {
    if (!following_ && sheet_->hasFocus()) takeRows();
  });
  connect(&desk_.selection, &Selection::changed, this, &BodiesPanel::showState);
  connect(model_, &QAbstractItemModel::modelReset, this, &BodiesPanel::showState);
  connect(model_, &QAbstractItemModel::dataChanged, this, &BodiesPanel::showState);
  connect(layer_, &QLineEdit::editingFinished, this, [this] {
    const std::string layer = layer_->text().trimmed().toStdString();
    std::vector<BodyId> others = desk_.selection.bodies();
    std::erase_if(others, [&](const BodyId& id) {
      const Body* body = desk_.session.made()->model->find(id);
      return !body || body->layer == layer;
    });
    changeLooks(desk_, others, tr("Layer"), [&](BodyLook& look) { look.layer = layer; });
  });
  connect(sheet_, &QWidget::customContextMenuRequested, this, [this](QPoint at) {
    if (!sheet_->indexAt(at).isValid()) return;
    QMenu menu;
    menu.addAction(icon("eye"), tr("Show or hide"), this, &BodiesPanel::toggleVisible);
    menu.addAction(icon("shield"), tr("Shield or unshield"), this, &BodiesPanel::toggleShield);
    menu.addAction(tr("Colour …"), this, &BodiesPanel::chooseColor);
    menu.addAction(icon("rename"), tr("Rename"), this, &BodiesPanel::renameSelected);
    menu.exec(sheet_->viewport()->mapToGlobal(at));
  });
  showState();
}

void BodiesPanel::takeRows() {
  std::vector<Pick> picks;
  for (const QModelIndex& index : sheet_->selectionModel()->selectedRows(BodiesModel::Name))
    picks.push_back(model_->pickOf(index.row()));
  if (picks != desk_.selection.picks()) desk_.selection.set(picks);
}

void BodiesPanel::act(const QModelIndex& index) {
  if (index.column() == BodiesModel::Eye) toggleVisible();
  if (index.column() == BodiesModel::Shield) toggleShield();
  if (index.column() == BodiesModel::Swatch) chooseColor();
}

const Body* BodiesPanel::first() const {
  const auto bodies = desk_.selection.bodies();
  return bodies.empty() ? nullptr : desk_.session.made()->model->find(bodies.front());
}

QString BodiesPanel::nameOfSelected() const {
  const auto count = desk_.selection.bodies().size();
  return count > 1 ? tr("%1 bodies").arg(count) : first() ? QString::fromStdString(first()->name) : QString();
}

std::vector<BodyId> BodiesPanel::selectedRows() const {
  std::vector<BodyId> rows = desk_.selection.bodies();
  const std::vector<BodyId> guides = desk_.selection.guides();
  rows.insert(rows.end(), guides.begin(), guides.end());
  return rows;
}

QString BodiesPanel::nameOfToggle() const {
  const std::vector<BodyId> rows = selectedRows();
  const Model& model = *desk_.session.made()->model;
  const ShownAs* look = rows.empty() ? nullptr : model.lookOf(rows.front());
  const Guide* guide = rows.size() == 1 ? model.guide(rows.front()) : nullptr;
  const QString which = guide                              ? tr("the %1").arg(guide->kindName())
                        : rows.size() == 1                 ? tr("the body")
                        : desk_.selection.guides().empty() ? tr("the bodies")
                                                           : tr("the selection");
  return (look && !look->visible ? tr("Show %1") : tr("Hide %1")).arg(which);
}

void BodiesPanel::toggleVisible() {
  const std::vector<BodyId> rows = selectedRows();
  const ShownAs* first = rows.empty() ? nullptr : desk_.session.made()->model->lookOf(rows.front());
  if (!first) return;
  const bool visible = !first->visible;
  const QString which = rows.size() > 1 ? tr("%1 rows").arg(rows.size()) : QString::fromStdString(first->name);
  changeLooks(desk_, rows, (visible ? tr("Show %1") : tr("Hide %1")).arg(which),
              [&](BodyLook& look) { look.visible = visible; });
}

void BodiesPanel::toggleShield() {
  if (!first()) return;
  const bool shielded = !first()->shielded;
  desk_.session.edit((shielded ? tr("Shield %1") : tr("Unshield %1")).arg(nameOfSelected()),
                     [&](const Document& document) {
                       Document result = document;
                       for (const BodyId& id : desk_.selection.bodies()) {
                         BodyTreatment treatment = result.treatmentOf(id);
                         treatment.shielded = shielded;
                         result.made.bodies[id] = treatment;
                       }
                       return result;
                     });
}

void BodiesPanel::chooseColor() {
  if (!first()) return;
  const QColor chosen =
      QColorDialog::getColor(qt(bodyColor(*first())), window(), tr("Colour of %1").arg(nameOfSelected()));
  if (!chosen.isValid()) return;
  changeLooks(desk_, desk_.selection.bodies(), tr("Colour"), [&](BodyLook& look) {
    look.color = Color{chosen.redF(), chosen.greenF(), chosen.blueF()};
  });
}

void BodiesPanel::renameSelected() {
  if (sheet_->currentIndex().isValid()) sheet_->edit(sheet_->currentIndex().siblingAtColumn(BodiesModel::Name));
}

void BodiesPanel::showMaterial(const Body& body) {
  material_->clear();
  material_->addItem(tr("none"), QString());
  const std::vector<Material>& materials = desk_.session.document().materials();
  for (const Material& material : materials) {
    const QString name = QString::fromStdString(material.name);
    material_->addItem(name, name);
    material_->setItemData(material_->count() - 1, tr("%1 kg/m³").arg(material.density), Qt::ToolTipRole);
  }
  const QString now = QString::fromStdString(body.material);
  if (!now.isEmpty() && !findMaterial(materials, body.material))
    material_->addItem(tr("%1 (not in the list)").arg(now), now);
  material_->addItem(tr("Edit the list …"));
  material_->setCurrentIndex(std::max(0, material_->findData(now)));
}

void BodiesPanel::takeMaterial(int index) {
  if (index == material_->count() - 1) {
    showState();
    emit materialsWanted();
    return;
  }
  const std::string name = material_->itemData(index).toString().toStdString();
  changeLooks(desk_, desk_.selection.bodies(), tr("Material"), [&](BodyLook& look) {
    look.material = name;
    // A density that was typed in a file gives way.
    look.density.reset();
  });
}

void BodiesPanel::showState() {
  int solids = 0, surfaces = 0, others = 0;
  for (const Body& body : desk_.session.made()->model->bodies)
    ++(body.form.kind() == BodyKind::Solid ? solids : body.form.kind() == BodyKind::Surface ? surfaces : others);
  QStringList parts;
  if (solids) parts << tr("%n solid(s)", nullptr, solids).replace("(s)", solids == 1 ? "" : "s");
  if (surfaces) parts << tr("%n surface(s)", nullptr, surfaces).replace("(s)", surfaces == 1 ? "" : "s");
  if (others) parts << tr("%n curve(s)", nullptr, others).replace("(s)", others == 1 ? "" : "s");
  setNote(parts.isEmpty() ? tr("none yet") : parts.join(" · "));

  following_ = true;
  QItemSelection rows;
  for (const BodyId& id : selectedRows())
    if (const int row = model_->rowOf(id); row >= 0)
      rows.select(model_->index(row, 0), model_->index(row, BodiesModel::columnCount_ - 1));
  sheet_->selectionModel()->select(rows, QItemSelectionModel::ClearAndSelect);
  following_ = false;

  const Body* body = first();
  details_->setVisible(body != nullptr);
  if (body && !layer_->hasFocus()) layer_->setText(QString::fromStdString(body->layer));
  if (body) showMaterial(*body);
  // What was picked in the view is found in a long list, once the details have taken their room from it.
  const std::vector<BodyId> selected = selectedRows();
  if (!selected.empty() && !sheet_->hasFocus())
    QMetaObject::invokeMethod(
        sheet_,
        [this, row = model_->rowOf(selected.front())] { sheet_->scrollTo(model_->index(row, BodiesModel::Name)); },
        Qt::QueuedConnection);
}

}  // namespace kervo::app
