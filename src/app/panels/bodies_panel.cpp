#include "app/panels/bodies_panel.h"

#include <QBrush>
#include <QColorDialog>
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
      result.seen.bodies[id] = std::move(look);
    }
    return result;
  });
}

}  // namespace

BodiesModel::BodiesModel(Desk& desk, QObject* parent) : QAbstractTableModel(parent), desk_(desk) {
  connect(&desk_.session, &Session::modelChanged, this, [this] {
    std::vector<BodyId> now;
    for (const Body& body : desk_.session.made()->model->bodies) now.push_back(body.id);
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
  return static_cast<int>(desk_.session.made()->model->bodies.size());
}

const Body* BodiesModel::bodyAt(int row) const {
  const auto& bodies = desk_.session.made()->model->bodies;
  return row >= 0 && static_cast<std::size_t>(row) < bodies.size() ? &bodies[static_cast<std::size_t>(row)] : nullptr;
}

int BodiesModel::rowOf(const BodyId& id) const {
  for (int row = 0; row < rowCount(); ++row)
    if (bodyAt(row)->id == id) return row;
  return -1;
}

QVariant BodiesModel::data(const QModelIndex& index, int role) const {
  const Body* body = bodyAt(index.row());
  if (!body) return {};
  const QString name = QString::fromStdString(body->name);
  switch (role) {
    case Qt::DisplayRole:
    case Qt::EditRole:
      if (index.column() == Name) return name;
      if (index.column() == Kind) return body->holeMaker ? tr("hole") : QString(nameOf(body->shape.kind()));
      return {};
    case Qt::DecorationRole:
      if (index.column() == Swatch) return qt(bodyColor(*body));
      if (index.column() == Name && body->shape.hasFlawedFaces()) return icon("warning", look().ochre);
      if (index.column() == Eye) return body->visible ? icon("eye") : icon("eye-closed", look().dim);
      if (index.column() == Shield)
        return body->shielded ? icon("shield-on", look().ochre) : icon("shield", look().dim);
      return {};
    case Qt::ForegroundRole:
      return index.column() == Kind || !body->visible ? QVariant(QBrush(look().dim)) : QVariant();
    case Qt::ToolTipRole:
      if (index.column() == Eye)
        return body->visible ? tr("Visible. Click to hide %1").arg(name) : tr("Hidden. Click to show %1").arg(name);
      if (index.column() == Shield)
        return body->shielded ? tr("Shielded: no step cuts %1. Click to let steps cut it").arg(name)
                              : tr("Click to shield %1: no step will cut it").arg(name);
      if (index.column() == Kind && body->holeMaker)
        return tr("Hole-maker: a group takes %1 away from its solids").arg(name);
      if (index.column() == Swatch) return tr("Click to choose a colour");
      if (body->shape.hasFlawedFaces())
        return tr("%1 has a face that is not valid, marked in the view: cuts that meet it are refused. Use Repair")
            .arg(name);
      return QStringLiteral("%1 · %2").arg(name, QString::fromStdString(body->id));
    case Qt::AccessibleTextRole:
      if (index.column() == Eye) return body->visible ? tr("visible") : tr("hidden");
      if (index.column() == Shield) return body->shielded ? tr("shielded") : tr("not shielded");
      if (index.column() == Swatch) return tr("colour %1").arg(qt(bodyColor(*body)).name());
      if (index.column() == Name && body->shape.hasFlawedFaces()) return tr("%1, damaged").arg(name);
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
  const Body* body = bodyAt(index.row());
  const std::string name = value.toString().trimmed().toStdString();
  if (role != Qt::EditRole || !body || name.empty() || name == body->name) return false;
  changeLooks(desk_, {body->id}, tr("Rename body"), [&](BodyLook& look) { look.name = name; });
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
  sheet_->setColumnWidth(BodiesModel::Kind, metrics.horizontalAdvance("surface") + 10);
  sheet_->setColumnWidth(BodiesModel::Eye, 26);
  sheet_->setColumnWidth(BodiesModel::Shield, 26);
  sheet_->setContextMenuPolicy(Qt::CustomContextMenu);
  details_ = new QWidget;
  auto* row = new QHBoxLayout(details_);
  row->setContentsMargins(4, 2, 4, 2);
  auto* label = new QLabel(tr("&Layer"));
  layer_ = new QLineEdit;
  layer_->setPlaceholderText(tr("none"));
  layer_->setAccessibleName(tr("Layer of the selected bodies"));
  label->setBuddy(layer_);
  row->addWidget(label);
  row->addWidget(layer_, 1);
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
    if (const Body* body = model_->bodyAt(index.row())) picks.push_back({Pick::Kind::Body, body->id, 0});
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

void BodiesPanel::toggleVisible() {
  if (!first()) return;
  const bool visible = !first()->visible;
  changeLooks(desk_, desk_.selection.bodies(), (visible ? tr("Show %1") : tr("Hide %1")).arg(nameOfSelected()),
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

void BodiesPanel::showState() {
  int solids = 0, surfaces = 0, others = 0;
  for (const Body& body : desk_.session.made()->model->bodies)
    ++(body.shape.kind() == BodyKind::Solid ? solids : body.shape.kind() == BodyKind::Surface ? surfaces : others);
  QStringList parts;
  if (solids) parts << tr("%n solid(s)", nullptr, solids).replace("(s)", solids == 1 ? "" : "s");
  if (surfaces) parts << tr("%n surface(s)", nullptr, surfaces).replace("(s)", surfaces == 1 ? "" : "s");
  if (others) parts << tr("%n curve(s)", nullptr, others).replace("(s)", others == 1 ? "" : "s");
  setNote(parts.isEmpty() ? tr("none yet") : parts.join(" · "));

  following_ = true;
  QItemSelection rows;
  for (const BodyId& id : desk_.selection.bodies())
    if (const int row = model_->rowOf(id); row >= 0)
      rows.select(model_->index(row, 0), model_->index(row, BodiesModel::columnCount_ - 1));
  sheet_->selectionModel()->select(rows, QItemSelectionModel::ClearAndSelect);
  following_ = false;

  const Body* body = first();
  details_->setVisible(body != nullptr);
  if (body && !layer_->hasFocus()) layer_->setText(QString::fromStdString(body->layer));
  // What was picked in the view is found in a long list, once the details have taken their room from it.
  if (body && !sheet_->hasFocus())
    QMetaObject::invokeMethod(
        sheet_, [this, row = model_->rowOf(body->id)] { sheet_->scrollTo(model_->index(row, BodiesModel::Name)); },
        Qt::QueuedConnection);
}

}  // namespace kervo::app
