#include "app/bench/simple_editors.h"

#include <QHBoxLayout>
#include <QToolButton>

#include "app/look.h"
#include "app/texts.h"

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

NumberEditor::NumberEditor(const NumberField& field, Desk& desk, QWidget* parent)
    : FieldEditor(field, desk, parent), number_(field) {
  line_ = new ExpressionLine(kindText(field.label()));
  rowIn(this)->addWidget(line_);
  setFocusProxy(line_);
  connect(line_, &ExpressionLine::edited, this, [this] { set(line_->expression()); });
}

void NumberEditor::refresh() {
  const auto& expression = valueAs<Expression>();
  if (!(line_->expression() == expression)) line_->setExpression(expression);
  line_->setValueText(valueHint(number_.wanted(), expression, desk_));
  line_->setProblem(desk_.trial.problem(field_.key()));
}

namespace {

/// A word of a choice as people say it: "all but" for all_but.
QString spokenWord(const std::string& word) {
  return kindText(word).replace('_', ' ');
}

}  // namespace

ChoiceEditor::ChoiceEditor(const WordField& field, Desk& desk, QWidget* parent)
    : FieldEditor(field, desk, parent), choices_(field.words()) {
  auto* row = rowIn(this, 2);
  if (fitSideBySide(choices_)) {
    words_ = new QButtonGroup(this);
    for (std::size_t i = 0; i < choices_.size(); ++i) {
      auto* word = new QToolButton;
      word->setObjectName("segment");
      word->setCheckable(true);
      word->setFocusPolicy(Qt::StrongFocus);
      word->setText(spokenWord(choices_[i]));
      word->setFont(fontOf(-1));
      word->setAccessibleName(QStringLiteral("%1: %2").arg(kindText(field.label()), word->text()));
      words_->addButton(word, static_cast<int>(i));
      row->addWidget(word);
    }
    row->addStretch();
    connect(words_, &QButtonGroup::idClicked, this, [this](int id) { set(choices_[static_cast<std::size_t>(id)]); });
    return;
  }
  list_ = new QComboBox;
  list_->setAccessibleName(kindText(field.label()));
  for (const std::string& choice : choices_) list_->addItem(spokenWord(choice));
  row->addWidget(list_, 1);
  connect(list_, &QComboBox::activated, this, [this](int id) { set(choices_[static_cast<std::size_t>(id)]); });
}

void ChoiceEditor::refresh() {
  const auto found = std::find(choices_.begin(), choices_.end(), valueAs<std::string>());
  if (found == choices_.end()) return;
  const int index = static_cast<int>(found - choices_.begin());
  if (words_)
    words_->button(index)->setChecked(true);
  else
    list_->setCurrentIndex(index);
}

QWidget* ChoiceEditor::first() {
  if (list_) return list_;
  return words_->checkedButton() ? words_->checkedButton() : words_->button(0);
}

FlagEditor::FlagEditor(const Field& field, Desk& desk, QWidget* parent) : FieldEditor(field, desk, parent) {
  box_ = new QCheckBox;
  box_->setAccessibleName(kindText(field.label()));
  box_->setText(kindText(field.label()));
  rowIn(this)->addWidget(box_);
  connect(box_, &QCheckBox::toggled, this, [this](bool on) { set(on); });
}

void FlagEditor::refresh() {
  const QSignalBlocker quiet(box_);
  box_->setChecked(valueAs<bool>());
}

TextEditor::TextEditor(const Field& field, Desk& desk, QWidget* parent) : FieldEditor(field, desk, parent) {
  line_ = new QLineEdit;
  line_->setAccessibleName(kindText(field.label()));
  rowIn(this)->addWidget(line_);
  connect(line_, &QLineEdit::textEdited, this, [this](const QString& text) { set(text.toStdString()); });
}

void TextEditor::refresh() {
  const QString text = QString::fromStdString(valueAs<std::string>());
  if (line_->text() != text) line_->setText(text);
}

CoordinatesEditor::CoordinatesEditor(const CoordinatesField& field, Desk& desk, QWidget* parent)
    : FieldEditor(field, desk, parent) {
  auto* row = rowIn(this, 4);
  for (const std::string& each : field.names()) {
    const QString name = QString::fromStdString(each);
    auto* line = new ExpressionLine(QStringLiteral("%1 %2").arg(kindText(field.label()), name));
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

void CoordinatesEditor::refresh() {
  const auto& expressions = valueAs<std::vector<Expression>>();
  for (std::size_t i = 0; i < lines_.size() && i < expressions.size(); ++i) {
    if (!(lines_[i]->expression() == expressions[i])) lines_[i]->setExpression(expressions[i]);
    lines_[i]->setProblem(
        problemOf(NumberWanted{}, expressions[i], desk_.session.document(), desk_.session.dimensions()));
  }
}

BroughtEditor::BroughtEditor(const Field& field, Desk& desk, QWidget* parent) : FieldEditor(field, desk, parent) {
  text_ = new QLabel;
  text_->setWordWrap(true);
  text_->setTextInteractionFlags(Qt::TextSelectableByKeyboard | Qt::TextSelectableByMouse);
  rowIn(this)->addWidget(text_);
}

void BroughtEditor::refresh() {
  const auto& bodies = valueAs<std::vector<BroughtBody>>();
  QStringList names;
  for (std::size_t i = 0; i < bodies.size() && i < 6; ++i) names << QString::fromStdString(bodies[i].name);
  if (bodies.size() > 6) names << tr("and %1 more").arg(bodies.size() - 6);
  text_->setText(names.join(", "));
}

}  // namespace kervo::app
