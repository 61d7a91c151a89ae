#include "app/bench/simple_fields.h"

#include <QHBoxLayout>
#include <QToolButton>

#include "app/look.h"

namespace kervo::app {

namespace {

QHBoxLayout* rowIn(QWidget* widget, int spacing = 3) {
  auto* row = new QHBoxLayout(widget);
  row->setContentsMargins(0, 0, 0, 0);
  row->setSpacing(spacing);
  return row;
}

constexpr std::size_t mostWords = 3;

/// Few and short enough to stand as words in a card at 1280 pixels.
bool fitSideBySide(const std::vector<std::string>& choices) {
  constexpr std::size_t mostLetters = 20;
  std::size_t letters = 0;
  for (const std::string& choice : choices) letters += choice.size();
  return choices.size() <= mostWords && letters <= mostLetters;
}

}  // namespace

NumberField::NumberField(const FieldSpec& field, Desk& desk, QWidget* parent) : FieldEditor(field, desk, parent) {
  line_ = new ExpressionLine(QString::fromStdString(field.label));
  rowIn(this)->addWidget(line_);
  setFocusProxy(line_);
  connect(line_, &ExpressionLine::edited, this, [this] { set(line_->expression()); });
}

void NumberField::refresh() {
  const auto& expression = valueAs<Expression>();
  if (!(line_->expression() == expression)) line_->setExpression(expression);
  line_->setValueText(valueHint(field_, expression, desk_));
  line_->setProblem(desk_.trial.problem(field_.key));
}

ChoiceField::ChoiceField(const FieldSpec& field, Desk& desk, QWidget* parent) : FieldEditor(field, desk, parent) {
  auto* row = rowIn(this, 2);
  if (fitSideBySide(field.choices)) {
    words_ = new QButtonGroup(this);
    for (std::size_t i = 0; i < field.choices.size(); ++i) {
      auto* word = new QToolButton;
      word->setObjectName("segment");
      word->setCheckable(true);
      word->setFocusPolicy(Qt::StrongFocus);
      word->setText(QString::fromStdString(field.choices[i]));
      word->setFont(fontOf(-1));
      word->setAccessibleName(QStringLiteral("%1: %2").arg(QString::fromStdString(field.label), word->text()));
      words_->addButton(word, static_cast<int>(i));
      row->addWidget(word);
    }
    row->addStretch();
    connect(words_, &QButtonGroup::idClicked, this,
            [this](int id) { set(field_.choices[static_cast<std::size_t>(id)]); });
    return;
  }
  list_ = new QComboBox;
  list_->setAccessibleName(QString::fromStdString(field.label));
  for (const std::string& choice : field.choices) list_->addItem(QString::fromStdString(choice));
  row->addWidget(list_, 1);
  connect(list_, &QComboBox::activated, this, [this](int id) { set(field_.choices[static_cast<std::size_t>(id)]); });
}

void ChoiceField::refresh() {
  const auto& choices = field_.choices;
  const auto found = std::find(choices.begin(), choices.end(), valueAs<std::string>());
  if (found == choices.end()) return;
  const int index = static_cast<int>(found - choices.begin());
  if (words_)
    words_->button(index)->setChecked(true);
  else
    list_->setCurrentIndex(index);
}

QWidget* ChoiceField::first() {
  if (list_) return list_;
  return words_->checkedButton() ? words_->checkedButton() : words_->button(0);
}

FlagField::FlagField(const FieldSpec& field, Desk& desk, QWidget* parent) : FieldEditor(field, desk, parent) {
  box_ = new QCheckBox;
  box_->setAccessibleName(QString::fromStdString(field.label));
  box_->setText(QString::fromStdString(field.label));
  rowIn(this)->addWidget(box_);
  connect(box_, &QCheckBox::toggled, this, [this](bool on) { set(on); });
}

void FlagField::refresh() {
  const QSignalBlocker quiet(box_);
  box_->setChecked(valueAs<bool>());
}

TextField::TextField(const FieldSpec& field, Desk& desk, QWidget* parent) : FieldEditor(field, desk, parent) {
  line_ = new QLineEdit;
  line_->setAccessibleName(QString::fromStdString(field.label));
  rowIn(this)->addWidget(line_);
  connect(line_, &QLineEdit::textEdited, this, [this](const QString& text) { set(text.toStdString()); });
}

void TextField::refresh() {
  const QString text = QString::fromStdString(valueAs<std::string>());
  if (line_->text() != text) line_->setText(text);
}

PlacementField::PlacementField(const FieldSpec& field, Desk& desk, QWidget* parent) : FieldEditor(field, desk, parent) {
  auto* row = rowIn(this, 4);
  QStringList names{tr("u"), tr("v"), tr("height")};
  for (std::size_t i = 0; i < field.choices.size() && i < 3; ++i)
    names[static_cast<qsizetype>(i)] = QString::fromStdString(field.choices[i]);
  for (const QString& name : names) {
    auto* line = new ExpressionLine(QStringLiteral("%1 %2").arg(QString::fromStdString(field.label), name));
    line->line()->setMinimumWidth(48);
    line->line()->setToolTip(name);
    lines_.push_back(line);
    row->addWidget(line, 1, Qt::AlignTop);
    connect(line, &ExpressionLine::edited, this, [this] {
      std::vector<Expression> expressions;
      for (const ExpressionLine* each : lines_) expressions.push_back(each->expression());
      set(expressions);
    });
  }
  setFocusProxy(lines_.front());
}

void PlacementField::refresh() {
  const auto& expressions = valueAs<std::vector<Expression>>();
  for (std::size_t i = 0; i < lines_.size() && i < expressions.size(); ++i) {
    if (!(lines_[i]->expression() == expressions[i])) lines_[i]->setExpression(expressions[i]);
    lines_[i]->setProblem(problemOf(field_, expressions[i], desk_.session.document(), desk_.session.dimensions()));
  }
}

BroughtField::BroughtField(const FieldSpec& field, Desk& desk, QWidget* parent) : FieldEditor(field, desk, parent) {
  text_ = new QLabel;
  text_->setWordWrap(true);
  text_->setTextInteractionFlags(Qt::TextSelectableByKeyboard | Qt::TextSelectableByMouse);
  rowIn(this)->addWidget(text_);
}

void BroughtField::refresh() {
  const auto& bodies = valueAs<std::vector<BroughtBody>>();
  QStringList names;
  for (std::size_t i = 0; i < bodies.size() && i < 6; ++i) names << QString::fromStdString(bodies[i].name);
  if (bodies.size() > 6) names << tr("and %1 more").arg(bodies.size() - 6);
  text_->setText(names.join(", "));
}

}  // namespace kervo::app
