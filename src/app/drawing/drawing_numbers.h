// Numbers of the drawing on the Bench that are typed in a list: of curves that are given by numbers, and of copies.
#pragma once

#include <QComboBox>
#include <QScrollArea>
#include <QVBoxLayout>

#include "app/bench/field_editor.h"
#include "app/desk.h"

namespace kervo::app {

class DrawingNumbers : public QScrollArea {
  Q_OBJECT
 public:
  explicit DrawingNumbers(Desk& desk, QWidget* parent = nullptr);

  void refresh();
  /// Puts the keyboard into the numbers of a curve or copies; of the last ones for an empty id.
  void focusOn(const std::string& id);

 private:
  struct Number {
    QString name;
    Dimensionality dimension;
    Expression value;
  };
  /// A curve or copies.
  struct Entry {
    std::string id;
    QString title;
    std::vector<Number> numbers;
    std::vector<std::pair<std::string, QString>> ways = {};  ///< of copies: in files, for people
    std::string way = {};
    std::optional<QString> text = {};  ///< of a text
    QString called = {};               ///< for people who do not see it
  };
  struct Row {
    QWidget* widget;
    Entry entry;
    std::vector<ExpressionLine*> lines;
    QComboBox* ways = nullptr;
    QLineEdit* text = nullptr;
  };
  std::vector<Entry> entries() const;
  void build(const std::vector<Entry>& entries);
  Row made(std::size_t index, const Entry& entry);
  void edit(std::size_t row, std::size_t number);
  void setWay(std::size_t row);
  void setText(std::size_t row);

  Desk& desk_;
  QVBoxLayout* all_;
  std::vector<Row> rows_;
};

}  // namespace kervo::app
