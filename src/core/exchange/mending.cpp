#include "exchange/mending.h"

#include <algorithm>
#include <cmath>

#include "base/quantity.h"
#include "base/say.h"
#include "geom/kernel/call.h"
#include "geom/measure/soundness.h"
#include "geom/surface/reseated_faces.h"

namespace kervo {

namespace {

/// Volumes that files state are rounded, and other systems integrate less exactly.
constexpr double statedExactness = 1e-3;

std::string facesText(const std::vector<int>& numbers) {
  return sayCount(numbers.size(), "%1 face", "%1 faces");
}

}  // namespace

void mend(FileBody& body, std::vector<std::string>& notes, Progress& progress) {
  progress.throwIfStopped();
  const std::string name = "\"" + body.name + "\": ";
  if (body.shape.kind() != BodyKind::Curve) {
    const Mended mended = kernelCall("mending", [&] { return withTornFacesMended(body.shape, body.wrongSide); });
    body.shape = mended.shape;
    if (!mended.faces.empty())
      notes.push_back(
          say("%1%2 came with a border torn at the seam of its surface, and was put together from its edges", name,
              facesText(mended.faces)));
    if (!mended.torn.empty())
      notes.push_back(say(
          "%1%2 came with a border torn at the seam of its surface, and could not be mended: do not trust the volume",
          name, facesText(mended.torn)));
  }
  if (!body.statedVolume || body.shape.kind() != BodyKind::Solid) return;
  const double stated = *body.statedVolume, read = body.shape.volume();
  if (std::abs(stated - read) > statedExactness * std::abs(stated))
    notes.push_back(say("%1the file states a volume of %2 mm³, but what was read has %3 mm³", name,
                        formatNumber(stated, 9), formatNumber(read, 9)));
}

std::vector<std::string> flawsIn(const FileBody& body, Search search, Progress& progress) {
  constexpr std::size_t most = 5;
  constexpr int fewFaces = 100;
  std::vector<std::string> texts;
  const auto add = [&](const Flaw& flaw) { texts.push_back("\"" + body.name + "\": " + flaw.text()); };
  const std::vector<Flaw> flaws = flawsOf(body.shape, progress);
  for (std::size_t i = 0; i < std::min(most, flaws.size()); ++i) add(flaws[i]);
  if (flaws.size() > most) texts.push_back(say("\"%1\": %2 more", body.name, flaws.size() - most));
  if (body.shape.kind() == BodyKind::Solid && (search == Search::Full || body.shape.faceCount() <= fewFaces))
    if (const auto crossing = selfCrossingOf(body.shape, progress)) add(*crossing);
  return texts;
}

}  // namespace kervo
