// Dialogs that write pictures: what is asked on the left, the picture as it will be on the right.
#pragma once

#include <QComboBox>
#include <QDialog>
#include <QDialogButtonBox>
#include <QFormLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QTimer>
#include <filesystem>
#include <functional>

#include "app/desk.h"
#include "app/shop/flat_view.h"
#include "shop/sheets.h"

namespace kervo::app {

class FlatOutDialog : public QDialog {
  Q_OBJECT
 public:
  FlatOutDialog(Desk& desk, const QString& title, QWidget* parent);

  bool ready() const { return write_->isEnabled(); }
  const FlatView& view() const { return *view_; }
  QString notes() const { return notes_->text(); }
  /// Writes without asking where.
  void writeTo(const QString& path);

 signals:
  void told(const QString& text);
  void failed(const kervo::Error& error);
  /// Files were written.
  void written(const QStringList& paths);

 protected:
  /// What the worker made of what is asked.
  struct Result {
    std::vector<FlatPicture> pictures;
    QStringList notes;
    std::function<std::vector<std::filesystem::path>(const std::filesystem::path&, Progress&)> write;
  };
  /// To be called in the worker, with what is asked now. Throws Error.
  virtual std::function<Result(Progress&)> work() = 0;
  QFormLayout& form() { return *form_; }
  QLineEdit* addLine(const QString& name, const QString& text);
  /// Makes the picture again, a moment later.
  void again() { soon_.start(); }
  /// The length in a line, mm. Throws Error.
  double lengthIn(const QLineEdit* line) const;
  Desk& desk() { return desk_; }
  /// What was written can be looked at in the simulated cutter.
  void offerToPlay();

 private:
  void make();
  void showResult(const Result& result);
  void showPage(int page);
  void playCuts();

  Desk& desk_;
  QFormLayout* form_;
  FlatView* view_;
  QLabel* notes_;
  QComboBox* pages_;
  QDialogButtonBox* buttons_;
  QPushButton* write_;
  QPushButton* play_ = nullptr;
  QStringList paths_;  ///< written last
  QTimer soon_;
  Result result_;
  int newest_ = 0;
};

/// Parts laid out on sheets.
class SheetsDialog : public FlatOutDialog {
  Q_OBJECT
 public:
  /// Of these bodies.
  SheetsDialog(Desk& desk, std::vector<Body> bodies, QWidget* parent);

 protected:
  std::function<Result(Progress&)> work() override;

 private:
  /// A line that begins with what was typed last.
  QLineEdit* addKept(const QString& name, const QString& first, const QString& key);

  std::vector<Body> bodies_;
  std::vector<std::pair<const QLineEdit*, QString>> kept_;  ///< and where in the settings
  QLineEdit *width_, *height_, *spacing_, *kerf_;
};

/// A section by a plane, at scale.
class SectionOutDialog : public FlatOutDialog {
  Q_OBJECT
 public:
  SectionOutDialog(Desk& desk, QWidget* parent);

 protected:
  std::function<Result(Progress&)> work() override;

 private:
  QComboBox* section_;
  QLineEdit* scale_;
};

}  // namespace kervo::app
