// Fills the table of verbs: those of the window by hand, those of steps from the tables of their kinds.
#pragma once

#include <QCoreApplication>
#include <initializer_list>
#include <memory>

#include "app/desk.h"
#include "app/verbs.h"

namespace kervo {
enum class KindMenu;
}

namespace kervo::app {

class MainWindow;

class VerbTable {
  Q_DECLARE_TR_FUNCTIONS(VerbTable)
 public:
  /// The window must be there as long as the table.
  explicit VerbTable(MainWindow& window);
  VerbTable(const VerbTable&) = delete;
  VerbTable& operator=(const VerbTable&) = delete;

  /// To be called once the parts of the window are there.
  void fill();
  const std::vector<Verb>& verbs() const { return verbs_; }
  /// The verb of that key, or null.
  const Verb* find(const QString& key) const;

 private:
  Verb& add(Verb verb);
  /// One of the view that is on or off.
  static Verb checkable(const char* key, const QString& text, const QKeySequence& keys, std::function<void()> run,
                        std::function<bool()> checked);
  void addKinds(std::initializer_list<KindMenu> menus);
  void addFileVerbs();
  void addDemoVerbs();
  void addStepVerbs();
  void addBodyVerbs();
  void addCheckVerbs();
  void addShopVerbs();
  void addViewVerbs();
  void addLooks();
  void addShown();
  void addLevels();
  void addPanes();
  void addPlaces();

  // What rules ask about the selection.
  bool nothing() const;
  bool body() const;      ///< a body, or any part of one
  bool anything() const;  ///< also a datum or drawing
  bool anyBody() const;
  bool anySurface() const;
  bool damaged() const;
  bool openable() const;  ///< a step that can be opened and closed
  bool emptyDocument() const;
  std::shared_ptr<const Step> step() const;
  const Body* firstBody() const;

  MainWindow& w_;
  Desk& desk_;
  std::vector<Verb> verbs_;
};

}  // namespace kervo::app
