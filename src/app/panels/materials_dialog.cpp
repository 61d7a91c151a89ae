#include "app/panels/materials_dialog.h"

#include <QDialogButtonBox>
#include <QHeaderView>
#include <QPushButton>
#include <QVBoxLayout>

#include "app/selection.h"
#include "app/texts.h"

namespace kervo::app {

namespace {

enum Column { Name, Density, Count, Mass, columnCount };

}  // namespace

MaterialsDialog::MaterialsDialog(Desk& desk, QWidget* parent)
    : QDialog(parent), desk_(desk), table_(new QTableWidget), trouble_(new QLabel) {
  setWindowTitle(tr("Materials"));
  table_->setAccessibleName(tr("Materials"));
  table_->setColumnCount(columnCount);
  table_->setHorizontalHeaderLabels({tr("Material"), tr("Density, kg/m³"), tr("Bodies"), tr("Mass")});
  table_->verticalHeader()->hide();
  table_->horizontalHeader()->setSectionResizeMode(QHeaderView::ResizeToContents);
  table_->horizontalHeader()->setSectionResizeMode(Name, QHeaderView::Stretch);
  table_->setSelectionBehavior(QAbstractItemView::SelectRows);
  trouble_->setObjectName("bad");
  trouble_->setWordWrap(true);
  trouble_->hide();
  auto* buttons = new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel);
  QPushButton* addRow = buttons->addButton(tr("Add"), QDialogButtonBox::ActionRole);
  QPushButton* removeRow = buttons->addButton(tr("Remove"), QDialogButtonBox::ActionRole);
  QPushButton* shipped = buttons->addButton(tr("As shipped"), QDialogButtonBox::ResetRole);
  auto* all = new QVBoxLayout(this);
  all->addWidget(table_, 1);
  all->addWidget(trouble_);
  all->addWidget(buttons);
  resize(560, 480);
  connect(addRow, &QPushButton::clicked, this, &MaterialsDialog::add);
  connect(removeRow, &QPushButton::clicked, this, &MaterialsDialog::remove);
  connect(shipped, &QPushButton::clicked, this, [this] { fill(shippedMaterials()); });
  connect(buttons, &QDialogButtonBox::accepted, this, &MaterialsDialog::take);
  connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
  fill(desk_.session.document().materials());
}

void MaterialsDialog::fill(const std::vector<Material>& materials) {
  table_->setRowCount(0);
  for (const Material& material : materials) {
    const int row = table_->rowCount();
    table_->insertRow(row);
    table_->setItem(row, Name, new QTableWidgetItem(QString::fromStdString(material.name)));
    auto* density = new QTableWidgetItem(QString::number(material.density, 'g', 10));
    density->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
    table_->setItem(row, Density, density);
  }
  showMasses();
}

void MaterialsDialog::showMasses() {
  for (int row = 0; row < table_->rowCount(); ++row) {
    const QTableWidgetItem* name = table_->item(row, Name);
    int count = 0;
    double mass = 0;
    for (const Body& body : desk_.session.made()->model->bodies)
      if (name && body.material == name->text().toStdString()) {
        ++count;
        mass += body.form.volume() * 1e-9 * body.density;
      }
    const QString texts[] = {count > 0 ? QString::number(count) : QString(), count > 0 ? massText(mass) : QString()};
    for (const int column : {Count, Mass}) {
      auto* item = new QTableWidgetItem(texts[column - Count]);
      item->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable);
      item->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
      table_->setItem(row, column, item);
    }
  }
}

void MaterialsDialog::add() {
  const int row = table_->rowCount();
  table_->insertRow(row);
  table_->setItem(row, Name, new QTableWidgetItem(tr("new material")));
  auto* density = new QTableWidgetItem("1000");
  density->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
  table_->setItem(row, Density, density);
  showMasses();
  table_->setCurrentCell(row, Name);
  table_->editItem(table_->item(row, Name));
}

void MaterialsDialog::remove() {
  if (table_->currentRow() >= 0) table_->removeRow(table_->currentRow());
}

std::vector<Material> MaterialsDialog::typed() const {
  std::vector<Material> result;
  for (int row = 0; row < table_->rowCount(); ++row) {
    const QString name = table_->item(row, Name)->text().trimmed(), density = table_->item(row, Density)->text();
    const QString place = tr("row %1").arg(row + 1);
    bool number = false;
    const Material material{name.toStdString(), density.trimmed().toDouble(&number)};
    if (name.isEmpty()) throw errorOf(tr("a material has no name"), place, tr("Write one, or remove the row"));
    if (findMaterial(result, material.name))
      throw errorOf(tr("\"%1\" comes twice").arg(name), place, tr("Choose another name"));
    if (!number || !(material.density > 0))
      throw errorOf(tr("\"%1\" is no density").arg(density), place, tr("Write a number above zero, in kg/m³"));
    result.push_back(material);
  }
  return result;
}

void MaterialsDialog::take() {
  try {
    std::vector<Material> materials = typed();
    // The shipped list is not written into the document.
    if (materials == shippedMaterials()) materials.clear();
    desk_.session.edit(tr("Materials"), [&](const Document& document) {
      Document changed = document;
      changed.seen.materials = materials;
      return changed;
    });
    accept();
  } catch (const Error& error) {
    trouble_->setText(QString::fromStdString(error.what()));
    trouble_->show();
  }
}

}  // namespace kervo::app
