#include "app/bench/before_you_cut.h"

#include <QHBoxLayout>
#include <QScrollArea>
#include <algorithm>
#include <cmath>

#include "app/bench/field_editor.h"
#include "app/look.h"
#include "model/names_for_people.h"

namespace kervo::app {

BeforeYouCut::BeforeYouCut(Desk& desk, QWidget* parent) : QWidget(parent), desk_(desk) {
  setAccessibleName(tr("Before you cut"));
  auto* title = new QLabel(tr("Before you cut"));
  title->setFont(fontOf(0, QFont::Bold));
  time_ = new QLabel;
  time_->setObjectName("dim");
  time_->setFont(fontOf(-1));
  auto* top = new QHBoxLayout;
  top->addWidget(title, 1);
  top->addWidget(time_);
  auto* inner = new QWidget;
  lines_ = new QVBoxLayout(inner);
  lines_->setContentsMargins(0, 0, 0, 0);
  lines_->setSpacing(3);
  auto* scroll = new QScrollArea;
  scroll->setWidget(inner);
  scroll->setWidgetResizable(true);
  scroll->setFrameShape(QFrame::NoFrame);
  scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  scroll->setFocusPolicy(Qt::NoFocus);
  progress_ = new QProgressBar;
  progress_->setTextVisible(false);
  progress_->setRange(0, 1000);
  progress_->hide();
  make_ = new QPushButton(tr("Make the cut"));
  make_->setObjectName("strong");
  putBack_ = new QPushButton(tr("Put back"));
  stop_ = new QPushButton(tr("Stop"));
  stop_->hide();
  auto* buttons = new QHBoxLayout;
  buttons->addWidget(make_, 1);
  buttons->addWidget(stop_);
  buttons->addWidget(putBack_);
  auto* all = new QVBoxLayout(this);
  all->setContentsMargins(2, 8, 2, 0);
  all->setSpacing(4);
  all->addLayout(top);
  all->addWidget(scroll, 1);
  all->addWidget(progress_);
  all->addLayout(buttons);
  connect(make_, &QPushButton::clicked, &desk_.trial, &Trial::makeIt);
  connect(putBack_, &QPushButton::clicked, &desk_.trial, &Trial::putBack);
  connect(stop_, &QPushButton::clicked, this, [this] { desk_.worker.stop(); });
  connect(&desk_.worker, &Worker::progressed, this, [this](double fraction) {
    if (!desk_.trial.active() || desk_.trial.upToDate()) return;
    progress_->show();
    stop_->show();
    progress_->setValue(int(fraction * 1000));
  });
}

QStringList BeforeYouCut::lines() const {
  QStringList result;
  for (int i = 0; i < lines_->count(); ++i)
    if (const auto* label = qobject_cast<QLabel*>(lines_->itemAt(i)->widget())) result << label->text();
  return result;
}

void BeforeYouCut::line(const QString& text, Tone tone) {
  auto* label = new QLabel(text);
  label->setWordWrap(true);
  const char* names[] = {"", "good", "caution", "bad"};
  label->setObjectName(names[static_cast<int>(tone)]);
  label->setTextInteractionFlags(Qt::TextSelectableByMouse);
  lines_->addWidget(label);
}

QString BeforeYouCut::namesOf(const std::vector<BodyId>& bodies) const {
  QStringList names;
  for (std::size_t i = 0; i < bodies.size() && i < 3; ++i) names << bodyName(desk_, bodies[i]);
  if (bodies.size() > 3) names << tr("%1 more").arg(bodies.size() - 3);
  return names.join(", ");
}

void BeforeYouCut::refresh() {
  while (QLayoutItem* item = lines_->takeAt(0)) {
    delete item->widget();
    delete item;
  }
  if (!desk_.trial.active()) return;
  const auto& tried = desk_.trial.result();
  const bool ready = desk_.trial.upToDate();
  if (ready || desk_.trial.wasStopped()) {
    progress_->hide();
    stop_->hide();
  }
  if (desk_.trial.wasStopped())
    line(tr("The trial was stopped. Change a value or press Enter to try again."), Tone::Caution);
  else if (!ready && !tried)
    line(tr("trying …"), Tone::Plain);
  time_->setText(ready && tried ? tr("tried in %1 ms").arg(tried->seconds * 1000, 0, 'f', tried->seconds < 0.1 ? 1 : 0)
                                : QString());
  if (tried) showReport(*tried);
  lines_->addStretch();
  const bool failed = ready && tried && tried->report().error;
  make_->setEnabled(!failed);
  const auto& fields = desk_.trial.step().kind().fields();
  const bool cuts =
      std::any_of(fields.begin(), fields.end(), [](const FieldSpec& f) { return f.well == Well::Cutter; });
  make_->setText(!desk_.trial.isNew() ? tr("Keep the change") : cuts ? tr("Make the cut") : tr("Make it"));
}

void BeforeYouCut::showReport(const Tried& tried) {
  const StepReport& report = tried.report();
  if (report.error) {
    const bool offered = report.finding && !report.finding->offers.empty();
    showOffers(report);
    line(QString::fromStdString(withNames(report.error->happened(), *tried.after)), Tone::Bad);
    if (!report.error->help().empty() && !offered)
      line(QString::fromStdString(withNames(report.error->help(), *tried.after)), Tone::Plain);
    return;
  }
  if (report.result) showAudit(*report.result, tried);
  showOffers(report);
  showWall(tried);
  for (const std::string& trouble : tried.laterTrouble)
    line(tr("later step fails: %1").arg(QString::fromStdString(trouble)), Tone::Caution);
}

void BeforeYouCut::showOffers(const StepReport& report) {
  if (!report.finding) return;
  for (const Offer& offer : report.finding->offers) {
    auto* button = new QPushButton(QString::fromStdString(offer.label));
    button->setObjectName("offer");
    QStringList changes;
    for (const auto& [key, value] : offer.fields)
      if (const FieldSpec* field = desk_.trial.step().kind().field(key))
        changes << tr("%1: %2").arg(QString::fromStdString(field->label), QString::fromStdString(value));
    button->setToolTip(tr("Sets %1").arg(changes.join(", ")));
    connect(button, &QPushButton::clicked, this, [this, offer] { desk_.trial.accept(offer); });
    lines_->addWidget(button);
  }
}

void BeforeYouCut::showWall(const Tried& tried) {
  if (!tried.wall) return;
  const QString size = lengthText(tried.wall->thickness, desk_.session.document().unit);
  if (tried.wallLimit > 0 && tried.wall->thickness < tried.wallLimit)
    line(tr("thinnest wall %1, under the limit of %2")
             .arg(size, lengthText(tried.wallLimit, desk_.session.document().unit)),
         Tone::Caution);
  else
    line(tr("thinnest wall %1").arg(size), tried.wallLimit > 0 ? Tone::Good : Tone::Plain);
}

void BeforeYouCut::showAudit(const StepResult& result, const Tried& tried) {
  const Audit& audit = result.audit;
  if (audit.cuts) {
    const double share = audit.volumeBefore > 0 ? 100 * audit.volumeRemoved / audit.volumeBefore : 0;
    line(tr("cuts %1").arg(namesOf(audit.touched)), Tone::Plain);
    // Parts that are only divided, not taken away.
    if (audit.volumeRemoved <= 1e-9 * audit.volumeBefore)
      line(tr("removes nothing"), Tone::Plain);
    else
      line(tr("removes %1 (%2 %)").arg(volumeText(audit.volumeRemoved)).arg(share, 0, 'f', 1), Tone::Plain);
    if (std::abs(audit.balance) <= 1e-5 * std::max(1.0, audit.volumeBefore))
      line(tr("volume balances ✓"), Tone::Good);
    else
      line(tr("volumes are off by %1").arg(volumeText(audit.balance)), Tone::Bad);
  } else if (result.drawing) {
    const auto count = result.drawing->regions.size();
    line(count == 1 ? tr("1 region to cut with") : tr("%1 regions to cut with").arg(count),
         count ? Tone::Good : Tone::Plain);
  } else if (audit.volumeBefore > 0) {
    const double change = audit.volumeAfter - audit.volumeBefore;
    if (std::abs(change) <= 1e-9 * audit.volumeBefore)
      line(tr("leaves the volume as it is ✓"), Tone::Good);
    else
      line(tr("changes the volume by %1").arg(volumeText(change)), Tone::Plain);
  } else if (audit.volumeAfter > 0) {
    line(tr("adds %1").arg(volumeText(audit.volumeAfter)), Tone::Plain);
  }
  if (!result.made.empty()) {
    const auto count = result.made.size();
    if (audit.watertight)
      line(count == 1 ? tr("watertight ✓") : tr("all %1 pieces watertight ✓").arg(count), Tone::Good);
    else
      line(tr("not watertight: an open surface"), Tone::Caution);
  }
  if (!audit.shielded.empty()) line(tr("shielded: %1").arg(namesOf(audit.shielded)), Tone::Caution);
  if (!audit.spared.empty()) line(tr("not met: %1").arg(namesOf(audit.spared)), Tone::Plain);
  for (const std::string& note : audit.notes) line(QString::fromStdString(withNames(note, *tried.after)), Tone::Good);
  for (const std::string& warning : audit.warnings)
    line(QString::fromStdString(withNames(warning, *tried.after)), Tone::Caution);
}

}  // namespace kervo::app
