// Files that were brought in, reloaded after somebody changed them.
#include "exchange/reload.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "exchange/body_file.h"
#include "exchange/document_json.h"
#include "exchange/kervo_file.h"
#include "geom/divide/boolean.h"
#include "geom/primitives.h"
#include "support/document_builder.h"
#include "support/shapes.h"
#include "support/temporary_folder.h"

namespace kervo {
namespace {

using namespace test;
using testing::ElementsAre;
using testing::HasSubstr;
using testing::IsEmpty;
using How = ReloadedBody::How;

FileBody blockOf(const std::string& name, double length, double x = 0, double thickness = 10) {
  return {name, makeBlock(name, at(x, 0, 0), length, 60, thickness), std::nullopt, ""};
}

FileBody drilled(const FileBody& body, double x, double y) {
  Progress progress;
  FileBody result = body;
  result.shape = divide(body.shape, {makeCylinder("drill", at(x, y, -1), 5, 40)}, progress).outside;
  return result;
}

Document broughtFrom(const std::vector<FileBody>& bodies) {
  return withBroughtIn({}, {bodies, "mm", {}}, "supplier.step", allStepKinds());
}

/// The name of the face of a body that looks up.
std::string topOf(const Model& model, const BodyId& id) {
  for (const Face& face : facesOf(model.find(id)->shape()))
    if (face.plane() && face.normal().z > 0.99) return face.origins().front();
  return "";
}

double volumeOf(const Document& document, const BodyId& id) {
  const Model model = made(document);
  const Body* body = model.find(id);
  return body ? body->form.volume() : -1;
}

/// Brought in, with a pocket of 20 × 20 × 2 drawn on the top face.
Document pocketed(const std::vector<FileBody>& bodies, const BodyId& id) {
  const Document brought = broughtFrom(bodies);
  const std::string top = topOf(made(brought), id);
  return brought.withStep(drawing("d", onFace(id.text(), top), {rectangle("r", "10", "10", "20", "20")}))
      .withStep(step("pocket", "cut",
                     {{"stock", test::bodies({id})},
                      {"profiles", allOf("d")},
                      {"to", text("distance")},
                      {"depth", Expression("2")}}));
}

TEST(Reload, KeepsWhatWasDoneOnFacesThatAreStillThere) {
  const Document document = pocketed({blockOf("Plate", 100)}, "import1");
  ASSERT_NEAR(volumeOf(document, "import1"), 100 * 60 * 10 - 800, 1e-6);
  const Reloaded now = reloaded(document, "import1", broughtFrom({drilled(blockOf("Plate", 130, 0, 16), 80, 40)}));
  ASSERT_EQ(now.bodies.size(), 1u);
  EXPECT_EQ(now.bodies[0].how, How::Changed);
  EXPECT_EQ(now.bodies[0].newFaces, 1u);
  EXPECT_EQ(now.bodies[0].goneFaces, 0u);
  EXPECT_THAT(now.lost, IsEmpty());
  EXPECT_NEAR(volumeOf(now.document, "import1"), 130 * 60 * 16 - 800 - pi * 25 * 16, 1e-6);
  EXPECT_EQ(reloadText(now), "1 body changed (1 face is new)");
  // … also after that once more, and through a file.
  const Reloaded again = reloaded(now.document, "import1", broughtFrom({blockOf("Plate", 90, 0, 12)}));
  EXPECT_NEAR(volumeOf(again.document, "import1"), 90 * 60 * 12 - 800, 1e-6);
  EXPECT_EQ(reloadText(again), "1 body changed (1 face is gone)");
  TemporaryFolder folder;
  Progress progress;
  writeDocument(folder / "a.kervo", again.document, progress);
  EXPECT_NEAR(volumeOf(readDocument(folder / "a.kervo", allStepKinds(), progress), "import1"), 90 * 60 * 12 - 800,
              1e-6);
}

TEST(Reload, FindsBodiesByNameWhateverTheirOrder) {
  const Document document =
      pocketed({blockOf("Base", 100, 200), blockOf("Lid", 80), blockOf("Foot", 20, 400)}, "import1.2");
  const Reloaded now = reloaded(document, "import1",
                                broughtFrom({blockOf("Rib", 10, 600), blockOf("Lid", 90), blockOf("Base", 100, 200)}));
  std::vector<How> hows;
  for (const ReloadedBody& body : now.bodies) hows.push_back(body.how);
  // "Foot" and "Rib" are the only ones left, but not of one shape or name: the one takes the other's place.
  EXPECT_THAT(hows, ElementsAre(How::Changed, How::Changed, How::Same));
  EXPECT_NEAR(volumeOf(now.document, "import1.1"), 60000, 1e-6);
  EXPECT_NEAR(volumeOf(now.document, "import1.2"), 90 * 600 - 800, 1e-6);
  EXPECT_NEAR(volumeOf(now.document, "import1.3"), 6000, 1e-6);
}

TEST(Reload, GivesNewBodiesNewIdsAndListsWhatIsLost) {
  const Document document = pocketed({blockOf("Base", 100), blockOf("Lid", 80, 200)}, "import1.2");
  const Reloaded now = reloaded(document, "import1", broughtFrom({blockOf("Base", 100)}));
  EXPECT_EQ(reloadText(now), "1 body is as it was, 1 body is gone");
  ASSERT_THAT(now.lost, testing::SizeIs(2)) << "the drawing's face and the pocket's stock";
  EXPECT_THAT(now.lost[0], HasSubstr("\"d\" names \"import1.2\""));
  EXPECT_THAT(now.lost[1], HasSubstr("\"import1.2\", which is gone"));
  EXPECT_NEAR(volumeOf(now.document, "import1.1"), 60000, 1e-6) << "alone, it keeps its id";
  EXPECT_TRUE(made(now.document).failed());
  const Reloaded more = reloaded(now.document, "import1",
                                 broughtFrom({blockOf("Base", 100), blockOf("Cap", 30, 500), blockOf("Rod", 40, 700)}));
  EXPECT_EQ(reloadText(more), "1 body is as it was, 2 bodies are new");
  EXPECT_NEAR(volumeOf(more.document, "import1.2"), 18000, 1e-6);
  EXPECT_NEAR(volumeOf(more.document, "import1.3"), 24000, 1e-6);
}

TEST(Reload, TellsOfAFaceThatWentAndTakesNoOther) {
  const Document brought = broughtFrom({drilled(drilled(blockOf("Plate", 100), 20, 20), 60, 20)});
  const Model model = made(brought);
  std::string hole;
  for (const Face& face : facesOf(model.find("import1")->shape()))
    if (face.axis() && face.axis()->point.x > 50) hole = face.origins().front();
  const Document document = brought.withStep(
      step("gone", "remove_faces", {{"faces", std::vector<FaceReference>{{"import1", hole, std::nullopt}}}}));
  ASSERT_FALSE(made(document).failed());
  const Reloaded now = reloaded(document, "import1", broughtFrom({drilled(blockOf("Plate", 100), 20, 20)}));
  EXPECT_THAT(now.lost, ElementsAre(HasSubstr(hole)));
  EXPECT_TRUE(made(now.document).failed()) << "the other hole stays as it is";
  EXPECT_NEAR(volumeOf(now.document, "import1"), 60000 - 250 * pi, 1e-6);
}

TEST(Reload, RefusesStepsThatBringNothingIn) {
  const Document document = documentOf({block("plate", "1", "1", "1")});
  EXPECT_THROW(reloaded(document, "plate", broughtFrom({blockOf("Plate", 10)})), Error);
  EXPECT_THROW(reloaded(document, "nobody", broughtFrom({blockOf("Plate", 10)})), Error);
  const Document brought = broughtFrom({blockOf("Plate", 10)});
  EXPECT_THROW(reloaded(brought, "import1", document), Error);
}

}  // namespace
}  // namespace kervo
