#include "app/curves_dialog.h"

#include <QFileInfo>
#include <QFormLayout>
#include <QPushButton>
#include <QStyle>
#include <QVBoxLayout>

#include "app/texts.h"
#include "exchange/curve_file.h"
#include "fields/drawing_field.h"

namespace kervo::app {

namespace {

/// Ends of most files meet to a hundredth of a millimetre.
constexpr const char* usualGap = "0.01";

}  // namespace

CurvesDialog::CurvesDialog(const QString& path, const Document& drawings, const QString& unit, const QString& size,
                           QWidget* parent)
    : QDialog(parent),
      layers_(new QListWidget),
      unit_(new QComboBox),
      size_(new QLabel),
      gap_(new QLineEdit(usualGap)),
      middle_(new QCheckBox(tr("their middle at the origin"))),
      buttons_(new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel)),
      readIn_(unit.section(':', 0, 0)) {
  setWindowTitle(tr("Curves of %1").arg(QFileInfo(path).fileName()));
  width_ = size.section(' ', 0, 0).toDouble();
  height_ = size.section(' ', 2, 2).toDouble();
  addLayers(drawings);
  // As tall as what is in it, within limits.
  constexpr int fewest = 3, most = 10;
  layers_->setFixedHeight(std::clamp(layers_->count(), fewest, most) * layers_->sizeHintForRow(0) + 8);
  for (const std::string& name : curveUnits()) unit_->addItem(QString::fromStdString(name));
  if (unit_->findText(readIn_) < 0) unit_->insertItem(0, readIn_);
  unit_->setCurrentText(readIn_);
  layers_->setAccessibleName(tr("Layers that come in"));
  unit_->setAccessibleName(tr("Unit of the file"));
  gap_->setAccessibleName(tr("Largest gap that is closed, in mm"));
  auto* form = new QFormLayout;
  form->addRow(tr("One unit of the file is one"), unit_);
  const bool guessed = unit.contains(':');
  if (guessed) {
    auto* hint = new QLabel(tr("The file does not say its unit: look at the size."));
    hint->setWordWrap(true);
    form->addRow(hint);
  }
  form->addRow(tr("Size"), size_);
  form->addRow(tr("Join ends nearer than (mm)"), gap_);
  form->addRow(QString(), middle_);
  auto* column = new QVBoxLayout(this);
  column->addWidget(layers_, 1);
  column->addLayout(form);
  column->addWidget(buttons_);
  buttons_->button(QDialogButtonBox::Ok)->setText(tr("Bring in"));
  connect(buttons_, &QDialogButtonBox::accepted, this, &QDialog::accept);
  connect(buttons_, &QDialogButtonBox::rejected, this, &QDialog::reject);
  connect(unit_, &QComboBox::currentTextChanged, this, &CurvesDialog::showSize);
  connect(gap_, &QLineEdit::textChanged, this, &CurvesDialog::check);
  connect(layers_, &QListWidget::itemChanged, this, &CurvesDialog::check);
  showSize();
  unit_->setFocus();
}

void CurvesDialog::addLayers(const Document& drawings) {
  for (const auto& step : drawings.made.steps)
    for (const Field* field : step->kind().fields()) {
      if (!dynamic_cast<const DrawingField*>(field)) continue;
      const QString name = QString::fromStdString(drawings.nameOf(*step));
      const auto count = static_cast<int>(step->value(*field).as<Drawing>().curves.size());
      auto* item = new QListWidgetItem(tr("%1 · %n curves", nullptr, count).arg(name));
      item->setData(Qt::UserRole, name);
      item->setFlags(item->flags() | Qt::ItemIsUserCheckable);
      item->setCheckState(Qt::Checked);
      layers_->addItem(item);
    }
}

void CurvesDialog::showSize() {
  const auto factor = [](const QString& name) { return curveUnit(name.toStdString()); };
  const auto from = factor(readIn_), to = factor(unit_->currentText());
  const double scale = from && to ? *to / *from : 1;
  size_->setText(tr("%1 × %2 mm").arg(width_ * scale, 0, 'g', 4).arg(height_ * scale, 0, 'g', 4));
}

void CurvesDialog::check() {
  bool number = false;
  const double gap = gap_->text().trimmed().toDouble(&number);
  const bool good = number && gap > 0 && std::isfinite(gap);
  gap_->setProperty("bad", !good);
  gap_->style()->polish(gap_);
  buttons_->button(QDialogButtonBox::Ok)->setEnabled(good && !wanted().drawings.empty());
}

Files::CurvesWanted CurvesDialog::wanted() const {
  Files::CurvesWanted wanted;
  // What the file says stays what it says.
  if (unit_->currentText() != readIn_) wanted.unit = unit_->currentText();
  wanted.gap = gap_->text().trimmed();
  wanted.middle = middle_->isChecked();
  for (int row = 0; row < layers_->count(); ++row)
    if (layers_->item(row)->checkState() == Qt::Checked)
      wanted.drawings.push_back(layers_->item(row)->data(Qt::UserRole).toString());
  return wanted;
}

}  // namespace kervo::app
