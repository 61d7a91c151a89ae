// The document: what a person made and how it is to be seen, as a value. The model is a function of it (rebuild.h).
#pragma once

#include <map>
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "base/dimension_table.h"
#include "geom/shape.h"
#include "model/levels.h"
#include "model/materials.h"
#include "model/saved_view.h"
#include "model/step.h"

namespace kervo {

/// What steps read of a body besides its shape, where a person set it.
struct BodyTreatment {
  std::optional<bool> shielded = {};
  std::optional<bool> holeMaker = {};
  bool operator==(const BodyTreatment&) const = default;
};

/// How a body is seen, where a person set it; what is not set comes from the step that made it.
struct BodyLook {
  std::optional<std::string> name = {};
  std::optional<Color> color = {};
  std::optional<std::string> layer = {};
  std::optional<std::string> level = {};  ///< empty text: on none
  /// The assemblies that it is in, the outermost first; empty: in none.
  std::optional<std::vector<std::string>> within = {};
  std::optional<bool> visible = {};
  std::optional<bool> faded = {};            ///< drawn pale and seen through
  std::optional<std::string> material = {};  ///< of the document's or the shipped list; empty text: none
  std::optional<double> density = {};        ///< kg/m³, in place of the material's
  bool operator==(const BodyLook&) const = default;
};

/// What is made: all that rebuild() depends on. Copies share their parts and are cheap.
struct MadeHalf {
  std::string unit = "mm";  ///< of bare numbers in length fields, and of lengths shown
  std::vector<DimensionRow> dimensions;
  std::vector<Level> levels;
  std::vector<std::shared_ptr<const Step>> steps;
  std::map<BodyId, BodyTreatment> bodies;
  std::map<std::string, Shape> shapes;  ///< brought-in shapes by key

  /// The step of that id, or null.
  std::shared_ptr<const Step> find(const StepId& id) const;
  /// The values of dimensions, of what steps measure, and of levels.
  DimensionTable values(const std::vector<MeasuredDimension>& measured = {}) const;
  /// Whether nothing at all was edited between the two. Steps are compared as objects, not by their fields.
  bool sameAs(const MadeHalf& other) const;
};

/// A section: a step that makes nothing and only takes bodies out of sight.
struct SectionStep {
  std::shared_ptr<const Step> step;
  bool operator==(const SectionStep& other) const;
};

/// How what is made is seen. Nothing is computed from it but what its sections take out of sight.
struct SeenHalf {
  std::map<StepId, std::string> steps;  ///< names of steps and sections that are not called like their kind
  std::vector<SectionStep> sections;    ///< in the order of their letters
  std::vector<SavedView> views;         ///< in the order of the strip below the view
  std::map<BodyId, BodyLook> bodies;
  std::map<StepId, std::string> onLevels;  ///< on which new bodies and drawings of steps are
  LevelSight levels;
  std::vector<Material> materials;      ///< the document's list, in place of the shipped one; empty: that one
  std::optional<Expression> wallLimit;  ///< Kervo warns about walls thinner than this
  bool operator==(const SeenHalf&) const = default;
};

struct Document {
  MadeHalf made;
  SeenHalf seen;

  /// The step or section of that id, or null.
  std::shared_ptr<const Step> find(const StepId& id) const;
  /// What the step is called: its own name, or its kind's.
  const std::string& nameOf(const Step& step) const;

  /// From which the bodies' materials are chosen.
  const std::vector<Material>& materials() const;

  /// What a person set on a body; nothing is set on one that is not there.
  BodyTreatment treatmentOf(const BodyId& body) const;
  BodyLook lookOf(const BodyId& body) const;

  // Edits give a new document; they throw Error if there is no such step or dimension.
  Document withStep(Step step) const;  ///< added at the end; a section to the sections. Its new bodies
                                       ///< and drawings are on the working level
  Document withStepAt(std::size_t index, Step step) const;           ///< inserted before the step now there
  Document withReplaced(const Step& step) const;                     ///< in the place of the one with its id
  Document withoutStep(const StepId& id) const;                      ///< its name goes too
  Document withStepNamed(const StepId& id, std::string name) const;  ///< empty: called like its kind again
  Document withDimension(const std::string& name, Expression expression) const;  ///< set or added
  Document withBody(const BodyId& body, BodyTreatment treatment) const;
  Document withLook(const BodyId& body, BodyLook look) const;

  /// A step id that is not taken: the kind's key and a number.
  StepId freeId(const std::string& kind) const;
};

}  // namespace kervo
