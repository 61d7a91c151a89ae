#include "app/drawing/drawing_numbers.h"

#include <QGridLayout>
#include <algorithm>

#include "app/look.h"
#include "base/say.h"
#include "drawing/copies.h"
#include "drawing/curve_kind.h"

namespace kervo::app {

namespace {

/// What stands before a number: the second of a pair is "v" only.
QString shortName(const QString& name) {
  return name.endsWith(" v") ? QStringLiteral("v") : name;
}

}  // namespace

DrawingNumbers::DrawingNumbers(Desk& desk, QWidget* parent) : QScrollArea(parent), desk_(desk) {
  auto* inner = new QWidget;
  all_ = new QVBoxLayout(inner);
  all_->setContentsMargins(0, 0, 10, 0);
  all_->setSpacing(4);
  setWidget(inner);
  setWidgetResizable(true);
  setFrameShape(QFrame::NoFrame);
  setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  hide();
  connect(&desk_.drawing, &DrawingDesk::selectionChanged, this, [this] {
    if (desk_.drawing.open()) refresh();
  });
  connect(&desk_.drawing, &DrawingDesk::numbersWanted, this, &DrawingNumbers::focusOn);
}

std::vector<DrawingNumbers::Entry> DrawingNumbers::entries() const {
  std::vector<Entry> result;
  const Drawing& drawing = desk_.drawing.drawing();
  for (const DrawnCurve& curve : drawing.curves) {
    const CurveKind* kind = findCurveKind(curve.kind);
    if (!kind || curve.numbers.empty()) continue;
    Entry entry{curve.id, spoken(drawing, curve.id), {}};
    entry.called = QString::fromStdString(curve.kind + " " + curve.id);
    for (std::size_t i = 0; i < curve.numbers.size(); ++i)
      entry.numbers.push_back({QString::fromStdString(say(kind->numbersOf(curve).at(i).name)),
                               kind->numbersOf(curve).at(i).dimension, curve.numbers[i]});
    if (curve.kind == "text") entry.text = QString::fromStdString(curve.text);
    result.push_back(std::move(entry));
  }
  for (const DrawnCopies& copies : drawing.copies) {
    const CopyKind* kind = findCopyKind(copies.kind);
    if (!kind || (copies.numbers.empty() && kind->ways().empty())) continue;
    Entry entry{copies.id, tr("%1 of %2").arg(spoken(drawing, copies.id), spokenList(drawing, copies.of)), {}};
    entry.called = spoken(drawing, copies.id);
    for (std::size_t i = 0; i < copies.numbers.size(); ++i)
      entry.numbers.push_back({QString::fromStdString(say(kind->numbers().at(i).name)), kind->numbers().at(i).dimension,
                               copies.numbers[i]});
    for (const CopyKind::Way& way : kind->ways())
      entry.ways.emplace_back(way.key, QString::fromStdString(say(way.name)));
    entry.way = copies.way;
    result.push_back(std::move(entry));
  }
  // Those that are selected; without any, all curves by numbers.
  const auto isSelected = [&](const Entry& entry) { return desk_.drawing.isSelected(entry.id); };
  const bool any = std::any_of(result.begin(), result.end(), isSelected);
  std::erase_if(result,
                [&](const Entry& entry) { return any ? !isSelected(entry) : !drawing.curve(entry.id).has_value(); });
  return result;
}

void DrawingNumbers::refresh() {
  const std::vector<Entry> now = entries();
  // The same rows stay, and with them the keyboard.
  if (!std::equal(now.begin(), now.end(), rows_.begin(), rows_.end(), [](const Entry& entry, const Row& row) {
        return entry.id == row.entry.id && entry.title == row.entry.title &&
               entry.numbers.size() == row.entry.numbers.size() && entry.text.has_value() == (row.text != nullptr);
      }))
    build(now);
  setVisible(!rows_.empty());
  all_->invalidate();
  const int height = all_->totalSizeHint().height() + 4;
  setMaximumHeight(height);
  // Enough for one of them; more can be scrolled to.
  setMinimumHeight(std::min(height, 5 * QFontMetrics(fontOf()).height() + 20));
  for (std::size_t row = 0; row < rows_.size(); ++row) {
    rows_[row].entry = now[row];
    for (std::size_t i = 0; i < rows_[row].lines.size(); ++i) {
      const Number& number = now[row].numbers[i];
      ExpressionLine* line = rows_[row].lines[i];
      if (!(line->expression() == number.value)) line->setExpression(number.value);
      line->setProblem(problemOf({number.dimension, NumberRule::Any}, number.value, desk_.session.document(),
                                 desk_.session.dimensions()));
    }
    if (QLineEdit* text = rows_[row].text; text && text->text() != now[row].text.value_or(QString()))
      text->setText(now[row].text.value_or(QString()));
    if (QComboBox* ways = rows_[row].ways) {
      const int index = ways->findData(QString::fromStdString(now[row].way));
      if (ways->currentIndex() != index) ways->setCurrentIndex(index);
    }
  }
}

DrawingNumbers::Row DrawingNumbers::made(std::size_t index, const Entry& entry) {
  constexpr int columns = 2;
  Row row{new QWidget, entry, {}};
  auto* grid = new QGridLayout(row.widget);
  grid->setContentsMargins(0, 0, 0, 0);
  grid->setSpacing(3);
  auto* name = new QLabel(entry.title);
  name->setFont(fontOf(0, QFont::DemiBold));
  name->setWordWrap(true);
  auto* remove = new QToolButton;
  remove->setText("×");
  remove->setFocusPolicy(Qt::StrongFocus);
  remove->setAccessibleName(tr("Remove %1").arg(spoken(desk_.drawing.drawing(), entry.id)));
  connect(remove, &QToolButton::clicked, this, [this, id = entry.id] { desk_.drawing.remove(id); });
  grid->addWidget(name, 0, 0, 1, 2 * columns - 1);
  grid->addWidget(remove, 0, 2 * columns - 1, Qt::AlignRight);
  int cell = 0;
  if (entry.text) {
    row.text = new QLineEdit;
    row.text->setAccessibleName(tr("%1: letters").arg(entry.called));
    grid->addWidget(row.text, 1, 0, 1, 2 * columns);
    connect(row.text, &QLineEdit::textEdited, this, [this, index] { setText(index); });
    cell = columns;
  }
  for (std::size_t i = 0; i < entry.numbers.size(); ++i, ++cell) {
    auto* label = new QLabel(shortName(entry.numbers[i].name));
    label->setObjectName("dim");
    label->setFont(fontOf(-1));
    label->setContentsMargins(0, 5, 0, 0);
    auto* line = new ExpressionLine(tr("%1: %2").arg(entry.called, entry.numbers[i].name));
    grid->addWidget(label, 1 + cell / columns, 2 * (cell % columns), Qt::AlignTop);
    grid->addWidget(line, 1 + cell / columns, 2 * (cell % columns) + 1);
    row.lines.push_back(line);
    connect(line, &ExpressionLine::edited, this, [this, index, i] { edit(index, i); });
  }
  if (!entry.ways.empty()) {
    row.ways = new QComboBox;
    row.ways->setAccessibleName(tr("%1: where").arg(entry.called));
    for (const auto& [key, words] : entry.ways) row.ways->addItem(words, QString::fromStdString(key));
    grid->addWidget(row.ways, 1 + cell / columns, 2 * (cell % columns), 1, 2);
    connect(row.ways, &QComboBox::activated, this, [this, index] { setWay(index); });
  }
  for (int column = 0; column < columns; ++column) grid->setColumnStretch(2 * column + 1, 1);
  return row;
}

void DrawingNumbers::build(const std::vector<Entry>& entries) {
  while (QLayoutItem* item = all_->takeAt(0)) {
    if (item->widget()) {
      item->widget()->hide();
      item->widget()->deleteLater();
    }
    delete item;
  }
  rows_.clear();
  for (std::size_t index = 0; index < entries.size(); ++index) {
    rows_.push_back(made(index, entries[index]));
    all_->addWidget(rows_.back().widget);
  }
  all_->addStretch();
}

void DrawingNumbers::edit(std::size_t row, std::size_t number) {
  if (!desk_.drawing.open()) return;
  Drawing drawing = desk_.drawing.drawing();
  const std::string& id = rows_[row].entry.id;
  const Expression value = rows_[row].lines[number]->expression();
  if (const auto curve = drawing.curve(id)) drawing.curves[*curve].numbers.at(number) = value;
  for (DrawnCopies& copies : drawing.copies)
    if (copies.id == id) copies.numbers.at(number) = value;
  desk_.drawing.set(drawing, tr("Change %1").arg(spoken(drawing, id)), id + "." + std::to_string(number));
}

void DrawingNumbers::setText(std::size_t row) {
  if (!desk_.drawing.open()) return;
  Drawing drawing = desk_.drawing.drawing();
  const std::string& id = rows_[row].entry.id;
  const auto curve = drawing.curve(id);
  if (!curve) return;
  drawing.curves[*curve].text = rows_[row].text->text().toStdString();
  desk_.drawing.set(drawing, tr("Change %1").arg(spoken(drawing, id)), id + ".text");
}

void DrawingNumbers::setWay(std::size_t row) {
  if (!desk_.drawing.open()) return;
  Drawing drawing = desk_.drawing.drawing();
  for (DrawnCopies& copies : drawing.copies)
    if (copies.id == rows_[row].entry.id) copies.way = rows_[row].ways->currentData().toString().toStdString();
  desk_.drawing.set(drawing, tr("Change %1").arg(spoken(drawing, rows_[row].entry.id)));
}

void DrawingNumbers::focusOn(const std::string& id) {
  refresh();
  const auto row = id.empty()
                       ? (rows_.empty() ? rows_.end() : rows_.end() - 1)
                       : std::find_if(rows_.begin(), rows_.end(), [&](const Row& each) { return each.entry.id == id; });
  if (row == rows_.end() || (row->lines.empty() && !row->text)) return;
  QLineEdit* line = row->text ? row->text : id.empty() ? row->lines.back()->line() : row->lines.front()->line();
  ensureWidgetVisible(row->widget);
  line->setFocus(Qt::OtherFocusReason);
  line->selectAll();
}

}  // namespace kervo::app
