#include "app/bench/bench.h"

#include <QApplication>
#include <QComboBox>
#include <QGridLayout>
#include <QKeyEvent>
#include <QScrollArea>
#include <QToolButton>
#include <algorithm>

#include "app/bench/pick_editors.h"
#include "app/icons.h"
#include "app/look.h"
#include "app/panels/panel.h"
#include "app/texts.h"
#include "fields/choice_field.h"
#include "fields/cutters_field.h"

namespace kervo::app {

namespace {

/// How wide the well with the button is, beside the shares of the others.
constexpr int shareOfBefore = 12;

}  // namespace

Bench::Bench(Desk& desk, const std::vector<Verb>& verbs, QWidget* parent)
    : QWidget(parent), desk_(desk), verbs_(verbs) {
  setObjectName("bench");
  setAttribute(Qt::WA_StyledBackground);
  setAccessibleName(tr("Bench"));
  title_ = new QLabel(tr("Bench"));
  title_->setFont(fontOf(2, QFont::Bold));
  name_ = new QLineEdit;
  name_->setAccessibleName(tr("Name of the step"));
  name_->setMaximumWidth(QFontMetrics(fontOf()).horizontalAdvance("Drawing on the inner front of the ears"));
  note_ = new ElidedLabel;
  note_->setObjectName("dim");
  keys_ = new ElidedLabel(tr("Tab next field · Enter makes it · Esc puts it back"));
  keys_->setObjectName("dim");
  keys_->setFont(fontOf(-1));
  keys_->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
  auto* top = new QHBoxLayout;
  top->setContentsMargins(14, 6, 14, 0);
  top->setSpacing(10);
  top->addWidget(title_);
  top->addWidget(name_);
  top->addWidget(note_, 1);
  top->addWidget(keys_, 1);
  pages_ = new QStackedWidget;
  auto* all = new QVBoxLayout(this);
  all->setContentsMargins(0, 0, 0, 8);
  all->setSpacing(4);
  all->addLayout(top);
  all->addWidget(pages_, 1);
  setMinimumHeight(QFontMetrics(fontOf()).height() * 10);

  connect(name_, &QLineEdit::textEdited, &desk_.trial, &Trial::setName);
  connect(&desk_.trial, &Trial::opened, this, &Bench::showStep);
  connect(&desk_.trial, &Trial::renamed, this, [this] { name_->setText(QString::fromStdString(desk_.trial.name())); });
  connect(&desk_.trial, &Trial::closed, this, &Bench::showOffers);
  connect(&desk_.trial, &Trial::edited, this, &Bench::refreshFields);
  connect(&desk_.trial, &Trial::tried, this, [this] {
    refreshFields();
    disarmUnneeded();
  });
  const auto offersIfIdle = [this] {
    if (!desk_.trial.active()) showOffers();
  };
  connect(&desk_.selection, &Selection::changed, this, offersIfIdle);
  connect(&desk_.session, &Session::modelChanged, this, offersIfIdle);
  connect(&desk_.openings, &OpeningLists::changed, this, offersIfIdle);
  connect(&desk_.session, &Session::seenChanged, this, offersIfIdle);
  connect(&desk_.session, &Session::documentChanged, this, [this, offersIfIdle] {
    if (desk_.trial.active())
      refreshFields();
    else
      offersIfIdle();
  });
  showOffers();
}

void Bench::showOffers() {
  // What has the keyboard may be about to go; it stays on the Bench then.
  const bool hadKeyboard = isAncestorOf(QApplication::focusWidget());
  arm(nullptr);
  rows_.clear();
  cards_.clear();
  pieces_ = nullptr;
  before_ = nullptr;
  if (step_) {
    step_->hide();
    step_->deleteLater();
    step_ = nullptr;
  }
  if (offers_) {
    offers_->hide();
    offers_->deleteLater();
  }
  name_->hide();
  keys_->hide();
  offers_ = new QWidget;
  auto* grid = new QGridLayout(offers_);
  grid->setContentsMargins(14, 4, 14, 4);
  grid->setSpacing(6);
  int count = 0;
  constexpr int columns = 6;
  for (const Verb& verb : verbs_) {
    if (!verb.offered || !verb.offered()) continue;
    auto* button = new QToolButton;
    button->setObjectName("verb");
    button->setFocusPolicy(Qt::StrongFocus);
    button->setToolButtonStyle(Qt::ToolButtonTextBesideIcon);
    button->setIcon(icon(verb.picture, look().teal));
    button->setIconSize({20, 20});
    button->setText(verb.offeredAs ? verb.offeredAs() : verb.text);
    button->setToolTip(verb.help);
    button->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Preferred);
    connect(button, &QToolButton::clicked, this, verb.run);
    grid->addWidget(button, count / columns, count % columns);
    ++count;
  }
  for (int column = 0; column < columns; ++column) grid->setColumnStretch(column, 1);
  grid->setRowStretch(grid->rowCount(), 1);
  pages_->addWidget(offers_);
  pages_->setCurrentWidget(offers_);
  QString note;
  const auto& picks = desk_.selection.picks();
  if (!desk_.selection.step().empty()) {
    const auto step = desk_.session.document().find(desk_.selection.step());
    note = step ? tr("%1 is selected").arg(stepName(desk_, *step)) : QString();
  } else if (picks.size() == 1 && desk_.shownModel) {
    note = describe(picks.front(), *desk_.shownModel, desk_.shownPictures, desk_.session.document().made.unit);
  } else if (!picks.empty()) {
    note = tr("%1 selected").arg(countText(picks));
  } else {
    note = desk_.session.document().made.steps.empty() ? tr("start with a body")
                                                       : tr("pick something in the view, or start here");
  }
  note_->setText(note);
  if (hadKeyboard) focusFirst();
}

void Bench::addWell(Well well, const QString& title, const QString& subtitle, QColor Look::*edge) {
  const auto& all = desk_.trial.step().kind().fields();
  if (well != Well::Pieces && std::none_of(all.begin(), all.end(), [&](const Field* f) { return f->well() == well; }))
    return;
  auto* card = new WellCard(title, subtitle, edge);
  bool wide = false, choices = false, cutters = false;
  for (const Field* field : all) {
    FieldEditor* editor = field->well() == well ? addRow(card, *field) : nullptr;
    if (!editor) continue;
    wide |= editor->wide();
    choices |= dynamic_cast<const WordField*>(field) != nullptr;
    cutters |= dynamic_cast<const CuttersField*>(field) != nullptr;
  }
  if (well == Well::Pieces) {
    pieces_ = new PiecesChooser(desk_);
    card->content()->addWidget(pieces_, 1);
    connect(pieces_->list(), &PiecesList::pointed, this, &Bench::pieceLit);
    connect(pieces_, &PiecesChooser::waitingChanged, this, &Bench::armedChanged);
  } else {
    card->content()->addStretch();
  }
  auto* arrow = new QLabel(QStringLiteral("›"));
  arrow->setFont(fontOf(6));
  arrow->setObjectName("dim");
  wells_->addWidget(arrow);
  cards_.push_back({card, arrow, well == Well::Pieces});
  wells_->addWidget(card, wide ? 22 : well == Well::Pieces ? 15 : choices ? 14 : cutters ? 13 : 10);
  for (const FieldRow& row : rows_)
    if (row.card == card)
      for (WellCard* beside : row.editor->cards()) wells_->addWidget(beside, beside->share());
}

void Bench::addSendOut() {
  auto* card = new WellCard(tr("Send out"), tr("this picture"), &Look::vermilion);
  for (const Verb& verb : verbs_) {
    if (!verb.sendsSectionOut) continue;
    auto* link = new QToolButton;
    link->setObjectName("link");
    link->setFocusPolicy(Qt::StrongFocus);
    link->setText(verb.text);
    link->setToolTip(verb.help);
    // The section is kept first: what is sent out is what the document has.
    connect(link, &QToolButton::clicked, this, [this, run = verb.run] { desk_.trial.makeItAnd(run); });
    card->content()->addWidget(link, 0, Qt::AlignLeft);
    auto* formats = new ElidedLabel(verb.help);
    formats->setObjectName("dim");
    formats->setFont(fontOf(-1));
    card->content()->addWidget(formats);
  }
  card->content()->addStretch();
  auto* arrow = new QLabel(QStringLiteral("›"));
  arrow->setFont(fontOf(6));
  arrow->setObjectName("dim");
  wells_->addWidget(arrow);
  cards_.push_back({card, arrow, true});
  wells_->addWidget(card, 10);
}

FieldEditor* Bench::addRow(WellCard* card, const Field& field) {
  FieldEditor* editor = makeFieldEditor(field, desk_, card);
  if (!editor) return nullptr;
  auto* row = new QWidget;
  auto* layout = new QHBoxLayout(row);
  layout->setContentsMargins(0, 0, 0, 0);
  layout->setSpacing(6);
  if (editor->labelled() && !editor->wide()) {
    auto* label = new QLabel(kindText(field.label()));
    label->setToolTip(kindText(field.help()));
    label->setMinimumWidth(QFontMetrics(fontOf()).horizontalAdvance("Direction"));
    layout->addWidget(label, 0, Qt::AlignTop);
    label->setContentsMargins(0, 4, 0, 0);
  }
  // The first picks of a card are what its title says; others are told.
  const bool follows = std::any_of(rows_.begin(), rows_.end(), [&](const auto& other) { return other.card == card; });
  if (follows && qobject_cast<PickEditor*>(editor) && !editor->labelled()) {
    auto* told = new QLabel(kindText(field.label()));
    told->setObjectName("dim");
    told->setFont(fontOf(-1));
    told->setToolTip(kindText(field.help()));
    auto* both = new QVBoxLayout;
    both->setSpacing(0);
    both->addWidget(told);
    both->addWidget(editor);
    layout->addLayout(both, 1);
  } else {
    layout->addWidget(editor, 1);
  }
  card->content()->addWidget(row);
  rows_.push_back({editor, row, card});
  connect(editor, &FieldEditor::armWanted, this, &Bench::armByHand);
  // A well that waits for picks from the start still needs the keyboard in the view.
  connect(editor, &FieldEditor::pickWanted, this, [this](FieldEditor* wanting) {
    if (wanting != armed_) arm(wanting);
    emit viewWanted();
  });
  connect(editor, &FieldEditor::filled, this, &Bench::moveOn);
  if (auto* curves = qobject_cast<DrawingEditor*>(editor))
    connect(curves, &DrawingEditor::viewWanted, this, &Bench::viewWanted);
  return editor;
}

void Bench::addWells(const StepKind& kind) {
  const auto& table = kind.fields();
  const bool cuts = std::any_of(table.begin(), table.end(), [](const Field* f) { return f->well() == Well::Cutter; });
  const auto add = [&](Well well, const WellTitle& own, const QString& title, const QString& note, QColor Look::*edge) {
    const bool named = !own.title.empty();
    addWell(well, named ? kindText(own.title) : title, named ? kindText(own.note) : note, edge);
  };
  const WellTitles& own = kind.table().wells;
  if (cuts)
    add(Well::Stock, own.stock, tr("Stock"), tr("what is cut"), &Look::teal);
  else
    add(Well::Stock, own.stock, tr("Taken"), tr("what it works on"), &Look::teal);
  add(Well::Cutter, own.cutter, tr("Cutter"), tr("what cuts it"), &Look::violet);
  if (cuts)
    add(Well::Reach, own.reach, tr("Reach"), tr("how far, how wide"), &Look::text);
  else
    add(Well::Reach, own.reach, tr("How"), tr("where to, how many"), &Look::text);
}

void Bench::showStep() {
  arm(nullptr);
  rows_.clear();
  cards_.clear();
  if (step_) {
    step_->hide();
    step_->deleteLater();
  }
  const Step& step = desk_.trial.step();
  step_ = new QWidget;
  auto* row = new QHBoxLayout(step_);
  row->setContentsMargins(14, 0, 14, 0);
  row->setSpacing(5);
  // Where the wells are too wide for the window they move sideways together, and the one with the button stays.
  auto* inner = new QWidget;
  wells_ = new QHBoxLayout(inner);
  wells_->setContentsMargins(0, 0, 0, 0);
  wells_->setSpacing(5);
  auto* area = new QScrollArea;
  area->setObjectName("wells");
  area->setWidget(inner);
  area->setWidgetResizable(true);
  area->setFrameShape(QFrame::NoFrame);
  area->setVerticalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  area->setFocusPolicy(Qt::NoFocus);
  area->viewport()->setAutoFillBackground(false);
  inner->setAutoFillBackground(false);
  row->addWidget(area, 1);
  const bool section = step.kind().makes() == Makes::Section;
  addWell(Well::Setup, kindText(step.kind().label()), tr("what it is"), &Look::text);
  if (section) {
    addWell(Well::Cutter, tr("Cuts with"), tr("what cuts the view"), &Look::violet);
    addWell(Well::Stock, tr("Cuts away"), tr("what it cuts"), &Look::teal);
    addWell(Well::Reach, tr("Cut fill"), tr("how the cut face looks"), &Look::text);
    addSendOut();
  } else {
    addWells(step.kind());
  }
  pieces_ = nullptr;
  if (step.kind().makes() == Makes::Bodies) addWell(Well::Pieces, tr("Pieces"), tr("what stays"), &Look::vermilion);
  before_ = new BeforeYouCut(desk_);
  row->addWidget(before_);
  for (QWidget* child : step_->findChildren<QWidget*>())
    if (child->focusPolicy() != Qt::NoFocus) child->installEventFilter(this);
  pages_->addWidget(step_);
  pages_->setCurrentWidget(step_);
  name_->setText(QString::fromStdString(desk_.trial.name()));
  name_->setMinimumWidth(std::min(name_->maximumWidth(), name_->fontMetrics().horizontalAdvance(name_->text()) + 24));
  name_->setCursorPosition(0);
  name_->installEventFilter(this);
  name_->show();
  keys_->show();
  const bool draws = desk_.drawing.open();
  note_->setText(draws                 ? tr("every change is kept; Ctrl+Z takes one back, Esc leaves the drawing")
                 : section             ? tr("only what is seen; the model stays whole")
                 : desk_.trial.isNew() ? tr("trial: nothing is changed yet")
                                       : tr("editing: nothing is changed yet"));
  keys_->setText(draws ? tr("Tab next field · Enter leaves it")
                       : tr("Tab next field · Enter makes it · Esc puts it back"));
  refreshFields();
  armWanting();
  focusFirst();
}

void Bench::refreshFields() {
  if (!desk_.trial.active()) return;
  bool appeared = false;
  for (const FieldRow& row : rows_) {
    const bool matters = desk_.trial.matters(row.editor->field());
    appeared = appeared || (matters && row.row->isHidden());
    row.row->setVisible(matters);
    row.editor->refresh();
    if (row.editor == armed_ && !matters) arm(nullptr);
  }
  hideEmptyWells();
  // A choice brought up new fields.
  if (appeared) armWanting();
  // Rows made while editing listen to the same keys.
  for (const FieldRow& row : rows_)
    for (QWidget* child : row.editor->findChildren<QWidget*>())
      if (child->focusPolicy() != Qt::NoFocus) {
        child->removeEventFilter(this);
        child->installEventFilter(this);
      }
  if (pieces_) pieces_->refresh();
  before_->refresh();
}

void Bench::hideEmptyWells() {
  bool first = true;
  for (const WellOnShow& well : cards_) {
    const bool shown = well.always || std::any_of(rows_.begin(), rows_.end(), [&](const FieldRow& row) {
                         return row.card == well.card && !row.row->isHidden();
                       });
    well.card->setVisible(shown);
    well.arrow->setVisible(shown && !first);
    first = first && !shown;
  }
  int shares = 0;
  for (int i = 0; i < wells_->count(); ++i)
    if (const QWidget* well = wells_->itemAt(i)->widget(); well && !well->isHidden()) shares += wells_->stretch(i);
  auto* row = static_cast<QHBoxLayout*>(step_->layout());
  row->setStretch(0, shares);
  row->setStretch(1, shareOfBefore);
}

void Bench::armByHand(FieldEditor* editor) {
  arm(editor);
  armedByItself_ = false;
  // The keyboard goes where the picks are made, and comes back.
  if (armed_)
    emit viewWanted();
  else
    editor->first()->setFocus(Qt::OtherFocusReason);
}

void Bench::moveOn(FieldEditor* filled) {
  if (filled != armed_) return;
  if (FieldEditor* next = wanting())
    armByHand(next);
  else
    armByHand(filled);
}

void Bench::armWanting() {
  if (armed_) return;
  if (FieldEditor* editor = wanting()) arm(editor);
  armedByItself_ = armed_ != nullptr;
}

void Bench::disarmUnneeded() {
  // What is tried does without it: the picture of that is wanted, not a pick.
  const auto& result = desk_.trial.result();
  if (armed_ && armedByItself_ && armed_->isEmpty() && desk_.trial.upToDate() && result && result->report().result)
    arm(nullptr);
}

FieldEditor* Bench::wanting() const {
  for (const FieldRow& row : rows_)
    if (row.editor->filter() && row.editor->isEmpty() && desk_.trial.matters(row.editor->field())) return row.editor;
  return nullptr;
}

void Bench::arm(FieldEditor* editor) {
  if (!editor && !armed_) return;
  if (editor == armed_) editor = nullptr;
  if (armed_) armed_->setArmed(false);
  armed_ = editor;
  if (armed_) armed_->setArmed(true);
  emit armedChanged();
}

FieldEditor* Bench::editor(const std::string& key) const {
  for (const FieldRow& row : rows_)
    if (row.editor->field().key() == key) return row.editor;
  return nullptr;
}

void Bench::focusField(const QString& key) {
  if (FieldEditor* field = editor(key.toStdString())) {
    field->first()->setFocus(Qt::OtherFocusReason);
    if (auto* line = qobject_cast<QLineEdit*>(field->first())) line->selectAll();
  }
}

void Bench::focusFirst() {
  if (!desk_.trial.active()) {
    if (auto* first = offers_->findChild<QToolButton*>()) first->setFocus(Qt::OtherFocusReason);
    return;
  }
  // The first number that drives it; otherwise whatever comes first.
  for (const FieldRow& row : rows_)
    if (desk_.trial.matters(row.editor->field()) && dynamic_cast<const NumberField*>(&row.editor->field()))
      return focusField(QString::fromStdString(row.editor->field().key()));
  if (!rows_.empty()) rows_.front().editor->first()->setFocus(Qt::OtherFocusReason);
}

void Bench::lightPiece(int row) {
  if (pieces_) pieces_->list()->light(row);
}

bool Bench::stepBack() {
  if (armed_) {
    armByHand(armed_);
    return true;
  }
  if (!desk_.trial.active()) return false;
  if (desk_.drawing.stepBack()) return true;
  // What was drawn is kept; a drawing with nothing in it was not meant.
  if (desk_.drawing.open() && desk_.trial.canUndo() && !desk_.drawing.drawing().empty())
    desk_.trial.makeItAnd({});
  else
    desk_.trial.putBack();
  return true;
}

bool Bench::eventFilter(QObject* watched, QEvent* event) {
  if (event->type() != QEvent::KeyPress || !desk_.trial.active()) return QWidget::eventFilter(watched, event);
  const auto* key = static_cast<QKeyEvent*>(event);
  if (key->key() == Qt::Key_Escape) return stepBack();
  const bool enter = key->key() == Qt::Key_Return || key->key() == Qt::Key_Enter;
  if (!enter) return QWidget::eventFilter(watched, event);
  // A line in which something is written that has yet to be added takes it.
  if (const auto* line = qobject_cast<QLineEdit*>(watched);
      line && line->property("addsOnEnter").toBool() && !line->text().trimmed().isEmpty())
    return QWidget::eventFilter(watched, event);
  // Enter makes the step, wherever one is; words and chips are pressed with Space.
  if (auto* button = qobject_cast<QPushButton*>(watched))
    button->click();
  else
    desk_.trial.makeIt();
  return true;
}

void Bench::keyPressEvent(QKeyEvent* event) {
  const bool enter = event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter;
  if (enter && !desk_.trial.active())
    if (auto* button = qobject_cast<QToolButton*>(focusWidget())) return button->click();
  QWidget::keyPressEvent(event);
}

}  // namespace kervo::app
