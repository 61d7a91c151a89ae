#include "app/drawing/regions_card.h"

#include <QHBoxLayout>
#include <QToolButton>
#include <algorithm>

#include "app/look.h"
#include "drawing/loose_ends.h"

namespace kervo::app {

RegionsCard::RegionsCard(Desk& desk, QWidget* parent)
    : WellCard(tr("Regions"), tr("what it encloses"), &Look::vermilion, parent), desk_(desk) {
  setShare(11);
  lines_ = new QVBoxLayout;
  lines_->setSpacing(2);
  content()->addLayout(lines_);
  content()->addStretch();
  connect(&desk_.drawing, &DrawingDesk::changed, this, &RegionsCard::refresh);
  refresh();
}

void RegionsCard::refresh() {
  if (!desk_.drawing.open()) return;
  const auto& result = desk_.trial.result();
  const DrawingResult* made = result ? result->report().drawing() : nullptr;
  const std::vector<LooseEnd> loose =
      looseEnds(desk_.drawing.drawing(), desk_.drawing.values(), desk_.drawing.solution());
  QStringList texts;
  constexpr std::size_t most = 12;
  const std::vector<RegionShape>& regions = desk_.drawing.regions();
  std::vector<std::size_t> order;
  for (std::size_t i = 0; made && i < regions.size(); ++i) order.push_back(i);
  std::stable_sort(order.begin(), order.end(),
                   [&](std::size_t a, std::size_t b) { return regions[a].area > regions[b].area; });
  for (const std::size_t i : order)
    texts << QString::fromStdString(regions[i].name) + areaText(regions[i].area) + (regions[i].taken ? "+" : "");
  const std::vector<std::string> crossing =
      selfCrossing(desk_.drawing.drawing(), desk_.drawing.values(), desk_.drawing.solution());
  QStringList ends;
  for (const std::string& curve : crossing) ends << QString::fromStdString(curve);
  for (const LooseEnd& end : loose) ends << QString::fromStdString(end.point);
  const QString state = texts.join('|') + "#" + ends.join('|');
  if (property("shows").toString() == state) return;
  setProperty("shows", state);
  while (QLayoutItem* item = lines_->takeAt(0)) {
    item->widget()->hide();
    item->widget()->deleteLater();
    delete item;
  }
  const std::size_t count = made ? made->regions.size() : 0;
  const std::size_t taken = desk_.drawing.pickedRegions().size();
  const QString found = count == 1 ? tr("1 found") : tr("%1 found").arg(count);
  setNote(taken > 0 ? tr("%1, %2 taken").arg(found).arg(taken) : found);
  for (std::size_t i = 0; i < std::min(order.size(), most); ++i) {
    const RegionShape& region = regions[order[i]];
    auto* take = new QToolButton;
    take->setObjectName("link");
    take->setFocusPolicy(Qt::StrongFocus);
    const QString text = tr("%1 · %2").arg(order[i] + 1).arg(areaText(region.area));
    take->setText(region.taken ? tr("✓ %1").arg(text) : text);
    take->setToolTip(region.taken ? tr("It is cut with; click to leave it out")
                                  : tr("Click to cut with this region; while none is taken, all are"));
    take->setAccessibleName(region.taken ? tr("Leave out region %1").arg(order[i] + 1)
                                         : tr("Take region %1").arg(order[i] + 1));
    connect(take, &QToolButton::clicked, this, [this, name = region.name] { desk_.drawing.pickRegions({name}); });
    lines_->addWidget(take, 0, Qt::AlignLeft);
  }
  if (order.size() > most) lines_->addWidget(new QLabel(tr("and %1 more").arg(order.size() - most)));
  if (count == 0) {
    auto* line = new QLabel(tr("Nothing is enclosed yet."));
    line->setObjectName("dim");
    line->setWordWrap(true);
    lines_->addWidget(line);
  }
  for (std::size_t i = 0; i < std::min<std::size_t>(crossing.size(), 3); ++i) {
    const QString name = spoken(desk_.drawing.drawing(), crossing[i]);
    addTrouble(tr("%1 crosses itself").arg(name), name,
               {{tr("show"), tr("Selects it"), [this, id = crossing[i]] { desk_.drawing.select({id}); }},
                {tr("split"), tr("Splits it where it crosses itself"), [this, id = crossing[i]] {
                   desk_.drawing.select({id});
                   desk_.drawing.splitSelected();
                 }}});
  }
  std::size_t shown = 0;
  for (const LooseEnd& end : loose) {
    if (++shown > 3) break;
    const QString name = spoken(desk_.drawing.drawing(), end.point);
    std::vector<Remedy> remedies{
        {tr("show"), tr("Selects it"), [this, id = end.point] { desk_.drawing.select({id}); }}};
    if (!end.other.empty())
      remedies.push_back(
          {tr("close"), tr("Makes both ends one point"), [this, end] { desk_.drawing.join(end.point, end.other); }});
    addTrouble(
        end.other.empty() ? tr("%1 is loose").arg(name) : tr("%1: gap of %2").arg(name, lengthText(end.gap, "mm")),
        name, remedies);
  }
  if (loose.size() > 3) {
    auto* more = new QLabel(tr("%1 loose ends in all").arg(loose.size()));
    more->setObjectName("caution");
    lines_->addWidget(more);
  }
}

void RegionsCard::addTrouble(const QString& text, const QString& name, const std::vector<Remedy>& remedies) {
  auto* row = new QWidget;
  auto* layout = new QHBoxLayout(row);
  layout->setContentsMargins(0, 0, 0, 0);
  layout->setSpacing(3);
  auto* label = new QLabel(text);
  label->setObjectName("caution");
  label->setWordWrap(true);
  layout->addWidget(label, 1);
  for (const Remedy& remedy : remedies) {
    auto* button = new QToolButton;
    button->setObjectName("link");
    button->setFocusPolicy(Qt::StrongFocus);
    button->setText(remedy.word);
    button->setToolTip(remedy.help);
    button->setAccessibleName(QStringLiteral("%1 %2").arg(remedy.word, name));
    connect(button, &QToolButton::clicked, this, remedy.run);
    layout->addWidget(button);
  }
  lines_->addWidget(row);
}

}  // namespace kervo::app
