#include "app/unit_dialog.h"

#include <QDialogButtonBox>
#include <QFileInfo>
#include <QFormLayout>
#include <QPushButton>
#include <QSettings>
#include <QVBoxLayout>

#include "base/quantity.h"

namespace kervo::app {

UnitDialog::UnitDialog(const QString& path, const QString& size, QWidget* parent)
    : QDialog(parent), unit_(new QComboBox), size_(new QLabel) {
  setWindowTitle(tr("Unit of %1").arg(QFileInfo(path).fileName()));
  for (const QString& part : size.section(" mm", 0, 0).split(" x ")) sizes_ << part.toDouble();
  for (const char* name : {"mm", "cm", "m", "in", "ft"}) unit_->addItem(name);
  unit_->setCurrentText(QSettings().value("unit of files", "mm").toString());
  unit_->setAccessibleName(tr("Unit of the file"));
  auto* hint = new QLabel(tr("The file does not say in which unit its lengths are: look at the size."));
  hint->setWordWrap(true);
  auto* form = new QFormLayout;
  form->addRow(hint);
  form->addRow(tr("One unit of the file is one"), unit_);
  form->addRow(tr("Size"), size_);
  auto* buttons = new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel);
  buttons->button(QDialogButtonBox::Ok)->setText(tr("Bring in"));
  auto* column = new QVBoxLayout(this);
  column->addLayout(form);
  column->addWidget(buttons);
  connect(buttons, &QDialogButtonBox::accepted, this, [this] {
    QSettings().setValue("unit of files", unit());
    accept();
  });
  connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
  connect(unit_, &QComboBox::currentTextChanged, this, &UnitDialog::showSize);
  showSize();
  unit_->setFocus();
}

void UnitDialog::showSize() {
  const auto known = findUnit(unit().toStdString());
  const double factor = known ? known->factor : 1;
  QStringList parts;
  for (const double size : sizes_) parts << QString::number(size * factor, 'g', 4);
  size_->setText(tr("%1 mm").arg(parts.join(QStringLiteral(" × "))));
}

}  // namespace kervo::app
