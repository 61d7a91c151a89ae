#include "app/panels/clearance_dialog.h"

#include <QDialogButtonBox>
#include <QGridLayout>
#include <QHeaderView>
#include <QPointer>
#include <QVBoxLayout>
#include <algorithm>

#include "app/selection.h"

namespace kervo::app {

namespace {

/// Pairs that are measured, those whose boxes are nearest first.
constexpr std::size_t mostPairs = 400;

double apart(const Box& a, const Box& b) {
  const auto gap = [](double lowA, double highA, double lowB, double highB) {
    return std::max({0.0, lowB - highA, lowA - highB});
  };
  return length(Vector{gap(a.low.x, a.high.x, b.low.x, b.high.x), gap(a.low.y, a.high.y, b.low.y, b.high.y),
                       gap(a.low.z, a.high.z, b.low.z, b.high.z)});
}

}  // namespace

ClearanceDialog::ClearanceDialog(Desk& desk, QWidget* parent)
    : QDialog(parent), desk_(desk), sum_(new QLabel), list_(new QTreeWidget) {
  setWindowTitle(tr("Clearance of two sets"));
  auto* sets = new QGridLayout;
  sets->setColumnStretch(1, 1);
  const QString titles[] = {tr("First set"), tr("Second set")};
  for (int i = 0; i < 2; ++i) {
    sets_[i].names = new QLabel;
    sets_[i].names->setWordWrap(true);
    auto* button = new QPushButton(tr("Take the selection"));
    button->setAccessibleName(tr("%1: take the selection").arg(titles[i]));
    sets->addWidget(new QLabel(titles[i]), i, 0);
    sets->addWidget(sets_[i].names, i, 1);
    sets->addWidget(button, i, 2);
    connect(button, &QPushButton::clicked, this, [this, i] {
      take(sets_[i], desk_.selection.bodies());
      find();
    });
  }
  sum_->setWordWrap(true);
  list_->setAccessibleName(tr("Pairs of bodies"));
  list_->setRootIsDecorated(false);
  list_->setHeaderLabels({tr("First"), tr("Second"), tr("Clearance"), tr("Overlap")});
  list_->header()->setSectionResizeMode(QHeaderView::ResizeToContents);
  list_->header()->setStretchLastSection(false);
  auto* buttons = new QDialogButtonBox(QDialogButtonBox::Close);
  asBody_ = buttons->addButton(tr("Overlap as a body …"), QDialogButtonBox::ActionRole);
  asBody_->setEnabled(false);
  auto* all = new QVBoxLayout(this);
  all->addLayout(sets);
  all->addWidget(sum_);
  all->addWidget(list_, 1);
  all->addWidget(buttons);
  resize(560, 280);
  connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
  connect(list_, &QTreeWidget::currentItemChanged, this, [this](QTreeWidgetItem* item) {
    const int row = item ? list_->indexOfTopLevelItem(item) : -1;
    const Pair* pair =
        row >= 0 && static_cast<std::size_t>(row) < pairs_.size() ? &pairs_[static_cast<std::size_t>(row)] : nullptr;
    const bool overlap = pair && pair->between.overlap.value_or(0) > 0;
    asBody_->setEnabled(overlap);
    if (!pair || pair->error) return emit markWanted({});
    const QString text = overlap ? volumeText(*pair->between.overlap)
                                 : lengthText(pair->between.distance, desk_.session.document().made.unit);
    emit markWanted(MeasureMark{pair->between.from, pair->between.to, text});
  });
  connect(asBody_, &QPushButton::clicked, this, [this] {
    const int row = list_->indexOfTopLevelItem(list_->currentItem());
    if (row < 0 || static_cast<std::size_t>(row) >= pairs_.size()) return;
    const Pair pair = pairs_[static_cast<std::size_t>(row)];
    close();
    emit overlapWanted(pair.a, pair.b);
  });
  std::vector<BodyId> selected = desk_.selection.bodies(), others;
  for (const Body& body : desk_.session.made()->model->bodies)
    if (body.inSight() && std::find(selected.begin(), selected.end(), body.id) == selected.end())
      others.push_back(body.id);
  // Nothing selected: every body beside every other one.
  if (selected.empty()) selected = others;
  take(sets_[0], selected);
  take(sets_[1], others);
  find();
}

void ClearanceDialog::take(Set& set, std::vector<BodyId> bodies) {
  set.bodies = std::move(bodies);
  QStringList names;
  constexpr std::size_t most = 4;
  for (std::size_t i = 0; i < set.bodies.size() && i < most; ++i) {
    const ShownAs* look = desk_.session.made()->model->lookOf(set.bodies[i]);
    names << QString::fromStdString(look ? look->name : set.bodies[i].text());
  }
  set.names->setText(names.isEmpty() ? tr("nothing: select bodies")
                     : set.bodies.size() > most
                         ? tr("%1 and %2 more").arg(names.join(", ")).arg(set.bodies.size() - most)
                         : names.join(", "));
}

void ClearanceDialog::find() {
  const int number = ++newest_;
  const auto made = desk_.session.made();
  struct Candidate {
    const Body *a, *b;
    double apart;
  };
  std::vector<Candidate> candidates;
  for (const BodyId& a : sets_[0].bodies)
    for (const BodyId& b : sets_[1].bodies) {
      const Body *one = made->model->find(a), *other = made->model->find(b);
      if (!one || !other || one == other || !one->form.shape() || !other->form.shape()) continue;
      const bool known = std::any_of(candidates.begin(), candidates.end(),
                                     [&](const Candidate& each) { return each.a == other && each.b == one; });
      if (!known) candidates.push_back({one, other, apart(one->form.roughBox(), other->form.roughBox())});
    }
  std::stable_sort(candidates.begin(), candidates.end(),
                   [](const Candidate& x, const Candidate& y) { return x.apart < y.apart; });
  const int tooMany = static_cast<int>(candidates.size() > mostPairs ? candidates.size() - mostPairs : 0);
  if (candidates.size() > mostPairs) candidates.resize(mostPairs);
  busy_ = true;
  sum_->setText(tr("measuring …"));
  const QPointer<ClearanceDialog> dialog(this);
  desk_.worker.run(
      tr("Measuring"),
      [dialog, number, made, candidates, tooMany](Progress& progress) -> Worker::Then {
        std::vector<Pair> pairs;
        for (std::size_t i = 0; i < candidates.size(); ++i) {
          progress.throwIfStopped();
          progress.enter(static_cast<double>(i) / static_cast<double>(candidates.size()),
                         static_cast<double>(i + 1) / static_cast<double>(candidates.size()),
                         tr("measuring").toStdString());
          const Candidate& each = candidates[i];
          Pair& pair = pairs.emplace_back();
          pair.a = each.a->id;
          pair.b = each.b->id;
          pair.names[0] = QString::fromStdString(each.a->name);
          pair.names[1] = QString::fromStdString(each.b->name);
          try {
            pair.between = measuredBetween(*each.a->form.shape(), *each.b->form.shape(), progress);
          } catch (const Error& error) {
            pair.error = error;
          }
        }
        // What overlaps most comes first, then what is nearest.
        std::stable_sort(pairs.begin(), pairs.end(), [](const Pair& x, const Pair& y) {
          const double a = x.between.overlap.value_or(0), b = y.between.overlap.value_or(0);
          return a != b ? a > b : x.between.distance < y.between.distance;
        });
        return [dialog, number, pairs, tooMany] {
          if (dialog && dialog->newest_ == number) dialog->showPairs(pairs, tooMany);
        };
      },
      [dialog, number](const std::optional<Error>& error) {
        if (!dialog || dialog->newest_ != number) return;
        dialog->busy_ = false;
        dialog->sum_->setText(error ? QString::fromStdString(error->what()) : tr("Measuring was stopped."));
      });
}

void ClearanceDialog::showPairs(std::vector<Pair> pairs, int tooMany) {
  busy_ = false;
  pairs_ = std::move(pairs);
  list_->clear();
  const std::string& unit = desk_.session.document().made.unit;
  int overlapping = 0;
  std::optional<double> least;
  for (const Pair& pair : pairs_) {
    const double overlap = pair.between.overlap.value_or(0);
    auto* item = new QTreeWidgetItem({pair.names[0], pair.names[1],
                                      pair.error ? tr("not known") : lengthText(pair.between.distance, unit),
                                      overlap > 0 ? volumeText(overlap) : QStringLiteral("–")});
    for (const int column : {2, 3}) item->setTextAlignment(column, Qt::AlignRight | Qt::AlignVCenter);
    if (const auto& error = pair.error) item->setToolTip(2, QString::fromStdString(error->what()));
    list_->addTopLevelItem(item);
    if (pair.error) continue;
    if (overlap > 0) ++overlapping;
    if (!least || pair.between.distance < *least) least = pair.between.distance;
  }
  QString text = pairs_.empty()    ? tr("There are no two bodies to measure.")
                 : overlapping > 0 ? tr("%1 pairs overlap.").arg(overlapping)
                 : least           ? tr("Nothing overlaps; the least clearance is %1.").arg(lengthText(*least, unit))
                                   : tr("Nothing could be measured.");
  if (tooMany > 0) text += " " + tr("%1 pairs that are further apart were left out.").arg(tooMany);
  sum_->setText(text);
}

}  // namespace kervo::app
