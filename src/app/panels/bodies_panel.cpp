#include "app/panels/bodies_panel.h"

#include <QColorDialog>
#include <QGridLayout>
#include <QHeaderView>
#include <QInputDialog>
#include <QLabel>
#include <QMenu>
#include <QMessageBox>
#include <algorithm>
#include <cmath>

#include "app/icons.h"
#include "app/panels/field_delegate.h"
#include "geom/measure/congruent.h"
#include "model/assembly_path.h"

namespace kervo::app {

namespace {

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
  filter_ = new QLineEdit;
  filter_->setPlaceholderText(tr("Filter by name, kind, layer"));
  filter_->setAccessibleName(tr("Filter the bodies"));
  filter_->setClearButtonEnabled(true);
  filter_->hide();
  connect(filter_, &QLineEdit::textChanged, model_, &BodiesModel::setFilter);
  content()->addWidget(filter_);
  content()->addWidget(sheet_);
  content()->addWidget(details_);

  connect(sheet_, &QTableView::clicked, this, [this](const QModelIndex& index) {
    // The click that makes the window active changes the rows before the sheet has the keyboard.
    takeRows();
    act(index);
  });
  connect(sheet_, &Sheet::enterPressed, this, [this] {
    const QModelIndex index = sheet_->currentIndex();
    const bool fold = index.isValid() && model_->isAssembly(index.row()) && index.column() == BodiesModel::Name;
    fold ? toggleFold(index) : act(index);
  });
  connect(sheet_->selectionModel(), &QItemSelectionModel::selectionChanged, this, [this] {
    if (!following_ && sheet_->hasFocus()) takeRows();
  });
  connect(&desk_.selection, &Selection::changed, this, [this] {
    // What is picked elsewhere is found here.
    if (!taking_)
      for (const BodyId& id : selectedRows()) model_->reveal(id);
    showState();
  });
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
    menu.addAction(tr("Fade or unfade"), this, &BodiesPanel::toggleFaded);
    menu.addAction(icon("shield"), tr("Shield or unshield"), this, &BodiesPanel::toggleShield);
    menu.addAction(tr("Show only these"), this, &BodiesPanel::showOnlySelected);
    menu.addAction(tr("Colour …"), this, &BodiesPanel::chooseColor);
    menu.addAction(icon("rename"), tr("Rename"), this, &BodiesPanel::renameSelected);
    menu.addAction(tr("Put into an assembly …"), this, &BodiesPanel::putIntoAssembly);
    QMenu* alike = menu.addMenu(tr("Select all of the same"));
    for (const auto& [text, what] :
         {std::pair(tr("kind"), Alike::Kind), std::pair(tr("colour"), Alike::Color),
          std::pair(tr("layer"), Alike::Layer), std::pair(tr("size"), Alike::Size), std::pair(tr("part"), Alike::Part)})
      alike->addAction(text, this, [this, what = what] { selectAlike(what); });
    menu.exec(sheet_->viewport()->mapToGlobal(at));
  });
  showState();
}

void BodiesPanel::takeRows() {
  std::vector<Pick> picks;
  for (const QModelIndex& index : sheet_->selectionModel()->selectedRows(BodiesModel::Name))
    for (const Pick& pick : model_->picksOf(index.row()))
      if (std::find(picks.begin(), picks.end(), pick) == picks.end()) picks.push_back(pick);
  taking_ = true;
  if (picks != desk_.selection.picks()) desk_.selection.set(picks);
  taking_ = false;
}

void BodiesPanel::toggleFold(const QModelIndex& index) {
  const int row = index.row(), column = index.column();
  model_->fold(row, !model_->isFolded(row));
  sheet_->setCurrentIndex(model_->index(row, column));
}

void BodiesPanel::act(const QModelIndex& index) {
  if (!index.isValid()) return;
  if (model_->isAssembly(index.row()) && index.column() == BodiesModel::Swatch) return toggleFold(index);
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

void BodiesPanel::toggleFaded() {
  if (!first()) return;
  const bool faded = !first()->faded;
  changeLooks(desk_, desk_.selection.bodies(), (faded ? tr("Fade %1") : tr("Unfade %1")).arg(nameOfSelected()),
              [&](BodyLook& look) { look.faded = faded; });
}

void BodiesPanel::chooseColor() {
  if (!first()) return;
  const QColor chosen =
      QColorDialog::getColor(shownColor(*first()), window(), tr("Colour of %1").arg(nameOfSelected()));
  if (!chosen.isValid()) return;
  changeLooks(desk_, desk_.selection.bodies(), tr("Colour"), [&](BodyLook& look) {
    look.color = Color{chosen.redF(), chosen.greenF(), chosen.blueF()};
  });
}

void BodiesPanel::showOnlySelected() {
  const std::vector<BodyId> shown = desk_.selection.bodies();
  if (shown.empty()) return;
  std::vector<BodyId> all;
  for (const Body& body : desk_.session.made()->model->bodies) all.push_back(body.id);
  desk_.session.edit(tr("Show only %1").arg(nameOfSelected()), [&](const Document& document) {
    Document result = document;
    for (const BodyId& id : all) {
      BodyLook look = result.lookOf(id);
      look.visible = std::find(shown.begin(), shown.end(), id) != shown.end();
      result = result.withLook(id, std::move(look));
    }
    return result;
  });
}

void BodiesPanel::selectAlike(Alike what) {
  const Model& model = *desk_.session.made()->model;
  std::vector<const Body*> wanted;
  for (const BodyId& id : desk_.selection.bodies())
    if (const Body* body = model.find(id)) wanted.push_back(body);
  const auto same = [&](const Body& a, const Body& b) {
    constexpr double rounding = 1e-6;
    switch (what) {
      case Alike::Kind:
        return a.form.kind() == b.form.kind();
      case Alike::Color:
        return a.color == b.color;
      case Alike::Layer:
        return a.layer == b.layer;
      case Alike::Part:
        return a.id == b.id || motionOnto(a.form.anyShape(), b.form.anyShape()).has_value();
      case Alike::Size:
        break;
    }
    return std::abs(a.form.volume() - b.form.volume()) <= rounding * std::abs(b.form.volume()) &&
           std::abs(a.form.area() - b.form.area()) <= rounding * b.form.area();
  };
  std::vector<Pick> picks;
  for (const Body& body : model.bodies)
    if (std::any_of(wanted.begin(), wanted.end(), [&](const Body* each) { return same(body, *each); }))
      picks.push_back({Pick::Kind::Body, body.id, 0});
  desk_.selection.set(picks);
}

void BodiesPanel::renameSelected() {
  if (const std::vector<BodyId> bodies = desk_.selection.bodies(); bodies.size() > 1) {
    bool taken = false;
    const QString name = QInputDialog::getText(window(), tr("Rename"),
                                               tr("Name of the %1 bodies; each gets a number").arg(bodies.size()),
                                               QLineEdit::Normal, QString::fromStdString(first()->name), &taken);
    if (!taken || name.trimmed().isEmpty()) return;
    int number = 0;
    changeLooks(desk_, bodies, tr("Rename"),
                [&](BodyLook& look) { look.name = tr("%1 %2").arg(name.trimmed()).arg(++number).toStdString(); });
    return;
  }
  if (sheet_->currentIndex().isValid()) sheet_->edit(sheet_->currentIndex().siblingAtColumn(BodiesModel::Name));
}

void BodiesPanel::putIntoAssembly() {
  if (!first()) return;
  QStringList known;
  for (const Body& body : desk_.session.made()->model->bodies)
    for (auto end = body.within.begin(); end != body.within.end();)
      known << QString::fromStdString(textOfPath({body.within.begin(), ++end}));
  known.removeDuplicates();
  known.sort();
  QString now = QString::fromStdString(textOfPath(first()->within));
  known.removeAll(now);
  known.prepend(now);
  for (;;) {
    bool taken = false;
    now = QInputDialog::getItem(window(), tr("Put into an assembly"),
                                tr("Assembly of %1, such as Crate / Lid. Empty: of none").arg(nameOfSelected()), known,
                                0, true, &taken);
    if (!taken) return;
    try {
      const std::vector<std::string> path = assemblyPath(now.toStdString());
      changeLooks(desk_, desk_.selection.bodies(),
                  path.empty() ? tr("Out of its assembly") : tr("Put into %1").arg(now.trimmed()),
                  [&](BodyLook& look) { look.within = path; });
      return;
    } catch (const Error& error) {
      QMessageBox::warning(window(), tr("Put into an assembly"), QString::fromUtf8(error.what()));
      known[0] = now;
    }
  }
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
  int solids = 0, surfaces = 0, others = 0, meshes = 0;
  for (const Body& body : desk_.session.made()->model->bodies)
    ++(body.form.kind() == BodyKind::Solid     ? solids
       : body.form.kind() == BodyKind::Surface ? surfaces
       : body.form.kind() == BodyKind::Mesh    ? meshes
                                               : others);
  QStringList parts;
  if (solids) parts << tr("%n solid(s)", nullptr, solids).replace("(s)", solids == 1 ? "" : "s");
  if (surfaces) parts << tr("%n surface(s)", nullptr, surfaces).replace("(s)", surfaces == 1 ? "" : "s");
  if (others) parts << tr("%n curve(s)", nullptr, others).replace("(s)", others == 1 ? "" : "s");
  if (meshes) parts << (meshes == 1 ? tr("1 mesh") : tr("%1 meshes").arg(meshes));
  // A few are found by looking.
  constexpr int few = 10;
  const auto count = static_cast<int>(desk_.session.made()->model->bodies.size());
  const bool many = count > few || !filter_->text().isEmpty();
  filter_->setVisible(many);
  constexpr int rowsSeen = 4;
  sheet_->setMinimumHeight(many ? rowsSeen * sheet_->verticalHeader()->defaultSectionSize() : 0);
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
        [this, id = selected.front()] {
          if (const int row = model_->rowOf(id); row >= 0) sheet_->scrollTo(model_->index(row, BodiesModel::Name));
        },
        Qt::QueuedConnection);
}

}  // namespace kervo::app
