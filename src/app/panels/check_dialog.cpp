#include "app/panels/check_dialog.h"

#include <QDialogButtonBox>
#include <QHeaderView>
#include <QPointer>
#include <QShowEvent>
#include <QVBoxLayout>

#include "app/icons.h"
#include "app/look.h"

namespace kervo::app {

namespace {

constexpr int placeRole = Qt::UserRole;
constexpr int reachRole = placeRole + 1;
constexpr int mostFindings = 500;

QString countsOf(const BodyCheck& check) {
  return CheckDialog::tr("solids %1, shells %2, faces %3, loops %4, edges %5, points %6")
      .arg(check.solids)
      .arg(check.shells)
      .arg(check.faces)
      .arg(check.loops)
      .arg(check.edges)
      .arg(check.points);
}

QString verdictOf(const BodyCheck& check) {
  if (!check.valid) return CheckDialog::tr("not sound");
  if (!check.closed) return check.solids > 0 ? CheckDialog::tr("not closed") : CheckDialog::tr("an open surface");
  return check.findings.empty() ? CheckDialog::tr("sound") : CheckDialog::tr("sound, with remarks");
}

}  // namespace

CheckDialog::CheckDialog(Desk& desk, std::vector<BodyId> bodies, QWidget* parent)
    : QDialog(parent),
      desk_(desk),
      bodies_(std::move(bodies)),
      sum_(new QLabel),
      list_(new QTreeWidget),
      repair_(new QPushButton(tr("Repair …"))) {
  setWindowTitle(tr("Check bodies"));
  sum_->setWordWrap(true);
  list_->setAccessibleName(tr("Findings"));
  list_->setColumnCount(2);
  list_->setHeaderLabels({tr("Body and finding"), tr("State")});
  list_->header()->setStretchLastSection(false);
  list_->header()->setSectionResizeMode(0, QHeaderView::Stretch);
  list_->header()->setSectionResizeMode(1, QHeaderView::ResizeToContents);
  list_->setUniformRowHeights(true);
  auto* buttons = new QDialogButtonBox;
  auto* again = buttons->addButton(tr("Check again"), QDialogButtonBox::ActionRole);
  buttons->addButton(repair_, QDialogButtonBox::ActionRole);
  buttons->addButton(QDialogButtonBox::Close);
  auto* all = new QVBoxLayout(this);
  all->addWidget(sum_);
  all->addWidget(list_, 1);
  all->addWidget(buttons);
  resize(620, 240);
  repair_->setEnabled(false);
  connect(again, &QPushButton::clicked, this, &CheckDialog::check);
  connect(repair_, &QPushButton::clicked, this, [this] {
    emit repairWanted(faulty_);
    close();
  });
  connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::close);
  connect(list_, &QTreeWidget::currentItemChanged, this, [this](const QTreeWidgetItem* item) {
    if (!item || !item->data(0, placeRole).isValid()) return;
    const QList<QVariant> place = item->data(0, placeRole).toList();
    emit placeWanted({place[0].toDouble(), place[1].toDouble(), place[2].toDouble()},
                     item->data(0, reachRole).toDouble(), item->text(0));
  });
}

void CheckDialog::showEvent(QShowEvent* event) {
  QDialog::showEvent(event);
  if (!event->spontaneous() && list_->topLevelItemCount() == 0) check();
}

void CheckDialog::check() {
  const Model& model = *desk_.session.made()->model;
  std::vector<std::pair<Checked, Shape>> work;
  for (const BodyId& id : bodies_)
    if (const Body* body = model.find(id))
      if (const Shape* shape = body->form.shape())
        work.push_back({{id, QString::fromStdString(body->name), body->form.roughBox().diagonal(), {}, {}}, *shape});
  busy_ = true;
  sum_->setText(tr("Checking …"));
  const QPointer<CheckDialog> dialog(this);
  desk_.worker.run(
      tr("Checking"),
      [work, dialog](Progress& progress) -> Worker::Then {
        std::vector<Checked> all;
        for (std::size_t i = 0; i < work.size(); ++i) {
          progress.enter(static_cast<double>(i) / static_cast<double>(work.size()),
                         static_cast<double>(i + 1) / static_cast<double>(work.size()), work[i].first.id);
          all.push_back(work[i].first);
          try {
            all.back().check = checkBody(work[i].second, {}, progress);
          } catch (const Error& error) {
            all.back().error = error;
          }
        }
        return [dialog, all] {
          if (dialog) dialog->showAll(all);
        };
      },
      [dialog](const std::optional<Error>&) {
        if (!dialog) return;
        dialog->busy_ = false;
        dialog->sum_->setText(tr("The check was stopped."));
      });
}

void CheckDialog::showAll(const std::vector<Checked>& all) {
  busy_ = false;
  list_->clear();
  faulty_.clear();
  int findings = 0;
  for (const Checked& one : all) {
    auto* body = new QTreeWidgetItem(list_, {one.name, one.error ? tr("could not be checked") : verdictOf(one.check)});
    const bool bad = one.error || !one.check.valid || (!one.check.closed && one.check.solids > 0);
    if (bad) {
      body->setForeground(1, look().vermilion);
      faulty_.push_back(one.id);
    }
    if (one.error) {
      new QTreeWidgetItem(body, {QString::fromStdString(one.error->what())});
    } else {
      new QTreeWidgetItem(body, {countsOf(one.check)});
      new QTreeWidgetItem(body, {tr("exact to %1 mm").arg(one.check.largestTolerance, 0, 'g', 3)});
    }
    int shown = 0;
    for (const BodyFinding& finding : one.check.findings) {
      if (++shown > mostFindings) {
        new QTreeWidgetItem(body, {tr("… and %1 more").arg(one.check.findings.size() - mostFindings)});
        break;
      }
      auto* item = new QTreeWidgetItem(body, {QString::fromStdString(finding.text)});
      item->setIcon(0, icon("warning"));
      item->setToolTip(0, item->text(0));
      item->setData(0, placeRole, QList<QVariant>{finding.place.x, finding.place.y, finding.place.z});
      item->setData(0, reachRole, std::max(one.size / 15, 4 * finding.size));
    }
    findings += static_cast<int>(one.check.findings.size());
    body->setExpanded(bad || all.size() == 1 || !one.check.findings.empty());
  }
  sum_->setText(
      findings == 0 ? tr("%1 bodies were checked: nothing was found.").arg(all.size())
      : faulty_.empty()
          ? tr("Bodies checked: %1. They can be trusted. Remarks: %2; a click goes there.")
                .arg(all.size())
                .arg(findings)
          : tr("Not to be trusted: %1 of %2. A click on a finding goes there.").arg(faulty_.size()).arg(all.size()));
  repair_->setEnabled(!faulty_.empty());
}

}  // namespace kervo::app
