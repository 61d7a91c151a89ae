#include "app/look.h"

#include <QApplication>
#include <QFontDatabase>
#include <QPalette>
#include <QSettings>
#include <QStyle>
#include <QStyleFactory>
#include <QWidget>
#include <array>

namespace kervo::app {

namespace {

Look lightLook() {
  Look l;
  l.strip = "#26343c", l.stripText = "#eef2f3", l.stripDim = "#b9c6cb", l.stripField = "#33444d";
  l.panel = "#f5f3ee", l.bench = "#fbfaf7", l.card = "#ffffff", l.status = "#ece8df", l.line = "#d5d0c4";
  l.field = "#ffffff", l.fieldLine = "#c9c3b5", l.text = "#1d2b33", l.dim = "#5f6a73";
  l.teal = "#177a71", l.tealSoft = "#e0efec", l.violet = "#7b4fb5", l.violetSoft = "#efe8f8";
  l.ochre = "#96600f", l.ochreSoft = "#f6e8cc", l.vermilion = "#bd3d25", l.vermilionSoft = "#fbe9e4",
  l.onStrong = "#ffffff";
  l.view = ViewLook::light();
  return l;
}

Look darkLook() {
  Look l;
  l.dark = true;
  l.strip = "#141c20", l.stripText = "#e8ecec", l.stripDim = "#9fb0b7", l.stripField = "#26343c";
  l.panel = "#222c31", l.bench = "#1f282d", l.card = "#283339", l.status = "#1a2226", l.line = "#3c4a52";
  l.field = "#1b2327", l.fieldLine = "#4a5a63", l.text = "#e8ecea", l.dim = "#9dabb2";
  l.teal = "#4fb8ad", l.tealSoft = "#24423f", l.violet = "#b59ae6", l.violetSoft = "#352c47";
  l.ochre = "#dfae5c", l.ochreSoft = "#453922", l.vermilion = "#f08a72", l.vermilionSoft = "#4a2c26",
  l.onStrong = "#10201e";
  l.view = ViewLook::dark();
  return l;
}

Look current;
QPalette desktop;

QPalette paletteOf(const Look& l) {
  QPalette p;
  p.setColor(QPalette::Window, l.panel);
  p.setColor(QPalette::WindowText, l.text);
  p.setColor(QPalette::Base, l.field);
  p.setColor(QPalette::AlternateBase, l.card);
  p.setColor(QPalette::Text, l.text);
  p.setColor(QPalette::Button, l.card);
  p.setColor(QPalette::ButtonText, l.text);
  p.setColor(QPalette::PlaceholderText, l.dim);
  p.setColor(QPalette::Highlight, l.teal);
  p.setColor(QPalette::HighlightedText, l.onStrong);
  p.setColor(QPalette::Link, l.teal);
  p.setColor(QPalette::ToolTipBase, l.card);
  p.setColor(QPalette::ToolTipText, l.text);
  p.setColor(QPalette::Light, l.card);
  p.setColor(QPalette::Mid, l.line);
  p.setColor(QPalette::Dark, l.line);
  p.setColor(QPalette::Shadow, l.line);
  for (const auto role : {QPalette::WindowText, QPalette::Text, QPalette::ButtonText})
    p.setColor(QPalette::Disabled, role, l.dim);
  return p;
}

/// @name stands for that colour of the look.
QString styleSheet(const Look& l) {
  QString sheet = QStringLiteral(R"(
QToolTip { background: @card; color: @text; border: 1px solid @line; padding: 3px; }
#strip { background: @strip; }
#strip QLabel { color: @stripDim; }
#strip QLabel#brand { color: @stripText; font-weight: 700; }
#strip QMenuBar { background: transparent; color: @stripText; spacing: 0; }
#strip QMenuBar::item { background: transparent; padding: 5px 9px; border-radius: 4px; }
#strip QMenuBar::item:selected { background: @stripField; }
#strip QLineEdit { background: @stripField; color: @stripText; border: 1px solid @stripField; border-radius: 10px; padding: 2px 12px; }
#strip QLineEdit:focus { border: 1px solid @stripDim; }
QMenu { background: @card; color: @text; border: 1px solid @line; padding: 4px; }
QMenu::item { padding: 4px 22px 4px 26px; border-radius: 3px; }
QMenu::item:selected { background: @tealSoft; color: @text; }
QMenu::item:disabled { color: @dim; }
QMenu::icon { left: 6px; }
QMenu::separator { height: 1px; background: @line; margin: 4px 6px; }
#panel { background: @panel; }
#bench { background: @bench; border-top: 1px solid @line; }
#viewStrip { background: @bench; border: none; border-bottom: 1px solid @line; padding: 1px 6px; spacing: 2px; }
#qt_toolbar_ext_button { padding: 0; margin: 0; }
#viewsStrip { background: @bench; border-top: 1px solid @line; }
#viewsStrip QToolButton#viewChip { padding: 2px 12px; border-radius: 10px; }
#viewsStrip QToolButton#viewChip:checked { background: @tealSoft; border: 1px solid @teal; color: @teal; }
#viewsStrip QToolButton#viewChip:focus { border: 2px solid @teal; padding: 1px 11px; }
#viewStrip::separator { background: @line; width: 1px; margin: 4px 6px; }
#card { background: @card; border: 1px solid @line; border-radius: 5px; }
#messageBar { background: @ochreSoft; border-bottom: 1px solid @ochre; }
QStatusBar { background: @status; color: @text; }
QStatusBar::item { border: none; }
QSplitter::handle { background: @line; }
QScrollArea, QScrollArea > QWidget > QWidget { background: transparent; border: none; }
QScrollBar:vertical { background: transparent; width: 10px; margin: 0; }
QScrollBar:horizontal { background: transparent; height: 10px; margin: 0; }
QScrollBar::handle { background: @fieldLine; border-radius: 4px; min-height: 24px; min-width: 24px; margin: 1px; }
QScrollBar::add-line, QScrollBar::sub-line { width: 0; height: 0; }
QScrollBar::add-page, QScrollBar::sub-page { background: transparent; }
QTableView { background: transparent; border: none; selection-background-color: @tealSoft; selection-color: @text; gridline-color: transparent; }
QTableView:focus { outline: none; }
QHeaderView { background: transparent; border: none; }
QHeaderView::section { background: transparent; color: @dim; border: none; padding: 2px 4px; }
QLineEdit, QComboBox, QPlainTextEdit, QSpinBox { background: @field; color: @text; border: 1px solid @fieldLine; border-radius: 4px; padding: 2px 6px; selection-background-color: @teal; selection-color: @onStrong; }
QLineEdit:focus, QComboBox:focus, QPlainTextEdit:focus { border: 2px solid @teal; padding: 1px 5px; }
QLineEdit[bad="true"] { border: 1px solid @vermilion; }
QLineEdit[bad="true"]:focus { border: 2px solid @vermilion; }
QComboBox { combobox-popup: 0; }
QComboBox::drop-down { border: none; width: 18px; }
QComboBox::down-arrow { image: url(:/arrow-down.png); width: 10px; height: 6px; }
QComboBox QAbstractItemView { background: @card; color: @text; border: 1px solid @line; selection-background-color: @tealSoft; selection-color: @text; }
QPushButton { background: @card; color: @text; border: 1px solid @fieldLine; border-radius: 5px; padding: 5px 12px; }
QPushButton:hover { border-color: @teal; }
QPushButton:focus { border: 2px solid @teal; padding: 4px 11px; }
QPushButton:disabled { color: @dim; border-color: @line; }
QPushButton#strong { background: @teal; color: @onStrong; border: 2px solid @teal; font-weight: 700; }
QPushButton#strong:focus { border: 2px solid @text; }
QPushButton#strong:disabled { background: @line; border-color: @line; color: @dim; }
QToolButton { background: transparent; color: @text; border: 1px solid transparent; border-radius: 4px; padding: 3px 6px; }
QToolButton:hover { background: @tealSoft; }
QToolButton:focus { border: 1px solid @teal; }
QToolButton:checked { color: @teal; font-weight: 600; }
QToolButton:disabled { color: @dim; }
QPushButton#offer { text-align: left; color: @vermilion; border: 1px solid @vermilion; padding: 3px 8px; }
QToolButton#link:checked { background: @tealSoft; }
QToolButton#link { color: @teal; font-weight: 600; padding: 1px 4px; }
QToolButton#viewChip { background: @card; color: @text; border: 1px solid @fieldLine; border-radius: 12px; padding: 4px 12px; font-weight: 600; }
QToolButton#viewChip:hover { border: 1px solid @teal; }
QToolButton#chip { background: @tealSoft; color: @text; border: 1px solid @teal; border-radius: 10px; padding: 1px 8px; }
QToolButton#cutterChip { background: @violetSoft; color: @text; border: 1px solid @violet; border-radius: 10px; padding: 1px 8px; }
QToolButton#segment { background: @card; border: 1px solid @fieldLine; border-radius: 3px; padding: 2px 5px; }
QToolButton#segment:checked { background: @teal; color: @onStrong; border: 1px solid @teal; }
QToolButton#swatch { background: transparent; border: 1px solid transparent; border-radius: 4px; padding: 1px; }
QToolButton#swatch:checked { background: @tealSoft; border: 1px solid @teal; color: @teal; }
QToolButton#swatch:focus { border: 2px solid @text; padding: 0px; }
QToolButton#segment:focus { border: 2px solid @text; padding: 1px 4px; }
QToolButton#chip:focus, QToolButton#cutterChip:focus { border: 2px solid @text; padding: 0 7px; }
QToolButton::menu-indicator { image: none; width: 0; }
QToolButton#verb { background: @card; border: 1px solid @line; border-radius: 5px; padding: 6px 10px; text-align: left; }
QToolButton#verb:hover { border-color: @teal; background: @tealSoft; }
QToolButton#verb:focus { border: 2px solid @teal; padding: 5px 9px; }
QPushButton#words { text-align: left; background: transparent; border: 1px solid transparent; padding: 2px 4px; }
QPushButton#words:focus { border: 1px solid @teal; }
QPushButton#words:checked { background: @tealSoft; color: @text; }
#refused { background: @vermilionSoft; border: 1px solid @vermilion; border-radius: 4px; }
QTreeWidget { background: transparent; border: none; outline: none; color: @text; }
QTreeWidget::item { padding: 2px; border: 0px solid transparent; background: transparent; }
QTreeWidget::item:selected { background: @tealSoft; color: @text; }
QTreeWidget::indicator { width: 13px; height: 13px; border: 1px solid @fieldLine; border-radius: 3px; background: @field; }
QTreeWidget::indicator:checked { background: @ochre; border: 1px solid @ochre; image: url(:/check.png); }
QTreeWidget:focus { border: 1px solid @teal; border-radius: 3px; }
QLabel#title { font-weight: 700; }
QLabel#dim { color: @dim; }
QLabel#good { color: @teal; }
QLabel#caution { color: @ochre; }
QLabel#bad { color: @vermilion; }
QDialogButtonBox { dialogbuttonbox-buttons-have-icons: 0; }
QCheckBox { color: @text; spacing: 6px; }
QCheckBox:focus { color: @teal; }
QProgressBar { background: @line; border: none; border-radius: 3px; height: 6px; }
QProgressBar::chunk { background: @teal; border-radius: 3px; }
QDialog { background: @panel; }
)");
  const std::pair<const char*, QColor> colors[] = {{"@stripField", l.stripField},
                                                   {"@stripText", l.stripText},
                                                   {"@stripDim", l.stripDim},
                                                   {"@strip", l.strip},
                                                   {"@panel", l.panel},
                                                   {"@bench", l.bench},
                                                   {"@card", l.card},
                                                   {"@status", l.status},
                                                   {"@line", l.line},
                                                   {"@fieldLine", l.fieldLine},
                                                   {"@field", l.field},
                                                   {"@text", l.text},
                                                   {"@dim", l.dim},
                                                   {"@tealSoft", l.tealSoft},
                                                   {"@teal", l.teal},
                                                   {"@violetSoft", l.violetSoft},
                                                   {"@violet", l.violet},
                                                   {"@ochreSoft", l.ochreSoft},
                                                   {"@ochre", l.ochre},
                                                   {"@vermilionSoft", l.vermilionSoft},
                                                   {"@vermilion", l.vermilion},
                                                   {"@onStrong", l.onStrong}};
  for (const auto& [name, color] : colors) sheet.replace(QLatin1String(name), color.name());
  return sheet;
}

void apply() {
  const LookChoice choice = lookChoice();
  const bool dark = choice == LookChoice::Dark ||
                    (choice == LookChoice::FollowDesktop && desktop.color(QPalette::Window).lightness() < 128);
  current = dark ? darkLook() : lightLook();
  QApplication::setPalette(paletteOf(current));
  qApp->setStyleSheet(styleSheet(current));
  for (QWidget* window : QApplication::topLevelWidgets()) window->update();
}

}  // namespace

const Look& look() {
  return current;
}

void setUpLook(QApplication& application) {
  desktop = QApplication::palette();
  QApplication::setStyle(QStyleFactory::create("Fusion"));
  for (const char* weight : {"Regular", "Medium", "SemiBold", "Bold"})
    QFontDatabase::addApplicationFont(QStringLiteral(":/fonts/Inter-%1.otf").arg(QLatin1String(weight)));
  QFont font = application.font();
  font.setFamily("Inter");
  application.setFont(font);
  apply();
}

void chooseLook(LookChoice choice) {
  QSettings().setValue("look", static_cast<int>(choice));
  apply();
}

LookChoice lookChoice() {
  return static_cast<LookChoice>(std::clamp(QSettings().value("look", 0).toInt(), 0, 2));
}

QFont fontOf(int steps, QFont::Weight weight) {
  QFont font = QApplication::font();
  const double factor = 1 + steps / 12.0;
  if (font.pointSizeF() > 0)
    font.setPointSizeF(font.pointSizeF() * factor);
  else
    font.setPixelSize(qRound(font.pixelSize() * factor));
  font.setWeight(weight);
  return font;
}

}  // namespace kervo::app
