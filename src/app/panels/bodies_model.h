// The rows of the list of bodies: a tree of the assemblies they are in, and behind them datums and drawings.
#pragma once

#include <QAbstractTableModel>
#include <set>

#include "app/desk.h"

namespace kervo::app {

class BodiesModel : public QAbstractTableModel {
  Q_OBJECT
 public:
  enum Column { Swatch, Name, Kind, Eye, Shield, columnCount_ };

  explicit BodiesModel(Desk& desk, QObject* parent = nullptr);
  int rowCount(const QModelIndex& = {}) const override;
  int columnCount(const QModelIndex& = {}) const override { return columnCount_; }
  QVariant data(const QModelIndex& index, int role) const override;
  QVariant headerData(int section, Qt::Orientation orientation, int role) const override;
  Qt::ItemFlags flags(const QModelIndex& index) const override;
  bool setData(const QModelIndex& index, const QVariant& value, int role) override;
  /// The body, datum or drawing in that row; null for an assembly and beyond the last.
  const ShownAs* lookAt(int row) const;
  const BodyId& idAt(int row) const { return rowAt(row).id; }
  bool isAssembly(int row) const { return rowAt(row).assembly; }
  /// What selects it: of an assembly all bodies in it.
  std::vector<Pick> picksOf(int row) const;
  /// -1 if it has none: it does not match the filter.
  int rowOf(const BodyId& id) const;
  /// Only what has this text in its name, kind, layer, level or an assembly's name; empty: everything.
  void setFilter(const QString& text);
  /// Whether the bodies of an assembly have rows.
  void fold(int row, bool folded);
  bool isFolded(int row) const { return folded_.contains(rowAt(row).path); }
  /// Unfolds what a body is in.
  void reveal(const BodyId& id);

 private:
  struct Row {
    BodyId id;                      ///< empty for an assembly
    std::vector<std::string> path;  ///< of the assembly, or those that the body is in
    bool assembly = false;
    std::vector<BodyId> inside = {};  ///< of an assembly: all bodies in it
    bool operator==(const Row&) const = default;
  };
  const Row& rowAt(int row) const { return rows_.at(static_cast<std::size_t>(row)); }
  const Model& model() const { return *desk_.session.made()->model; }
  std::vector<Row> laidOut() const;
  void layOut();
  bool matches(const ShownAs& look, const QString& kind) const;
  /// Of all bodies in it, in one edit.
  void renameAssembly(const Row& row, const std::string& name);
  QVariant assemblyData(const Row& row, int column, int role) const;
  /// Those of a datum or drawing that differ from a body's.
  QVariant guideData(const Guide& guide, int column, int role) const;
  QVariant bodyData(const Body& body, int column, int role) const;

  Desk& desk_;
  std::vector<Row> rows_;
  std::set<std::vector<std::string>> folded_;
  QString filter_;
};

/// As a body is shown: its own colour, or the usual one.
QColor shownColor(const Body& body);

}  // namespace kervo::app
