// New, Open, Bring in, Save, Send out, recovery: everything between the document and the disk.
#pragma once

#include <QObject>
#include <QStringList>

#include "app/desk.h"
#include "app/document_guard.h"
#include "app/foreign_reader.h"
#include "app/message_bar.h"
#include "app/report_dialog.h"
#include "exchange/document_difference.h"
#include "exchange/known_shapes.h"
#include "exchange/reload.h"

namespace kervo::app {

class Files : public QObject {
  Q_OBJECT
 public:
  Files(Desk& desk, QWidget* window);

  /// Each asks about unsaved changes first, where the document would be lost.
  void newDocument();
  void open();
  void open(const QString& path);
  /// "mast-clamp" or "battery-crate".
  void openDemo(const QString& name);
  void bringIn();
  void bringIn(const QString& path);
  /// Bodies that the person chooses from a file; of a broken one those that can be read.
  void bringInParts();
  void bringInParts(const QString& path);
  /// Reads the file again that a Bring in step took its bodies from: where it was when it was last read on this
  /// machine, beside the document, or else where the person says.
  void reload(const StepId& step);
  void reload(const StepId& step, const QString& path);
  /// Curves of a file, as a person wants them.
  struct CurvesWanted {
    QString unit;                        ///< empty: what the file says
    QString gap;                         ///< ends that are nearer become one point, mm
    bool middle = false;                 ///< their middle comes to the origin
    std::vector<QString> drawings = {};  ///< of which layers, by the names of the drawings they become
  };
  /// They come into the drawing on the Bench, or as new ones.
  void bringInCurves(const QString& path, const CurvesWanted& wanted);
  /// Opens a document, or brings bodies in, whichever the file is.
  void take(const QString& path);
  void save();
  void saveAs();
  void saveTo(const QString& path);
  void sendOut();
  /// Copies of the selected bodies as they are now, brought in as if from a file: they follow nothing.
  void freezeSelected();
  void sendOutTo(const QString& path);
  /// Reads a document, or the bodies of another file into one, to compare it with what is on the desk. Otherwise
  /// `failed` is called, after what went wrong was told.
  void readToCompare(const QString& path, const std::function<void(const Document&)>& then,
                     const std::function<void()>& failed);
  /// Asks about unsaved changes first, as open() does; `stay` is called if the person wants to keep them on the desk.
  void recover(const Abandoned& journal, const std::function<void()>& stay = {});

  /// False if the person wants to stay. Otherwise `go` is called, at once or after saving.
  void leave(std::function<void()> go, const std::function<void()>& stay = {});

  QStringList recent() const;
  ForeignReader& reader() { return reader_; }

 signals:
  void failed(const kervo::Error& error);
  /// Something was mended in a file that was read, or bodies came in with faces that are not valid.
  void noted(const kervo::Error& error, bool damaged, const kervo::app::Report& report);
  void reported(const kervo::app::Report& report);
  void asked(const QString& text, const std::vector<kervo::app::MessageChoice>& choices);
  void noticed(const QString& text, const std::vector<kervo::app::MessageChoice>& choices);
  /// `then` is to be called when the person has seen them.
  void compared(const QString& name, const std::vector<kervo::DocumentDifference>& differences,
                const std::function<void()>& then);
  /// A file of curves was read: what is wanted of it is to be asked.
  void curvesRead(const QString& path, const kervo::Document& drawings);
  void told(const QString& text);
  void recentChanged();
  void loaded();  ///< another document is on the desk

 private:
  void openNow(const QString& path);
  void read(const QString& path, bool isOurs);
  /// Has the reader read a file of bodies, and asks for its unit if it does not say it. `unit`: the answer; empty
  /// before that.
  void readForeign(const QString& path, const QString& unit, const std::function<void(const QString& converted)>& then,
                   const QStringList& options = {});
  /// After a broken file was refused.
  void offerParts(const Error& error);
  void askForParts(const Document& brought, const QString& path);
  void takeParts(const Document& brought, const std::vector<std::size_t>& numbers, const QString& path);
  /// Reads a document and hands it on, in the worker; the reader's process reads it first if it has shapes that are not
  /// known. Otherwise `failed` is called, after what went wrong was told; `stopped` tells if the person stopped it.
  void readDocumentAt(const QString& path, const QString& activity,
                      const std::function<Worker::Then(const Document&, Progress&)>& use,
                      const std::function<void(bool stopped)>& failed);
  void recoverNow(const Abandoned& journal);
  /// In the worker: what a document that was just read needs before it is shown.
  void prepare(const Document& document, Progress& progress);
  void start(const Document& document, const QString& path, bool saved);
  /// Puts the Bring in step of another document into this one.
  void addBrought(const Document& brought, const QString& what);
  /// Reads a file of curves into a document of drawings, and hands that on.
  void readCurves(const QString& path, const QStringList& options, const std::function<void(const Document&)>& then);
  void takeReloaded(const Reloaded& result, const StepId& id, const QString& what);
  /// Where a file lies from which bodies came.
  static void keepPlace(const QString& path);
  /// Of the file that was read last: what was mended in it, and where its bodies cannot be trusted.
  void tellNotes();
  void remember(const QString& path);
  void writeTo(const QString& path);
  std::function<void()> ifStillThere(std::function<void()> act);
  void askToOverwrite(const QString& text, const QString& path, std::vector<MessageChoice> choices);
  /// The file is not what it was when it was opened: to be asked before it is written.
  void askAboutChange(const QString& path);
  void compareWithDisk(const QString& path, const std::function<void()>& then);
  QString lastFolder() const;

  Desk& desk_;
  QWidget* window_;
  ForeignReader reader_;
  DocumentGuard guard_;
  KnownShapes known_;
  std::function<void()> afterSaving_;
  bool partsMayHelp_ = false;  ///< what is being read would come in: a part of it is better than nothing
};

}  // namespace kervo::app
