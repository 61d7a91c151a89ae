// Fields in the view while a drawing is on the Bench: sizes typed while drawing, and dimensions typed where they stand.
#pragma once

#include <QFrame>
#include <QLabel>
#include <QLineEdit>
#include <QObject>
#include <vector>

#include "app/desk.h"
#include "app/viewport.h"

namespace kervo::app {

class DrawingFields : public QObject {
  Q_OBJECT
 public:
  DrawingFields(Desk& desk, Viewport& view);
  /// Lets a dimension of the drawing be typed where it stands.
  void type(const std::string& constraint);

 protected:
  bool eventFilter(QObject* watched, QEvent* event) override;

 private:
  /// Shows lines for what can be typed of the stroke, the first with a text in it.
  void begin(const QString& text);
  void followStroke();
  void buildSizes();
  void takeSizes();
  void takeDimension();
  void leave();

  Desk& desk_;
  Viewport& view_;
  QFrame* sizes_;
  std::vector<QLabel*> labels_;
  std::vector<QLineEdit*> lines_;
  std::vector<StrokeKind::Size> asked_;
  QFrame* dimension_;
  QLineEdit* value_;
  std::string constraint_;
};

}  // namespace kervo::app
