#include "app/parts_dialog.h"

#include <QFileInfo>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QPushButton>
#include <QVBoxLayout>

#include "app/look.h"

namespace kervo::app {

namespace {

constexpr int numberRole = Qt::UserRole;

QString contentOf(const Shape& shape) {
  if (const Mesh* mesh = shape.mesh()) return QObject::tr("mesh, %1 triangles").arg(mesh->triangles().size());
  const QString kind = QString(nameOf(shape.kind()));
  const int faces = shape.faceCount();
  return faces == 0   ? kind
         : faces == 1 ? QObject::tr("%1, 1 face").arg(kind)
                      : QObject::tr("%1, %2 faces").arg(kind).arg(faces);
}

}  // namespace

const std::vector<BroughtBody>& broughtIn(const Document& document) {
  return document.made.steps.front()->value("bodies").as<std::vector<BroughtBody>>();
}

PartsDialog::PartsDialog(const QString& path, const Document& brought, const QStringList& lost, QWidget* parent)
    : QDialog(parent),
      list_(new QTreeWidget),
      filter_(new QLineEdit),
      count_(new QLabel),
      buttons_(new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel)) {
  setWindowTitle(tr("Parts of %1").arg(QFileInfo(path).fileName()));
  list_->setAccessibleName(tr("Bodies that come in"));
  list_->setRootIsDecorated(false);
  list_->setUniformRowHeights(true);
  list_->setHeaderLabels({tr("Body"), tr("What it is"), tr("In")});
  add(brought);
  for (const QString& each : lost) {
    auto* row = new QTreeWidgetItem(list_, {each});
    row->setFirstColumnSpanned(true);
    row->setFlags(Qt::ItemIsEnabled);
    row->setForeground(0, look().vermilion);
    row->setToolTip(0, each);
  }
  list_->header()->setSectionResizeMode(0, QHeaderView::Stretch);
  list_->header()->setSectionResizeMode(1, QHeaderView::ResizeToContents);
  list_->header()->setSectionResizeMode(2, QHeaderView::ResizeToContents);
  filter_->setPlaceholderText(tr("Filter by name"));
  filter_->setAccessibleName(tr("Filter the bodies"));
  filter_->setClearButtonEnabled(true);
  auto* all = new QPushButton(tr("Tick &all"));
  auto* none = new QPushButton(tr("Tick &none"));
  auto* above = new QHBoxLayout;
  above->addWidget(filter_, 1);
  above->addWidget(all);
  above->addWidget(none);
  auto* column = new QVBoxLayout(this);
  if (!lost.isEmpty()) {
    auto* hint =
        new QLabel(lost.size() == 1 ? tr("One part of the file cannot be read. What can be read:")
                                    : tr("%1 parts of the file cannot be read. What can be read:").arg(lost.size()));
    hint->setWordWrap(true);
    column->addWidget(hint);
  }
  column->addLayout(above);
  column->addWidget(list_, 1);
  auto* below = new QHBoxLayout;
  below->addWidget(count_, 1);
  below->addWidget(buttons_);
  column->addLayout(below);
  buttons_->button(QDialogButtonBox::Ok)->setText(tr("Bring in"));
  connect(all, &QPushButton::clicked, this, [this] { tick(true); });
  connect(none, &QPushButton::clicked, this, [this] { tick(false); });
  connect(filter_, &QLineEdit::textChanged, this, &PartsDialog::filter);
  connect(list_, &QTreeWidget::itemChanged, this, &PartsDialog::showCount);
  connect(buttons_, &QDialogButtonBox::accepted, this, &QDialog::accept);
  connect(buttons_, &QDialogButtonBox::rejected, this, &QDialog::reject);
  const int wide = QFontMetrics(fontOf()).horizontalAdvance('0') * 84;
  resize(wide, wide * 2 / 3);
  showCount();
  if (list_->topLevelItemCount() > 0) list_->setCurrentItem(list_->topLevelItem(0));
  list_->setFocus();
}

void PartsDialog::add(const Document& brought) {
  const std::vector<BroughtBody>& bodies = broughtIn(brought);
  for (std::size_t i = 0; i < bodies.size(); ++i) {
    QStringList within;
    for (const std::string& each : bodies[i].within) within << QString::fromStdString(each);
    auto* row = new QTreeWidgetItem(list_, {QString::fromStdString(bodies[i].name),
                                            contentOf(brought.made.shapes.at(bodies[i].shape)), within.join(" / ")});
    row->setData(0, numberRole, static_cast<qulonglong>(i));
    row->setFlags(row->flags() | Qt::ItemIsUserCheckable);
    row->setCheckState(0, Qt::Checked);
  }
}

void PartsDialog::filter(const QString& text) {
  for (int i = 0; i < list_->topLevelItemCount(); ++i) {
    QTreeWidgetItem* row = list_->topLevelItem(i);
    row->setHidden(!text.isEmpty() && !row->text(0).contains(text, Qt::CaseInsensitive) &&
                   !row->text(2).contains(text, Qt::CaseInsensitive));
  }
}

void PartsDialog::tick(bool on) {
  for (int i = 0; i < list_->topLevelItemCount(); ++i) {
    QTreeWidgetItem* row = list_->topLevelItem(i);
    if (!row->isHidden() && row->flags().testFlag(Qt::ItemIsUserCheckable))
      row->setCheckState(0, on ? Qt::Checked : Qt::Unchecked);
  }
}

void PartsDialog::showCount() {
  const auto count = static_cast<int>(chosen().size());
  count_->setText(count == 1 ? tr("1 body comes in") : tr("%1 bodies come in").arg(count));
  buttons_->button(QDialogButtonBox::Ok)->setEnabled(count > 0);
}

std::vector<std::size_t> PartsDialog::chosen() const {
  std::vector<std::size_t> result;
  for (int i = 0; i < list_->topLevelItemCount(); ++i) {
    const QTreeWidgetItem* row = list_->topLevelItem(i);
    if (row->flags().testFlag(Qt::ItemIsUserCheckable) && row->checkState(0) == Qt::Checked)
      result.push_back(row->data(0, numberRole).toULongLong());
  }
  return result;
}

}  // namespace kervo::app
