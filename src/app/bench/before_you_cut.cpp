#include "app/bench/before_you_cut.h"

#include <QEvent>
#include <QHBoxLayout>
#include <QScrollArea>
#include <algorithm>
#include <cmath>

#include "app/bench/field_editor.h"
#include "app/look.h"
#include "app/selected.h"
#include "app/step_verbs.h"
#include "drawing/region_names.h"
#include "fields/bodies_field.h"
#include "fields/cutters_field.h"
#include "fields/regions_field.h"
#include "geom/planes.h"
#include "model/names_for_people.h"
#include "model/section_cut.h"
#include "steps/registry.h"

namespace kervo::app {

namespace {

constexpr int spacing = 3;
constexpr const char* objectNames[] = {"", "good", "caution", "bad"};

QLabel* labelOf(const QString& text, const QString& objectName) {
  auto* label = new QLabel(text);
  label->setWordWrap(true);
  label->setObjectName(objectName);
  label->setTextInteractionFlags(Qt::TextSelectableByMouse);
  return label;
}

}  // namespace

BeforeYouCut::BeforeYouCut(Desk& desk, QWidget* parent) : QWidget(parent), desk_(desk) {
  setAccessibleName(tr("Before you cut"));
  title_ = new QLabel(tr("Before you cut"));
  title_->setFont(fontOf(0, QFont::Bold));
  time_ = new QLabel;
  time_->setObjectName("dim");
  time_->setFont(fontOf(-1));
  auto* top = new QHBoxLayout;
  top->addWidget(title_, 1);
  top->addWidget(time_);
  room_ = new QWidget;
  room_->setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Ignored);
  room_->installEventFilter(this);
  lines_ = new QVBoxLayout(room_);
  lines_->setSizeConstraint(QLayout::SetNoConstraint);
  lines_->setContentsMargins(0, 0, 0, 0);
  lines_->setSpacing(spacing);
  more_ = new QToolButton;
  more_->setObjectName("link");
  more_->setFont(fontOf(-1));
  more_->setFocusPolicy(Qt::StrongFocus);
  more_->setToolTip(tr("All that the trial found"));
  more_->hide();
  connect(more_, &QToolButton::clicked, this, &BeforeYouCut::showAll);
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
  all->addWidget(room_, 1);
  all->addWidget(more_, 0, Qt::AlignLeft);
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
  for (const Entry& entry : entries_)
    if (!entry.text.isEmpty()) result << entry.text;
  return result;
}

void BeforeYouCut::line(const QString& text, Tone tone) {
  // Offers are 1.
  const int rank = tone == Tone::Bad ? 0 : tone == Tone::Caution ? 2 : 3;
  entries_.push_back({labelOf(text, objectNames[static_cast<int>(tone)]), text, rank});
}

void BeforeYouCut::arrange() {
  // Sizes as they are now: the button may have come or gone since the last time.
  layout()->activate();
  const int width = room_->width();
  const int all = room_->height() + (more_->isHidden() ? 0 : more_->height() + layout()->spacing());
  const int withMore = all - more_->sizeHint().height() - layout()->spacing();
  const auto heightOf = [&](QWidget* widget) {
    widget->ensurePolished();
    return widget->hasHeightForWidth() ? widget->heightForWidth(width) : widget->sizeHint().height();
  };
  std::vector<int> heights;
  int total = -spacing, buttons = 0;
  for (const Entry& entry : entries_) {
    auto* label = qobject_cast<QLabel*>(entry.widget);
    if (label) label->setText(entry.text);
    heights.push_back(heightOf(entry.widget) + spacing);
    total += heights.back();
    if (!label) buttons += heights.back();
  }
  // What is offered is always there. The first sentence is too, with as many of its words as there is room for.
  int left = (total <= all ? all : withMore) + spacing - buttons, hidden = 0;
  bool full = false, shortened = false;
  for (std::size_t i = 0; i < entries_.size(); ++i) {
    auto* label = qobject_cast<QLabel*>(entries_[i].widget);
    if (!label) continue;
    if (i == 0 && heights[i] > left) {
      QStringList words = entries_[i].text.split(' ');
      while (words.size() > 3 && heightOf(label) + spacing > left) {
        words.removeLast();
        label->setText(words.join(' ') + " …");
      }
      heights[i] = std::min(left, heightOf(label) + spacing);
      shortened = true;
    }
    full = full || heights[i] > left;
    label->setVisible(!full);
    left -= full ? 0 : heights[i];
    hidden += full;
  }
  more_->setText(hidden > 0 && !shortened ? tr("%1 more …").arg(hidden) : tr("more …"));
  more_->setAccessibleName(more_->text());
  more_->setVisible(hidden > 0 || shortened);
}

bool BeforeYouCut::eventFilter(QObject* watched, QEvent* event) {
  if (watched == room_ && event->type() == QEvent::Resize) {
    // Once the layout has settled: showing the button changes the size again.
    QMetaObject::invokeMethod(this, &BeforeYouCut::arrange, Qt::QueuedConnection);
  }
  return QWidget::eventFilter(watched, event);
}

void BeforeYouCut::showAll() {
  auto* popup = new QFrame(this, Qt::Popup);
  popup->setAttribute(Qt::WA_DeleteOnClose);
  popup->setObjectName("card");
  popup->setAccessibleName(tr("All that the trial found"));
  auto* inner = new QWidget;
  auto* column = new QVBoxLayout(inner);
  column->setSpacing(5);
  for (const Entry& entry : entries_)
    if (!entry.text.isEmpty()) column->addWidget(labelOf(entry.text, entry.widget->objectName()));
  auto* scroll = new QScrollArea;
  scroll->setFrameShape(QFrame::NoFrame);
  scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  scroll->setWidgetResizable(true);
  scroll->setWidget(inner);
  auto* all = new QVBoxLayout(popup);
  all->setContentsMargins(4, 4, 4, 4);
  all->addWidget(scroll);
  const QWidget* frame = window();
  const int wide = std::min(std::max(width(), fontMetrics().averageCharWidth() * 70), frame->width() - 20);
  const int high = std::min(column->heightForWidth(wide - 30) + 16, frame->height() / 2);
  const QPoint corner = mapToGlobal(QPoint(width(), 0));
  popup->setGeometry(corner.x() - wide, corner.y() - high, wide, high);
  popup->show();
  scroll->setFocus();
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
  entries_.clear();
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
  std::stable_sort(entries_.begin(), entries_.end(), [](const Entry& a, const Entry& b) { return a.rank < b.rank; });
  for (const Entry& entry : entries_) lines_->addWidget(entry.widget);
  lines_->addStretch();
  arrange();
  const bool failed = ready && tried && tried->report().error;
  make_->setEnabled(!failed);
  const auto& fields = desk_.trial.step().kind().fields();
  bool cuts = std::any_of(fields.begin(), fields.end(), [](const Field* f) { return f->well() == Well::Cutter; });
  // A kind that calls its cutter otherwise may make a wall, or move a window.
  if (cuts && !desk_.trial.step().kind().table().wells.cutter.title.empty())
    cuts = tried && tried->report().result && tried->report().result->audit.cuts;
  const bool draws = desk_.drawing.open();
  const bool section = desk_.trial.step().kind().makes() == Makes::Section;
  title_->setText(draws ? tr("State of the drawing") : section ? tr("What is seen") : tr("Before you cut"));
  putBack_->setToolTip(draws ? tr("Everything as it was before the drawing was opened") : QString());
  make_->setText(draws                  ? tr("Leave the drawing")
                 : section              ? tr("Done")
                 : !desk_.trial.isNew() ? tr("Keep the change")
                 : cuts                 ? tr("Make the cut")
                                        : tr("Make it"));
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
  if (report.result && report.result->section) return showSection(*report.result->section, tried);
  if (report.result) showAudit(*report.result, tried);
  showOffers(report);
  showWall(tried);
  showStates(tried);
  for (const auto& [id, cause] : tried.laterTrouble)
    if (const auto step = tried.document.find(id))
      line(tr("later step fails: \"%1\": %2").arg(stepName(desk_, *step), QString::fromStdString(cause)),
           Tone::Caution);
}

void BeforeYouCut::showSection(const SectionCut& section, const Tried& tried) {
  int cut = 0, spared = 0;
  double coarsest = 0;
  for (const Body& body : tried.before->bodies) {
    if (!body.inSight()) continue;
    const auto picture = tried.picturesBefore.find(body.id);
    if (picture == tried.picturesBefore.end()) continue;
    const BodyMesh& mesh = picture->second->mesh;
    const std::vector<CutWall> walls = wallsOf(section.clip);
    const bool byBody = section.clip.body && section.clip.body->roughBox().overlaps(mesh.box);
    const bool met = byBody || std::any_of(walls.begin(), walls.end(),
                                           [&](const CutWall& wall) { return crosses(wall.plane, mesh.box); });
    if (!section.cuts(body.id, body.layer))
      ++spared;
    else if (met)
      ++cut;
    if (met) coarsest = std::max(coarsest, MeshQuality::forSize(body.form.roughBox().diagonal()).deflection);
  }
  const QString bodies = cut == 1 ? tr("1 body is cut") : tr("%1 bodies are cut").arg(cut);
  line(spared == 0 ? bodies : tr("%1, %2 spared").arg(bodies).arg(spared), cut > 0 ? Tone::Plain : Tone::Caution);
  if (cut > 0)
    line(tr("exact to %1, as its picture is").arg(lengthText(coarsest, desk_.session.document().made.unit)),
         Tone::Plain);
  for (const auto& [body, error] : tried.openings.failed)
    line(tr("%1 is shown whole: %2").arg(bodyName(desk_, body), QString::fromStdString(error.happened())),
         Tone::Caution);
  line(tr("the model is not changed"), Tone::Good);
}

void BeforeYouCut::offerToCut(const Tried& tried) {
  const auto& kinds = allStepKinds().all();
  const auto cut =
      std::find_if(kinds.begin(), kinds.end(), [](const StepKind* kind) { return kind->table().drawFirst; });
  if (cut == kinds.end() || tried.before->bodies.empty()) return;
  auto* button = new QPushButton(tr("Cut with them"));
  button->setObjectName("offer");
  button->setToolTip(tr("Leaves the drawing and puts a cut on the Bench"));
  connect(button, &QPushButton::clicked, this, [this, kind = *cut] {
    const DrawingResult* made = desk_.trial.result() ? desk_.trial.result()->report().drawing() : nullptr;
    const std::vector<std::string> picked =
        made ? picksOf(desk_.drawing.pickedRegions(), made->regions) : desk_.drawing.pickedRegions();
    const StepId drawing = desk_.trial.step().id();
    desk_.trial.makeItAnd([desk = &desk_, kind, picked, drawing] {
      startStep(*desk, *kind, SelectedNow(*desk).get());
      if (picked.empty()) return;
      for (const Field* field : kind->fields())
        if (dynamic_cast<const RegionsField*>(field))
          desk->trial.setField(field->key(), RegionPick{drawing, false, picked});
    });
  });
  entries_.push_back({button, {}, 1});
}

void BeforeYouCut::showOffers(const StepReport& report) {
  if (!report.finding) return;
  for (const Offer& offer : report.finding->offers) {
    auto* button = new QPushButton(QString::fromStdString(offer.label));
    button->setObjectName("offer");
    QStringList changes;
    for (const auto& [key, value] : offer.fields)
      if (const Field* field = desk_.trial.step().kind().field(key))
        changes << tr("%1: %2").arg(QString::fromStdString(field->label()), QString::fromStdString(field->text(value)));
    button->setToolTip(tr("Sets %1").arg(changes.join(", ")));
    connect(button, &QPushButton::clicked, this, [this, offer] { desk_.trial.accept(offer); });
    entries_.push_back({button, {}, 1});
  }
}

double BeforeYouCut::wallLimit() {
  const Document& document = desk_.session.document();
  if (!document.seen.wallLimit) return 0;
  try {
    return document.seen.wallLimit->evaluateAs(
        lengthDimension, unitNamed(document.made.unit),
        [&](const std::string& name) { return desk_.session.dimensions().lookup(name); });
  } catch (const Error& error) {
    line(tr("the wall limit has no value: %1").arg(QString::fromStdString(error.happened())), Tone::Caution);
    return 0;
  }
}

void BeforeYouCut::showWall(const Tried& tried) {
  if (!tried.wall) return;
  const double limit = wallLimit();
  const QString size = lengthText(tried.wall->thickness, desk_.session.document().made.unit);
  if (limit > 0 && tried.wall->thickness < limit)
    line(tr("thinnest wall %1, under the limit of %2").arg(size, lengthText(limit, desk_.session.document().made.unit)),
         Tone::Caution);
  else
    line(tr("thinnest wall %1").arg(size), limit > 0 ? Tone::Good : Tone::Plain);
}

void BeforeYouCut::showStates(const Tried& tried) {
  std::vector<BodyId> cutters;
  const Step& step = desk_.trial.step();
  for (const Field* field : step.kind().fields()) {
    if (field->well() != Well::Cutter || !desk_.trial.matters(*field)) continue;
    if (dynamic_cast<const BodiesField*>(field))
      for (const BodyId& body : step.value(*field).as<BodyPick>().bodies) cutters.push_back(body);
    if (dynamic_cast<const CuttersField*>(field))
      for (const CutterPick& pick : step.value(*field).as<std::vector<CutterPick>>())
        if (pick.kind == CutterPick::Kind::Body) cutters.push_back(pick.body);
  }
  for (const BodyId& id : cutters) {
    const Body* body = tried.before->find(id);
    if (!body || body->form.kind() != BodyKind::Surface) continue;
    // The newest step before this one that made or changed it.
    int number = 0, last = 0;
    const StepReport* by = nullptr;
    for (const StepReport& report : tried.before->steps) {
      ++number;
      if (!report.result) continue;
      for (const Output& output : report.result->made)
        if (output.id == id) by = &report, last = number;
    }
    const auto made = by ? tried.document.find(by->id) : nullptr;
    if (made)
      line(tr("%1 cuts as step %2, \"%3\", left it").arg(bodyName(desk_, id)).arg(last).arg(stepName(desk_, *made)),
           Tone::Plain);
  }
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
  } else if (const DrawingResult* drawing = result.drawing()) {
    const int freedoms = drawing->solution.freedoms;
    line(freedoms == 0   ? tr("nothing is free to move")
         : freedoms == 1 ? tr("1 way left to move")
                         : tr("%1 ways left to move").arg(freedoms),
         freedoms == 0 ? Tone::Good : Tone::Plain);
    const auto count = drawing->regions.size();
    line(count == 1 ? tr("1 region to cut with") : tr("%1 regions to cut with").arg(count),
         count ? Tone::Good : Tone::Plain);
    if (count) offerToCut(tried);
  } else if (audit.volumeBefore > 0) {
    const double change = audit.volumeAfter - audit.volumeBefore;
    if (std::abs(change) <= 1e-9 * audit.volumeBefore)
      line(tr("leaves the volume as it is ✓"), Tone::Good);
    else
      line(tr("changes the volume by %1").arg(volumeText(change)), Tone::Plain);
  } else if (audit.volumeAfter > 0) {
    line(tr("adds %1").arg(volumeText(audit.volumeAfter)), Tone::Plain);
  }
  const auto count = std::count_if(result.made.begin(), result.made.end(),
                                   [](const Output& output) { return std::holds_alternative<BodyForm>(output.form); });
  if (count > 0) {
    if (audit.watertight)
      line(count == 1 ? tr("watertight ✓") : tr("all %1 pieces watertight ✓").arg(count), Tone::Good);
    else if (std::all_of(result.pieces.begin(), result.pieces.end(),
                         [](const Piece& piece) { return piece.length > 0; }))
      line(count == 1 ? tr("a curve: it encloses nothing") : tr("curves: they enclose nothing"), Tone::Plain);
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
