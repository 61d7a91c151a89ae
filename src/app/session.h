// The document on the desk: its history, its file, and the model the worker made of it.
//
// Undo and redo step through what is made and keep the newest of what is seen, but for what the edit itself changed
// there, such as a name. Showing and hiding is not in the list. What each edit changed goes into the journal
// (exchange/journal.h) at once; a journal that nobody locks was left by a crash. Saved is the document that was
// written, wherever the history stands by then.
#pragma once

#include <QObject>
#include <QString>
#include <cstdint>
#include <memory>
#include <optional>
#include <vector>

#include "app/worker.h"
#include "exchange/journal.h"

namespace kervo::app {

class Session : public QObject {
  Q_OBJECT
 public:
  explicit Session(Worker& worker, QObject* parent = nullptr);

  const Document& document() const { return document_; }
  /// What the view shows: the newest model that is done, perhaps of an earlier document.
  const std::shared_ptr<const Made>& made() const { return made_; }
  bool upToDate() const { return upToDate_; }
  /// The values of the document's dimensions, at once.
  const DimensionTable& dimensions() const { return dimensions_; }

  /// Makes a document the newest one. `what` names the edit for Undo ("Split"). Where only what is seen changed,
  /// nothing is rebuilt; where bodies were only shown or hidden, there is nothing to undo either.
  void apply(const Document& document, const QString& what);
  /// As apply(), for an edit that may refuse: its Error goes to failed().
  void edit(const QString& what, const std::function<Document(const Document&)>& change);
  void undo();
  void redo();
  bool canUndo() const { return now_ > 0; }
  bool canRedo() const { return now_ + 1 < history_.size(); }
  QString undoText() const { return canUndo() ? history_[now_].what : QString(); }
  QString redoText() const { return canRedo() ? history_[now_ + 1].what : QString(); }
  /// The document as it was before the last edit; nothing if there was none.
  std::optional<Document> before() const;
  /// As it is on the disk; nothing if it is not there, or not known.
  const std::optional<Document>& onDisk() const { return saved_; }
  /// Rebuilds again, after a stop.
  void rebuildAgain();

  /// Another document altogether, without history. An empty path: not saved yet.
  void start(const Document& document, const QString& path, bool saved);
  QString path() const { return path_; }
  QString fileName() const;
  bool saved() const { return isSaved_; }
  bool untouched() const {
    return path_.isEmpty() && document().made.steps.empty() && document().made.dimensions.empty() &&
           document().made.levels.empty();
  }
  /// Tells this document from every other one that was on the desk.
  /// Changes when another document comes to the desk.
  std::uint64_t documentNumber() const { return documentNumber_; }
  /// The document has no file any more, and is not saved.
  void forgetFile();
  /// To be called when a document that was on the desk is on disk; `number` was its documentNumber().
  void markSaved(const QString& path, const Document& written, std::uint64_t number);

  Journal* journal() const { return journal_.get(); }

 signals:
  void documentChanged();  ///< what is made, perhaps also what is seen
  void seenChanged();      ///< nothing but what is seen
  void modelChanged();
  void fileChanged();
  void failed(const kervo::Error& error);

 private:
  /// One edit, and what it led to.
  struct State {
    MadeHalf made;
    QString what;
    /// What is seen before and after it, where it changed that.
    std::optional<std::pair<SeenHalf, SeenHalf>> seen;
  };
  /// Takes a document that the history knows, or need not know.
  void take(Document document);
  void showSeen();
  void note();

  Worker& worker_;
  Document document_;
  std::vector<State> history_{State{}};
  std::size_t now_ = 0;
  std::uint64_t documentNumber_ = 0;
  std::optional<Document> saved_ = Document();  ///< as it is on the disk
  bool isSaved_ = true;
  bool journalTroubleTold_ = false;
  QString path_;
  DimensionTable dimensions_;
  std::shared_ptr<const Made> made_;
  bool upToDate_ = true;
  std::unique_ptr<Journal> journal_;
};

/// Where journals are kept: a folder in the desktop's place for state.
std::filesystem::path journalHome();

}  // namespace kervo::app
