#include "app/panels/bodies_model.h"

#include <QBrush>
#include <algorithm>
#include <functional>

#include "app/icons.h"
#include "app/look.h"
#include "app/scene_maker.h"
#include "exchange/body_tree.h"

namespace kervo::app {

namespace {

QString indented(const QString& name, std::size_t depth) {
  return QString(static_cast<qsizetype>(3 * depth), QChar(QChar::Nbsp)) + name;
}

}  // namespace

QColor shownColor(const Body& body) {
  const Color color = bodyColor(body);
  return QColor::fromRgbF(float(color.red), float(color.green), float(color.blue));
}

BodiesModel::BodiesModel(Desk& desk, QObject* parent) : QAbstractTableModel(parent), desk_(desk) {
  connect(&desk_.session, &Session::modelChanged, this, &BodiesModel::layOut);
}

bool BodiesModel::matches(const ShownAs& look, const QString& kind) const {
  if (filter_.isEmpty() || kind.contains(filter_, Qt::CaseInsensitive)) return true;
  const auto has = [&](const std::string& text) {
    return QString::fromStdString(text).contains(filter_, Qt::CaseInsensitive);
  };
  return has(look.name) || has(look.layer) || has(look.level) ||
         std::any_of(look.within.begin(), look.within.end(), has);
}

std::vector<BodiesModel::Row> BodiesModel::laidOut() const {
  std::vector<const Body*> bodies;
  std::vector<std::vector<std::string>> within;
  for (const Body& body : model().bodies) {
    if (!matches(body, nameOf(body.form.kind()))) continue;
    bodies.push_back(&body);
    within.push_back(body.within);
  }
  std::vector<Row> rows;
  // While one looks for something, nothing that matches is folded away.
  const std::function<void(const BodyTree&, const std::vector<std::string>&)> add =
      [&](const BodyTree& tree, const std::vector<std::string>& path) {
        for (const BodyTree& part : tree.parts) {
          if (part.body) {
            rows.push_back({bodies[*part.body]->id, path});
            continue;
          }
          std::vector<std::string> inner = path;
          inner.push_back(part.name);
          Row row{{}, inner, true};
          for (const std::size_t body : bodiesIn(part)) row.inside.push_back(bodies[body]->id);
          rows.push_back(std::move(row));
          if (!filter_.isEmpty() || !folded_.contains(inner)) add(part, inner);
        }
      };
  add(treeOf(within), {});
  for (const Guide& guide : model().guides)
    if (matches(guide, guide.kindName())) rows.push_back({guide.id, {}});
  return rows;
}

void BodiesModel::layOut() {
  std::vector<Row> now = laidOut();
  // A reset would take away the editor in which a body is just being renamed.
  if (now == rows_) {
    if (!now.empty()) emit dataChanged(index(0, 0), index(rowCount() - 1, columnCount_ - 1));
    return;
  }
  beginResetModel();
  rows_ = std::move(now);
  endResetModel();
}

void BodiesModel::setFilter(const QString& text) {
  filter_ = text.trimmed();
  layOut();
}

void BodiesModel::fold(int row, bool folded) {
  const std::vector<std::string> path = rowAt(row).path;
  if (folded)
    folded_.insert(path);
  else
    folded_.erase(path);
  layOut();
}

void BodiesModel::reveal(const BodyId& id) {
  const Body* body = model().find(id);
  if (!body) return;
  bool changed = false;
  for (std::size_t depth = 1; depth <= body->within.size(); ++depth) {
    const auto end = body->within.begin() + static_cast<std::ptrdiff_t>(depth);
    changed |= folded_.erase(std::vector<std::string>(body->within.begin(), end)) > 0;
  }
  if (changed) layOut();
}

int BodiesModel::rowCount(const QModelIndex&) const {
  return static_cast<int>(rows_.size());
}

const ShownAs* BodiesModel::lookAt(int row) const {
  return row >= 0 && row < rowCount() && !isAssembly(row) ? model().lookOf(idAt(row)) : nullptr;
}

std::vector<Pick> BodiesModel::picksOf(int row) const {
  if (!isAssembly(row)) return {{model().guide(idAt(row)) ? Pick::Kind::Guide : Pick::Kind::Body, idAt(row), 0}};
  std::vector<Pick> picks;
  for (const BodyId& id : rowAt(row).inside) picks.push_back({Pick::Kind::Body, id, 0});
  return picks;
}

int BodiesModel::rowOf(const BodyId& id) const {
  const auto found =
      std::find_if(rows_.begin(), rows_.end(), [&](const Row& row) { return !row.assembly && row.id == id; });
  return found == rows_.end() ? -1 : static_cast<int>(found - rows_.begin());
}

QVariant BodiesModel::assemblyData(const Row& row, int column, int role) const {
  const QString name = QString::fromStdString(row.path.back());
  const auto any = [&](const std::function<bool(const Body&)>& is) {
    return std::any_of(row.inside.begin(), row.inside.end(), [&](const BodyId& id) {
      const Body* body = model().find(id);
      return body && is(*body);
    });
  };
  const bool folded = folded_.contains(row.path) && filter_.isEmpty();
  switch (role) {
    case Qt::EditRole:
      return column == Name ? QVariant(name) : QVariant();
    case Qt::DisplayRole:
      if (column == Name) return indented(name, row.path.size() - 1);
      return column == Kind ? QVariant(QString::number(row.inside.size())) : QVariant();
    case Qt::FontRole: {
      QFont font;
      font.setWeight(QFont::DemiBold);
      return column == Name ? QVariant(font) : QVariant();
    }
    case Qt::ForegroundRole:
      return column == Kind ? QVariant(QBrush(look().dim)) : QVariant();
    case Qt::DecorationRole:
      if (column == Swatch) return icon(folded ? "folded" : "unfolded", look().dim);
      if (column == Eye)
        return any([](const Body& body) { return body.visible; }) ? icon("eye") : icon("eye-closed", look().dim);
      if (column == Shield)
        return any([](const Body& body) { return body.shielded; }) ? icon("shield-on", look().ochre)
                                                                   : icon("shield", look().dim);
      return {};
    case Qt::ToolTipRole:
      if (column == Swatch) return folded ? tr("Show what is in %1").arg(name) : tr("Fold %1").arg(name);
      return tr("%1, an assembly of %2 bodies").arg(name).arg(row.inside.size());
    case Qt::AccessibleTextRole:
      if (column == Name) return folded ? tr("assembly %1, folded").arg(name) : tr("assembly %1").arg(name);
      return {};
    default:
      return {};
  }
}

QVariant BodiesModel::data(const QModelIndex& index, int role) const {
  if (index.row() < rowCount() && isAssembly(index.row()))
    return assemblyData(rowAt(index.row()), index.column(), role);
  const ShownAs* look = lookAt(index.row());
  if (!look) return {};
  const QString name = QString::fromStdString(look->name);
  const int column = index.column();
  switch (role) {
    case Qt::DisplayRole:
      if (column == Name) return indented(name, look->within.size());
      break;
    case Qt::EditRole:
      if (column == Name) return name;
      break;
    case Qt::DecorationRole:
      if (column == Eye && look->visible) return look->faded ? icon("eye", app::look().dim) : icon("eye");
      if (column == Eye) return icon("eye-closed", app::look().dim);
      break;
    case Qt::ForegroundRole:
      return column == Kind || !look->inSight() ? QVariant(QBrush(app::look().dim)) : QVariant();
    case Qt::ToolTipRole:
      if (column == Eye && look->sight == ShownAs::Sight::Hidden)
        return tr("%1 is on %2, which is not shown now: Levels, all").arg(name, QString::fromStdString(look->level));
      if (column == Eye)
        return !look->visible ? tr("Hidden. Click to show %1").arg(name)
               : look->faded  ? tr("Faded. Click to hide %1").arg(name)
                              : tr("Visible. Click to hide %1").arg(name);
      break;
    case Qt::AccessibleTextRole:
      if (column == Eye) return !look->visible ? tr("hidden") : look->faded ? tr("faded") : tr("visible");
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
      if (column == Swatch) return shownColor(body);
      if (column == Name && damaged) return icon("warning", look().ochre);
      if (column == Shield) return body.shielded ? icon("shield-on", look().ochre) : icon("shield", look().dim);
      return {};
    case Qt::ToolTipRole:
      if (column == Shield)
        return body.shielded ? tr("Shielded: no step cuts %1. Click to let steps cut it").arg(name)
                             : tr("Click to shield %1: no step will cut it").arg(name);
      if (column == Kind && body.holeMaker) return tr("Hole-maker: a group takes %1 away from its solids").arg(name);
      if (column == Swatch) return tr("Click to choose a colour");
      if (damaged && body.form.mesh())
        return tr("%1 is a mesh that is not closed: it cannot be cut by bodies. Use Repair").arg(name);
      if (damaged)
        return tr("%1 has a face that is not valid, marked in the view: cuts that meet it are refused. Use Repair")
            .arg(name);
      if (const Mesh* mesh = body.form.mesh())
        return mesh->tolerance() > 0 ? tr("%1 · a mesh of %2 triangles, within %3 mm of what it was made from")
                                           .arg(name)
                                           .arg(mesh->triangles().size())
                                           .arg(mesh->tolerance(), 0, 'g', 3)
                                     : tr("%1 · a mesh of %2 triangles").arg(name).arg(mesh->triangles().size());
      return QStringLiteral("%1 · %2").arg(name, QString::fromStdString(body.id));
    case Qt::AccessibleTextRole:
      if (column == Shield) return body.shielded ? tr("shielded") : tr("not shielded");
      if (column == Swatch) return tr("colour %1").arg(shownColor(body).name());
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

void BodiesModel::renameAssembly(const Row& row, const std::string& name) {
  desk_.session.edit(tr("Rename"), [&](const Document& document) {
    Document result = document;
    for (const BodyId& id : row.inside) {
      const Body* body = model().find(id);
      if (!body || body->within.size() < row.path.size()) continue;
      BodyLook look = result.lookOf(id);
      look.within = body->within;
      look.within->at(row.path.size() - 1) = name;
      result = result.withLook(id, std::move(look));
    }
    return result;
  });
}

bool BodiesModel::setData(const QModelIndex& index, const QVariant& value, int role) {
  const ShownAs* now = lookAt(index.row());
  const std::string name = value.toString().trimmed().toStdString();
  if (role == Qt::EditRole && isAssembly(index.row()) && !name.empty() && name != rowAt(index.row()).path.back()) {
    renameAssembly(Row(rowAt(index.row())), name);
    return true;
  }
  if (role != Qt::EditRole || !now || name.empty() || name == now->name) return false;
  desk_.session.edit(tr("Rename"), [&](const Document& document) {
    BodyLook look = document.lookOf(idAt(index.row()));
    look.name = name;
    return document.withLook(idAt(index.row()), std::move(look));
  });
  return true;
}

}  // namespace kervo::app
