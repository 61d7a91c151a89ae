// The kinds of step that blend edges of bodies: rounds and chamfers.
#pragma once

#include <map>

#include "base/say.h"
#include "fields/edges_field.h"
#include "fields/faces_field.h"
#include "fields/sizes_field.h"
#include "fields/step_field.h"
#include "geom/surface/blended_edges.h"
#include "model/step_inputs.h"

namespace kervo {

/// Edges of one body that are blended, and which of the picked ones each is; −1: none.
struct ChosenEdges {
  std::vector<Edge> edges;
  std::vector<int> picked;

  /// Sizes that are given to picked edges in their order, for each of these; 0 where none is given.
  std::vector<double> own(const std::vector<double>& sizes) const;
};

class EdgeBlend : public StepKind {
 public:
  EdgeBlend(const char* key, const char* label, const char* shortcut, const char* help)
      : StepKind({.key = key,
                  .label = label,
                  .menu = KindMenu::Cut,
                  .verb = std::string(label) + " edges",
                  .shortcut = shortcut,
                  .help = help}) {}

  void startFrom(const Selected& selected, Start& start) const override { start.set(edges_, selected.edges()); }
  std::optional<std::string> offered(const Selected& selected) const override;
  /// Every body that has some of the edges, with them blended; shielded ones stay as they are. Says so if there are
  /// more edges than were picked, since those that continue one tangentially go along.
  StepResult evaluate(StepInputs& inputs, Progress& progress) const override;

 protected:
  virtual BlendedEdges blended(const Inputs& inputs, const Shape& before, const ChosenEdges& edges,
                               Progress& progress) const = 0;
  /// Throws an Error at the field if there are more sizes than picked edges.
  void requireEnoughEdges(const Inputs& inputs, const SizesField& sizes) const;

 private:
  std::map<BodyId, ChosenEdges> chosen(StepInputs& inputs) const;

  const EdgesField edges_{*this,
                          {.key = "edges",
                           .label = "Edges",
                           .well = Well::Stock,
                           .help = "Edges that continue one of them tangentially go along"}};
  const FacesField around_{
      *this, {.key = "around", .label = "Around", .well = Well::Stock, .help = "All edges around these faces as well"}};
  const StepField rims_{*this,
                        {.key = "rims_of",
                         .label = "Rims of",
                         .well = Well::Stock,
                         .help = "All edges at which faces that this step made meet others, as well"}};
};

}  // namespace kervo
