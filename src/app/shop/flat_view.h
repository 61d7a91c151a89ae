// A picture of outlines and fills as it will lie on the sheet, as large as there is room.
#pragma once

#include <QPainterPath>
#include <QWidget>

#include "exchange/flat_picture.h"

namespace kervo::app {

/// The path of a chain in the picture's coordinates, v downwards.
QPainterPath pathOf(const FlatChain& chain, double height);

class FlatView : public QWidget {
  Q_OBJECT
 public:
  explicit FlatView(QWidget* parent = nullptr);

  void setPicture(FlatPicture picture);
  const FlatPicture& picture() const { return picture_; }
  /// Said in the middle while there is no picture.
  void setHint(const QString& hint);
  QSize sizeHint() const override { return {520, 380}; }

 protected:
  void paintEvent(QPaintEvent* event) override;
  /// Over the sheet, in its millimetres; v downwards.
  virtual void paintOver(QPainter&) {}
  /// Whether the picture's own lines are painted.
  virtual bool paintsLines() const { return true; }
  double pixelsPerMillimetre() const;

 private:
  FlatPicture picture_;
  QString hint_;
};

}  // namespace kervo::app
