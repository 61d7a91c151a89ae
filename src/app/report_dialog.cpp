#include "app/report_dialog.h"

#include <QApplication>
#include <QClipboard>
#include <QDialogButtonBox>
#include <QHeaderView>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

#include "app/look.h"

namespace kervo::app {

ReportDialog::ReportDialog(const Report& report, QWidget* parent)
    : QDialog(parent), report_(report), list_(new QTreeWidget) {
  setWindowTitle(report.title);
  auto* sum = new QLabel(report.sum);
  sum->setWordWrap(true);
  sum->setTextInteractionFlags(Qt::TextSelectableByKeyboard | Qt::TextSelectableByMouse);
  list_->setAccessibleName(report.title);
  list_->setRootIsDecorated(false);
  list_->setWordWrap(true);
  list_->setHeaderLabels({tr("What"), tr("Told")});
  for (const auto& [what, told] : report.rows) {
    auto* row = new QTreeWidgetItem(list_, {what, told});
    row->setToolTip(1, told);
  }
  list_->header()->setSectionResizeMode(0, QHeaderView::ResizeToContents);
  list_->header()->setStretchLastSection(true);
  auto* buttons = new QDialogButtonBox(QDialogButtonBox::Close);
  auto* copied = buttons->addButton(tr("Copy as text"), QDialogButtonBox::ActionRole);
  connect(copied, &QPushButton::clicked, this, &ReportDialog::copy);
  connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
  auto* all = new QVBoxLayout(this);
  all->addWidget(sum);
  all->addWidget(list_, 1);
  all->addWidget(buttons);
  const int wide = QFontMetrics(fontOf()).horizontalAdvance('0') * 86;
  resize(wide, wide / 2);
  if (list_->topLevelItemCount() > 0) list_->setCurrentItem(list_->topLevelItem(0));
  list_->setFocus();
}

void ReportDialog::copy() const {
  QStringList lines{report_.sum};
  for (const auto& [what, told] : report_.rows) lines << what + '\t' + told;
  QApplication::clipboard()->setText(lines.join('\n'));
}

}  // namespace kervo::app
