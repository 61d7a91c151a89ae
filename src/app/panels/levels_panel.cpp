#include "app/panels/levels_panel.h"

#include <QBrush>
#include <QHeaderView>
#include <algorithm>
#include <cmath>

#include "app/icons.h"
#include "app/look.h"
#include "app/panels/field_delegate.h"
#include "app/texts.h"
#include "geom/tolerances.h"
#include "steps/registry.h"

namespace kervo::app {

namespace {

/// As heights are written on plans: "± 0.000 m", "+ 3.000 m".
QString heightText(double height, const std::string& unit) {
  const QString sign = std::abs(height) < tolerance::point ? "± " : height > 0 ? "+ " : "− ";
  const std::string number = formatNumber(std::abs(height) / unitNamed(unit).factor, 6);
  return QStringLiteral("%1%2 %3").arg(sign, QString::fromStdString(number), QString::fromStdString(unit));
}

constexpr const char* storey = " + 3 m";  // from one level to the next, until somebody says otherwise

}  // namespace

LevelsModel::LevelsModel(Desk& desk, QObject* parent) : QAbstractTableModel(parent), desk_(desk) {
  for (const auto signal : {&Session::documentChanged, &Session::seenChanged, &Session::modelChanged})
    connect(&desk_.session, signal, this, &LevelsModel::refresh);
  refresh();
}

void LevelsModel::refresh() {
  const auto& levels = desk_.session.document().made.levels;
  std::vector<LevelNow> now;
  for (std::size_t i = 0; i < levels.size(); ++i)
    now.push_back({levels[i].name, levels[i].onLayer(), desk_.session.dimensions().height(i)});
  now = levelsByHeight(std::move(now));
  std::vector<std::string> rows;
  for (auto level = now.rbegin(); level != now.rend(); ++level) rows.push_back(level->name);
  // An editor that is open stays.
  if (rows.size() == rows_.size()) {
    rows_ = std::move(rows);
    if (!rows_.empty()) emit dataChanged(index(0, 0), index(rowCount() - 1, columnCount_ - 1));
    return;
  }
  beginResetModel();
  rows_ = std::move(rows);
  endResetModel();
}

const Level* LevelsModel::levelAt(int row) const {
  if (row < 0 || row >= rowCount()) return nullptr;
  return findLevel(desk_.session.document().made.levels, rows_[static_cast<std::size_t>(row)]);
}

int LevelsModel::rowOf(const std::string& name) const {
  const auto found = std::find(rows_.begin(), rows_.end(), name);
  return found == rows_.end() ? -1 : static_cast<int>(found - rows_.begin());
}

std::size_t LevelsModel::numberOf(const Level& level) const {
  return static_cast<std::size_t>(&level - desk_.session.document().made.levels.data());
}

std::vector<BodyId> LevelsModel::bodiesOn(const Level& level) const {
  std::vector<BodyId> result;
  for (const Body& body : desk_.session.made()->model->bodies)
    if (body.level == level.name) result.push_back(body.id);
  return result;
}

bool LevelsModel::anyVisible(const Level& level) const {
  bool any = false;
  for (const Body& body : desk_.session.made()->model->bodies) {
    if (body.level == level.name && body.visible) return true;
    any = any || body.level == level.name;
  }
  return !any;
}

QVariant LevelsModel::data(const QModelIndex& index, int role) const {
  const Level* level = levelAt(index.row());
  if (!level) return {};
  const bool working = desk_.session.document().seen.levels.working == level->name;
  const std::size_t number = numberOf(*level);
  const auto height = desk_.session.dimensions().height(number);
  const auto& error = desk_.session.dimensions().heightError(number);
  const int column = index.column();
  const QString name = QString::fromStdString(level->name);
  switch (role) {
    case Qt::DisplayRole:
    case Qt::EditRole:
      if (column == Name) return name;
      if (column == Is) return QString::fromStdString(level->height.text());
      if (column != Value) return {};
      return height ? heightText(*height, desk_.session.document().made.unit) : tr("no value");
    case Qt::DecorationRole:
      if (column == Work) return working ? icon("working", look().teal) : icon("not-working", look().dim);
      if (column == Eye) return anyVisible(*level) ? icon("eye") : icon("eye-closed", look().dim);
      return {};
    case Qt::FontRole:
      return working && column == Name ? QVariant(fontOf(0, QFont::DemiBold)) : QVariant();
    case Qt::ForegroundRole:
      if (error) return QBrush(look().vermilion);
      return column == Value ? QVariant(QBrush(look().dim)) : QVariant();
    case Qt::TextAlignmentRole:
      return column == Value ? QVariant(Qt::AlignRight | Qt::AlignVCenter) : QVariant(Qt::AlignLeft | Qt::AlignVCenter);
    case Qt::ToolTipRole:
      if (column == Work)
        return working ? tr("The working level: new drawings and bodies go there. Click to work on none")
                       : tr("Click to work on %1").arg(name);
      if (column == Eye) return tr("Click to show or hide the %1 bodies on %2").arg(bodiesOn(*level).size()).arg(name);
      if (error) return QString::fromStdString(error->what());
      return tr("Expressions use its height as %1").arg(QString::fromStdString(heightOfLevel(level->name)));
    case Qt::AccessibleTextRole:
      if (column == Work) return working ? tr("working level") : tr("not the working level");
      if (column == Eye) return anyVisible(*level) ? tr("visible") : tr("hidden");
      return {};
    case EditableRole:
      return column == Is;
    case WorkingRole:
      return working;
    default:
      return {};
  }
}

Qt::ItemFlags LevelsModel::flags(const QModelIndex& index) const {
  Qt::ItemFlags flags = Qt::ItemIsEnabled | Qt::ItemIsSelectable;
  if (index.column() == Name || index.column() == Is) flags |= Qt::ItemIsEditable;
  return flags;
}

bool LevelsModel::setData(const QModelIndex& index, const QVariant& value, int role) {
  const Level* level = levelAt(index.row());
  const std::string text = value.toString().trimmed().toStdString();
  if (!level || role != Qt::EditRole || text.empty()) return false;
  const QString name = QString::fromStdString(level->name);
  if (index.column() == Name && text != level->name)
    desk_.session.edit(tr("Rename %1").arg(name), [text, from = level->name](const Document& document) {
      return withLevelRenamed(document, from, text);
    });
  if (index.column() == Is && text != level->height.text())
    desk_.session.edit(tr("Move %1").arg(name), [moved = Level{level->name, Expression(text), level->layer}](
                                                    const Document& document) { return withLevel(document, moved); });
  return true;
}

LevelsPanel::LevelsPanel(Desk& desk, QWidget* parent) : Panel(tr("Levels"), "levels", parent), desk_(desk) {
  model_ = new LevelsModel(desk, this);
  sheet_ = new Sheet;
  sheet_->setAccessibleName(tr("Levels"));
  sheet_->setModel(model_);
  sheet_->setItemDelegate(new FieldDelegate(LevelsModel::EditableRole, LevelsModel::WorkingRole, this));
  sheet_->setEditTriggers(QAbstractItemView::EditKeyPressed | QAbstractItemView::DoubleClicked |
                          QAbstractItemView::SelectedClicked);
  sheet_->horizontalHeader()->hide();
  const QFontMetrics metrics(font());
  sheet_->horizontalHeader()->setSectionResizeMode(LevelsModel::Is, QHeaderView::Stretch);
  for (const int column : {LevelsModel::Work, LevelsModel::Eye}) sheet_->setColumnWidth(column, metrics.height() + 4);
  sheet_->setColumnWidth(LevelsModel::Name, metrics.horizontalAdvance("Lamp room XX"));
  sheet_->setColumnWidth(LevelsModel::Value, metrics.horizontalAdvance("+ 00000 mm") + 10);
  trouble_ = new QLabel;
  trouble_->setObjectName("bad");
  trouble_->setWordWrap(true);
  shows_ = new QWidget;
  auto* row = new QHBoxLayout(shows_);
  row->setContentsMargins(4, 0, 4, 0);
  row->setSpacing(0);
  show_ = new QButtonGroup(this);
  const std::pair<LevelSight::Show, QString> choices[] = {{LevelSight::Show::All, tr("all")},
                                                          {LevelSight::Show::Below, tr("below faded")},
                                                          {LevelSight::Show::Only, tr("this only")}};
  const QString tips[] = {tr("Show all levels"), tr("Show the working level, those below it faded, none above"),
                          tr("Show the working level only")};
  for (const auto& [what, word] : choices) {
    auto* button = new QToolButton;
    button->setText(word);
    button->setCheckable(true);
    button->setToolTip(tips[static_cast<int>(what)]);
    button->setAccessibleName(tips[static_cast<int>(what)]);
    button->setObjectName("segment");
    show_->addButton(button, static_cast<int>(what));
    row->addWidget(button);
  }
  row->addStretch(1);
  plan_ = new QToolButton;
  plan_->setText(tr("plan"));
  plan_->setCheckable(true);
  plan_->setObjectName("segment");
  plan_->setAccessibleName(tr("Plan"));
  plan_->setToolTip(tr("Look straight down, cut 1.2 m above the working level"));
  row->addWidget(plan_);
  content()->addWidget(sheet_);
  content()->addWidget(trouble_);
  content()->addWidget(shows_);
  copy_ = addLink(tr("copy"));
  copy_->setAccessibleName(tr("Copy a level"));
  copy_->setToolTip(tr("Another level with copies of all bodies on this one, which follow them"));
  QToolButton* add = addLink(tr("+ add"));
  add->setAccessibleName(tr("Add a level"));
  connect(add, &QToolButton::clicked, this, &LevelsPanel::addLevel);
  connect(copy_, &QToolButton::clicked, this, &LevelsPanel::copyLevel);
  connect(plan_, &QToolButton::clicked, this, &LevelsPanel::setPlan);
  connect(show_, &QButtonGroup::idClicked, this, [this](int id) { show(static_cast<LevelSight::Show>(id)); });
  connect(sheet_, &Sheet::clicked, this, &LevelsPanel::press);
  connect(sheet_, &Sheet::spacePressed, this, [this] {
    const QModelIndex at = sheet_->currentIndex();
    press(at.column() == LevelsModel::Eye ? at : at.siblingAtColumn(LevelsModel::Work));
  });
  connect(sheet_, &Sheet::enterPressed, this, [this] {
    if (sheet_->currentIndex().isValid()) sheet_->edit(sheet_->currentIndex().siblingAtColumn(LevelsModel::Is));
  });
  connect(sheet_, &Sheet::deletePressed, this, &LevelsPanel::removeSelected);
  for (const auto signal : {&Session::documentChanged, &Session::seenChanged})
    connect(&desk_.session, signal, this, &LevelsPanel::refresh);
  refresh();
}

void LevelsPanel::refresh() {
  const bool any = anyLevel();
  const LevelSight& sight = desk_.session.document().seen.levels;
  sheet_->setVisible(any);
  // As many rows as there are, up to five.
  constexpr int most = 5;
  const int rows = std::min(model_->rowCount(), most);
  sheet_->setMinimumHeight(rows * sheet_->verticalHeader()->defaultSectionSize() + 2);
  shows_->setVisible(any);
  copy_->setVisible(any);
  for (QAbstractButton* button : show_->buttons())
    button->setEnabled(!sight.working.empty() || button == show_->button(static_cast<int>(LevelSight::Show::All)));
  show_->button(static_cast<int>(sight.show))->setChecked(true);
  plan_->setChecked(planIsOn());
  QStringList lines;
  const auto& levels = desk_.session.document().made.levels;
  for (std::size_t i = 0; i < levels.size(); ++i)
    if (const auto& error = desk_.session.dimensions().heightError(i))
      lines << tr("%1: %2").arg(QString::fromStdString(levels[i].name), QString::fromStdString(error->happened()));
  trouble_->setVisible(!lines.isEmpty());
  trouble_->setText(lines.join("\n"));
}

void LevelsPanel::press(const QModelIndex& index) {
  const Level* level = model_->levelAt(index.row());
  if (!level) return;
  if (index.column() == LevelsModel::Work) workOn(level->name);
  if (index.column() == LevelsModel::Eye) toggleEye(*level);
}

void LevelsPanel::toggleEye(const Level& level) {
  const bool visible = !model_->anyVisible(level);
  const QString name = QString::fromStdString(level.name);
  changeLooks((visible ? tr("Show %1") : tr("Hide %1")).arg(name), model_->bodiesOn(level),
              [&](BodyLook& look) { look.visible = visible; });
}

void LevelsPanel::changeLooks(const QString& what, const std::vector<BodyId>& bodies,
                              const std::function<void(BodyLook&)>& change) {
  desk_.session.edit(what, [&](const Document& document) {
    Document result = document;
    for (const BodyId& body : bodies) {
      BodyLook look = result.lookOf(body);
      change(look);
      result = result.withLook(body, look);
    }
    return result;
  });
}

void LevelsPanel::workOn(const std::string& name) {
  const bool plan = planIsOn();
  desk_.session.edit(tr("Work on %1").arg(QString::fromStdString(name)), [&](const Document& document) {
    const bool already = document.seen.levels.working == name;
    if (plan && !already) return withPlanOf(document, name, allStepKinds().cuttingOpen());
    Document result = withWorkingLevel(document, already ? std::string() : name);
    if (already) result.seen.levels.show = LevelSight::Show::All;
    return result;
  });
}

void LevelsPanel::putOnWorkingLevel() {
  const std::string level = desk_.session.document().seen.levels.working;
  if (!level.empty())
    changeLooks(tr("Put on %1").arg(QString::fromStdString(level)), desk_.selection.bodies(),
                [&](BodyLook& look) { look.level = level; });
}

void LevelsPanel::go(int up) {
  const int row = model_->rowOf(desk_.session.document().seen.levels.working);
  const int count = model_->rowCount();
  const int next = row < 0 ? count - 1 : std::clamp(row - up, 0, count - 1);
  if (const Level* level = model_->levelAt(next); level && next != row) workOn(level->name);
}

void LevelsPanel::show(LevelSight::Show what) {
  desk_.session.edit(tr("Show levels"), [&](const Document& document) {
    Document result = document;
    result.seen.levels.show = what;
    return result;
  });
}

void LevelsPanel::setPlan(bool on) {
  if (!anyLevel()) return;
  std::string level = desk_.session.document().seen.levels.working;
  if (level.empty()) level = model_->levelAt(model_->rowCount() - 1)->name;
  desk_.session.edit(on ? tr("Plan of %1").arg(QString::fromStdString(level)) : tr("No plan"),
                     [&](const Document& document) {
                       return on ? withPlanOf(document, level, allStepKinds().cuttingOpen()) : withoutPlan(document);
                     });
  refresh();
  if (on && planIsOn()) emit lookDownWanted();
}

std::string LevelsPanel::freeName(const std::string& wanted) const {
  const auto& levels = desk_.session.document().made.levels;
  for (int number = 1;; ++number) {
    std::string name = wanted + " " + std::to_string(number);
    if (!findLevel(levels, name)) return name;
  }
}

void LevelsPanel::addLevel() {
  setFolded(false);
  const Level* highest = model_->levelAt(0);
  const std::string name = freeName(tr("Level").toStdString());
  const Expression height(highest ? heightOfLevel(highest->name) + storey : "0 " + desk_.session.document().made.unit);
  desk_.session.edit(tr("Add a level"), [&](const Document& document) {
    const Document result = withLevel(document, {name, height});
    return document.seen.levels.working.empty() ? withWorkingLevel(result, name) : result;
  });
  editNew(name);
}

void LevelsPanel::copyLevel() {
  const Level* level = model_->levelAt(sheet_->currentIndex().row());
  if (!level) level = findLevel(desk_.session.document().made.levels, desk_.session.document().seen.levels.working);
  const Level* highest = model_->levelAt(0);
  if (!level || !highest) return;
  const std::string from = level->name;
  const Level to{freeName(from), Expression(heightOfLevel(highest->name) + storey)};
  desk_.session.edit(tr("Copy %1").arg(QString::fromStdString(from)), [&](const Document& document) {
    return withLevelCopied(document, *desk_.session.made()->model, from, to, allStepKinds().placing());
  });
  if (findLevel(desk_.session.document().made.levels, to.name)) editNew(to.name);
}

void LevelsPanel::editNew(const std::string& name) {
  const QModelIndex added = model_->index(model_->rowOf(name), LevelsModel::Name);
  sheet_->setFocus();
  sheet_->setCurrentIndex(added);
  sheet_->scrollTo(added);
  sheet_->edit(added);
}

void LevelsPanel::editLevel(const std::string& name) {
  setFolded(false);
  const QModelIndex index = model_->index(model_->rowOf(name), LevelsModel::Is);
  if (!index.isValid()) return;
  sheet_->setFocus();
  sheet_->setCurrentIndex(index);
  sheet_->edit(index);
}

void LevelsPanel::removeSelected() {
  const Level* level = model_->levelAt(sheet_->currentIndex().row());
  if (!level) return;
  desk_.session.edit(tr("Delete %1").arg(QString::fromStdString(level->name)),
                     [name = level->name](const Document& document) { return withoutLevel(document, name); });
}

}  // namespace kervo::app
