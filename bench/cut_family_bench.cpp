// Many cutters and many bodies: the kernel's best single call, and Kervo from drawn curves or planes to audited bodies.
#include <benchmark/benchmark.h>
#include <BRepAlgoAPI_Common.hxx>
#include <BRepAlgoAPI_Cut.hxx>
#include <BRepAlgoAPI_Splitter.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepPrimAPI_MakeBox.hxx>
#include <BRepPrimAPI_MakeCylinder.hxx>
#include <BRepPrimAPI_MakeHalfSpace.hxx>
#include <BRepTools.hxx>
#include <BRep_Builder.hxx>
#include <TopTools_ListOfShape.hxx>
#include <TopoDS_Shape.hxx>
#include <gp_Ax2.hxx>
#include <gp_Pln.hxx>

#include <cmath>

#include "exchange/body_file.h"
#include "fields/all_fields.h"
#include "geom/divide/plane_split.h"
#include "geom/measure/soundness.h"
#include "model/rebuild.h"
#include "steps/registry.h"
#include "view/body_picture.h"

namespace {

using namespace kervo;

constexpr double pitch = 10, height = 10;

double radiusOf(int i) {
  return 1 + (i % 7) * 0.5;
}

Expression mm(double value) {
  return Expression(formatNumber(value, 12) + " mm");
}

Step block(const std::string& id, double width, double depth, double tall, double x = 0, double y = 0, double z = 0) {
  return Step(id, *allStepKinds().find("block"),
              {{"width", mm(width)},
               {"depth", mm(depth)},
               {"height", mm(tall)},
               {"at", std::vector<Expression>{mm(x), mm(y), mm(z)}}});
}

Step drawnOn(const std::string& face, std::vector<DrawnCurve> curves) {
  return Step("d", *allStepKinds().find("drawing"),
              {{"plane", PlanePick{PlanePick::Kind::OnFace, "", {"plate", face, std::nullopt}}},
               {"curves", Drawing::of(curves)}});
}

Step cutWith(std::map<std::string, FieldValue> fields) {
  fields.insert({{"profiles", RegionPick{"d", true, {}}}, {"stock", BodyPick{false, {"plate"}}}});
  return Step("c", *allStepKinds().find("cut"), std::move(fields));
}

Document documentOf(const std::vector<Step>& steps) {
  Document document;
  for (const Step& step : steps) document = document.withStep(step);
  return document;
}

/// The last step alone: everything before it is in the memo.
void timeLastStep(benchmark::State& state, const Document& document) {
  Document before = document;
  const Step last = *document.made.steps.back();
  before = before.withoutStep(last.id());
  Progress progress;
  for (auto _ : state) {
    state.PauseTiming();
    Memo memo;
    rebuild(before, memo, progress);
    state.ResumeTiming();
    const Model model = rebuild(document, memo, progress);
    if (model.failed()) return state.SkipWithError(model.steps.back().error->what());
    benchmark::DoNotOptimize(model);
  }
}

// 1000 holes of seven diameters

void mixedHolesKernel(benchmark::State& state) {
  const int count = static_cast<int>(state.range(0)), row = static_cast<int>(std::ceil(std::sqrt(count)));
  const TopoDS_Shape plate = BRepPrimAPI_MakeBox(row * pitch, row * pitch, height).Shape();
  for (auto _ : state) {
    TopTools_ListOfShape stock, tools;
    stock.Append(plate);
    for (int i = 0; i < count; ++i)
      tools.Append(
          BRepPrimAPI_MakeCylinder(gp_Ax2(gp_Pnt((i % row + .5) * pitch, (i / row + .5) * pitch, -1), gp::DZ()),
                                   radiusOf(i), height + 2)
              .Shape());
    BRepAlgoAPI_Cut cut;
    cut.SetArguments(stock);
    cut.SetTools(tools);
    cut.SetRunParallel(true);
    cut.Build();
    benchmark::DoNotOptimize(cut.Shape());
  }
}

void mixedHolesKervo(benchmark::State& state) {
  const int count = static_cast<int>(state.range(0)), row = static_cast<int>(std::ceil(std::sqrt(count)));
  std::vector<DrawnCurve> curves;
  for (int i = 0; i < count; ++i)
    curves.push_back(
        {"h" + std::to_string(i), "circle", {mm((i % row + .5) * pitch), mm((i / row + .5) * pitch), mm(radiusOf(i))}});
  timeLastStep(
      state, documentOf({block("plate", row * pitch, row * pitch, height), drawnOn("plate:top", curves), cutWith({})}));
}

// Slots right through

void slotsKernel(benchmark::State& state) {
  const int count = static_cast<int>(state.range(0)), row = 15;
  const TopoDS_Shape plate = BRepPrimAPI_MakeBox(row * pitch, (count / row + 1) * pitch, height).Shape();
  for (auto _ : state) {
    TopTools_ListOfShape stock, tools;
    stock.Append(plate);
    for (int i = 0; i < count; ++i)
      tools.Append(
          BRepPrimAPI_MakeBox(gp_Pnt((i % row) * pitch + 1, (i / row) * pitch + 3, -1), 8, 3, height + 2).Shape());
    BRepAlgoAPI_Cut cut;
    cut.SetArguments(stock);
    cut.SetTools(tools);
    cut.SetRunParallel(true);
    cut.Build();
    benchmark::DoNotOptimize(cut.Shape());
  }
}

void slotsKervo(benchmark::State& state) {
  const int count = static_cast<int>(state.range(0)), row = 15;
  std::vector<DrawnCurve> curves;
  for (int i = 0; i < count; ++i)
    curves.push_back(
        {"s" + std::to_string(i), "rectangle", {mm((i % row) * pitch + 1), mm((i / row) * pitch + 3), mm(8), mm(3)}});
  timeLastStep(state, documentOf({block("plate", row * pitch, (count / row + 1) * pitch, height),
                                  drawnOn("plate:top", curves), cutWith({})}));
}

// Pockets down to a tilted face

const gp_Pln tilted(gp_Pnt(0, 0, 3), gp_Dir(-0.02, 0, 1));

void pocketsKernel(benchmark::State& state) {
  const int count = static_cast<int>(state.range(0)), row = 15;
  const TopoDS_Shape plate = BRepPrimAPI_MakeBox(row * pitch, (count / row + 1) * pitch, height).Shape();
  for (auto _ : state) {
    // All pockets in one body above the tilted plane, then one cut.
    TopTools_ListOfShape columns, above, stock, tools;
    for (int i = 0; i < count; ++i)
      columns.Append(
          BRepPrimAPI_MakeBox(gp_Pnt((i % row) * pitch + 1, (i / row) * pitch + 3, -1), 8, 3, height + 2).Shape());
    above.Append(
        BRepPrimAPI_MakeHalfSpace(BRepBuilderAPI_MakeFace(tilted, -1e4, 1e4, -1e4, 1e4).Face(), gp_Pnt(0, 0, 100))
            .Solid());
    BRepAlgoAPI_Common pockets;
    pockets.SetArguments(columns);
    pockets.SetTools(above);
    pockets.SetRunParallel(true);
    pockets.Build();
    stock.Append(plate);
    tools.Append(pockets.Shape());
    BRepAlgoAPI_Cut cut;
    cut.SetArguments(stock);
    cut.SetTools(tools);
    cut.SetRunParallel(true);
    cut.Build();
    benchmark::DoNotOptimize(cut.Shape());
  }
}

void pocketsKervo(benchmark::State& state) {
  const int count = static_cast<int>(state.range(0)), row = 15;
  std::vector<DrawnCurve> curves;
  for (int i = 0; i < count; ++i)
    curves.push_back(
        {"s" + std::to_string(i), "rectangle", {mm((i % row) * pitch + 1), mm((i / row) * pitch + 3), mm(8), mm(3)}});
  // A wedge whose upper face is the tilted one: a block turned by the same angle.
  const Step wedge = block("wedge", 4 * row * pitch, 4 * count, 3, -50, -50, 0);
  const Step turned("turned", *allStepKinds().find("place"),
                    {{"bodies", BodyPick{false, {"wedge"}}},
                     {"way", std::string("turn")},
                     {"axis", std::string("y")},
                     {"angle", Expression("-1.1458 deg")}});
  timeLastStep(
      state,
      documentOf(
          {block("plate", row * pitch, (count / row + 1) * pitch, height), wedge, turned, drawnOn("plate:top", curves),
           cutWith({{"to", std::string("face")}, {"to_face", FaceReference{"wedge", "wedge:top", std::nullopt}}})}));
}

// 100 bodies by three planes

void hundredBodiesKernel(benchmark::State& state) {
  TopTools_ListOfShape bodies, planes;
  for (int i = 0; i < 100; ++i)
    bodies.Append(BRepPrimAPI_MakeBox(gp_Pnt((i % 10) * 12 - 60, (i / 10) * 12 - 60, -5), 10, 10, 10).Shape());
  for (const gp_Dir& normal : {gp_Dir(0, 0, 1), gp_Dir(0.1, 0, 1), gp_Dir(0, 0.1, 1)})
    planes.Append(BRepBuilderAPI_MakeFace(gp_Pln(gp_Pnt(0, 0, 0), normal), -100, 100, -100, 100).Face());
  for (auto _ : state) {
    BRepAlgoAPI_Splitter split;
    split.SetArguments(bodies);
    split.SetTools(planes);
    split.SetRunParallel(true);
    split.Build();
    benchmark::DoNotOptimize(split.Shape());
  }
}

void hundredBodiesKervo(benchmark::State& state) {
  std::vector<Step> steps;
  for (int i = 0; i < 100; ++i)
    steps.push_back(block("b" + std::to_string(i), 10, 10, 10, (i % 10) * 12 - 60, (i / 10) * 12 - 60, -5));
  std::vector<CutterPick> cutters;
  int number = 0;
  for (const Vector normal : {Vector{0, 0, 1}, Vector{0.1, 0, 1}, Vector{0, 0.1, 1}}) {
    const std::string id = "p" + std::to_string(number++);
    steps.push_back(Step(
        id, *allStepKinds().find("plane"),
        {{"way", std::string("at")}, {"normal", std::vector<Expression>{mm(normal.x), mm(normal.y), mm(normal.z)}}}));
    cutters.push_back(CutterPick::of(PlanePick{PlanePick::Kind::OfStep, id, {}}));
  }
  steps.push_back(Step("s", *allStepKinds().find("split"), {{"cutters", cutters}}));
  timeLastStep(state, documentOf(steps));
}

// A trial on a body of about 500 faces

/// All that a trial does until it is seen: the last step, and the pictures of what it makes. The bodies before it have
/// theirs.
void timeTrial(benchmark::State& state, const Document& document) {
  Document before = document;
  before = before.withoutStep(document.made.steps.back()->id());
  Progress progress;
  for (auto _ : state) {
    state.PauseTiming();
    Memo memo;
    double size = 0;
    for (const Body& body : rebuild(before, memo, progress).bodies) {
      pictureOf(body.shape(), progress);
      size = std::max(size, body.shape().roughBox().diagonal());
    }
    state.ResumeTiming();
    const Model model = rebuild(document, memo, progress);
    if (model.failed()) return state.SkipWithError(model.steps.back().error->what());
    std::vector<PictureOrder> orders;
    for (const Piece& piece : model.steps.back().result->pieces) orders.push_back({piece.shape, Picks::Later, size});
    benchmark::DoNotOptimize(picturesOf(orders, progress));
  }
}

void trialOf500Faces(benchmark::State& state, const Step& last) {
  std::vector<DrawnCurve> curves;
  for (int i = 0; i < 494; ++i)
    curves.push_back({"h" + std::to_string(i), "circle", {mm((i % 25 + .5) * 10), mm((i / 25 + .5) * 10), mm(3)}});
  timeTrial(state, documentOf({block("plate", 250, 200, height), drawnOn("plate:top", curves), cutWith({}), last}));
}

Step splitWithKerf(double offset) {
  return Step("s", *allStepKinds().find("split"),
              {{"cutters", std::vector{CutterPick::of(PlanePick{PlanePick::Kind::Standard, "yz", {}})}},
               {"offset", mm(offset)},
               {"kerf", mm(1)}});
}

void trialSplit(benchmark::State& state) {
  trialOf500Faces(state, splitWithKerf(121));
}

/// Twenty holes are cut, not far from their sides.
void trialSplitThroughHoles(benchmark::State& state) {
  trialOf500Faces(state, splitWithKerf(118));
}

/// All holes are cut: the plate is sliced at half its height.
void trialSplitFlat(benchmark::State& state) {
  trialOf500Faces(state, Step("s", *allStepKinds().find("split"),
                              {{"cutters", std::vector{CutterPick::of(PlanePick{PlanePick::Kind::Standard, "xy", {}})}},
                               {"offset", mm(height / 2)},
                               {"kerf", mm(1)}}));
}

/// The same on a rack of 250 teeth: no holes, and two faces of 500 edges each.
void trialRack(benchmark::State& state) {
  std::vector<DrawnCurve> curves;
  const auto line = [&](double x1, double y1, double x2, double y2) {
    curves.push_back({"l" + std::to_string(curves.size()), "line", {mm(x1), mm(y1), mm(x2), mm(y2)}});
  };
  for (int i = 0; i < 250; ++i) {
    line(i, 0, i + 0.5, 1);
    line(i + 0.5, 1, i + 1, 0);
  }
  line(250, 0, 250, -10);
  line(250, -10, 0, -10);
  line(0, -10, 0, 0);
  timeTrial(state,
            documentOf({Step("d", *allStepKinds().find("drawing"), {{"curves", Drawing::of(curves)}}),
                        Step("rack", *allStepKinds().find("extrude"),
                             {{"profiles", RegionPick{"d", true, {}}}, {"height", mm(10)}}),
                        Step("s", *allStepKinds().find("split"),
                             {{"cutters", std::vector{CutterPick::of(PlanePick{PlanePick::Kind::Standard, "yz", {}})}},
                              {"offset", mm(121.2)},
                              {"kerf", mm(1)}})}));
}

void trialHole(benchmark::State& state) {
  std::vector<DrawnCurve> curves;
  for (int i = 0; i < 493; ++i)
    curves.push_back({"h" + std::to_string(i), "circle", {mm((i % 25 + .5) * 10), mm((i / 25 + .5) * 10), mm(3)}});
  const Step one("one", *allStepKinds().find("drawing"),
                 {{"plane", PlanePick{PlanePick::Kind::OnFace, "", {"plate", "plate:top", std::nullopt}}},
                  {"curves", Drawing::of({{"c", "circle", {mm(245), mm(195), mm(3)}}})}});
  timeTrial(state,
            documentOf({block("plate", 250, 200, height), drawnOn("plate:top", curves), cutWith({}), one,
                        Step("last", *allStepKinds().find("cut"), {{"profiles", RegionPick{"one", true, {}}}})}));
}

// The kernel alone, for the same split

void kernelSplit(benchmark::State& state) {
  const TopoDS_Shape plate = BRepPrimAPI_MakeBox(250, 200, height).Shape();
  TopTools_ListOfShape stock, tools;
  stock.Append(plate);
  for (int i = 0; i < 494; ++i)
    tools.Append(
        BRepPrimAPI_MakeCylinder(gp_Ax2(gp_Pnt((i % 25 + .5) * 10, (i / 25 + .5) * 10, -1), gp::DZ()), 3, height + 2)
            .Shape());
  BRepAlgoAPI_Cut drill;
  drill.SetArguments(stock);
  drill.SetTools(tools);
  drill.SetRunParallel(true);
  drill.Build();
  TopTools_ListOfShape drilled, saw;
  drilled.Append(drill.Shape());
  saw.Append(BRepPrimAPI_MakeBox(gp_Pnt(120.5, -10, -10), 1, 250, 50).Shape());
  for (auto _ : state) {
    BRepAlgoAPI_Cut cut;
    cut.SetArguments(drilled);
    cut.SetTools(saw);
    cut.SetRunParallel(true);
    cut.Build();
    benchmark::DoNotOptimize(cut.Shape());
  }
}

// A moulded housing of 323 faces with fillets and ribs that Kervo did not make, sawn through its middle

const char* const housing = "/usr/share/opencascade/data/occ/Bottom.brep";

Box boxOfHousing() {
  Progress progress;
  return readBodies(housing, progress).bodies.front().shape.box();
}

void trialHousing(benchmark::State& state) {
  Progress progress;
  const Point middle = boxOfHousing().centre();
  for (auto _ : state) {
    state.PauseTiming();
    // Anew each time: what one cut finds out about its faces would help the next.
    const Shape stock = examined(readBodies(housing, progress).bodies.front().shape, progress);
    const double size = stock.roughBox().diagonal();
    pictureOf(stock, progress);
    state.ResumeTiming();
    const PlaneSplit split = splitByPlane("saw", stock, Plane::through(middle, {1, 0, 0}), Kerf::centred(1), progress);
    for (const auto* side : {&split.front, &split.back})
      for (const Shape& piece : *side) benchmark::DoNotOptimize(pictureOf(piece, progress, Picks::Later, size));
  }
}

void kernelHousing(benchmark::State& state) {
  const Box box = boxOfHousing();
  TopoDS_Shape part;
  BRep_Builder builder;
  BRepTools::Read(part, housing, builder);
  TopTools_ListOfShape stock, saw;
  stock.Append(part);
  saw.Append(BRepPrimAPI_MakeBox(gp_Pnt(box.centre().x - 0.5, box.low.y - 10, box.low.z - 10),
                                 gp_Pnt(box.centre().x + 0.5, box.high.y + 10, box.high.z + 10))
                 .Shape());
  for (auto _ : state) {
    BRepAlgoAPI_Cut cut;
    cut.SetArguments(stock);
    cut.SetTools(saw);
    cut.SetRunParallel(true);
    cut.SetNonDestructive(true);
    cut.Build();
    benchmark::DoNotOptimize(cut.Shape());
  }
}

}  // namespace

#define KERVO_PAIR(name, kernel, kervo, count)      \
  BENCHMARK(kernel)                                 \
      ->Name("cut family/" name "/kernel_one_call") \
      ->Arg(count)                                  \
      ->Unit(benchmark::kMillisecond)               \
      ->UseRealTime();                              \
  BENCHMARK(kervo)->Name("cut family/" name "/kervo")->Arg(count)->Unit(benchmark::kMillisecond)->UseRealTime()
KERVO_PAIR("mixed holes", mixedHolesKernel, mixedHolesKervo, 1000);
KERVO_PAIR("slots", slotsKernel, slotsKervo, 300);
KERVO_PAIR("pockets to a tilted face", pocketsKernel, pocketsKervo, 200);
KERVO_PAIR("bodies by three planes", hundredBodiesKernel, hundredBodiesKervo, 100);
BENCHMARK(trialSplit)
    ->Name("cut family/trial on 500 faces/split with kerf")
    ->Unit(benchmark::kMillisecond)
    ->UseRealTime();
BENCHMARK(trialSplitFlat)
    ->Name("cut family/trial on 500 faces/slice across all holes")
    ->Unit(benchmark::kMillisecond)
    ->UseRealTime();
BENCHMARK(trialSplitThroughHoles)
    ->Name("cut family/trial on 500 faces/split through a row of holes")
    ->Unit(benchmark::kMillisecond)
    ->UseRealTime();
BENCHMARK(kernelSplit)
    ->Name("cut family/trial on 500 faces/split, kernel_one_call")
    ->Unit(benchmark::kMillisecond)
    ->UseRealTime();
BENCHMARK(trialRack)
    ->Name("cut family/trial on 500 faces/rack with kerf")
    ->Unit(benchmark::kMillisecond)
    ->UseRealTime();
BENCHMARK(trialHole)->Name("cut family/trial on 500 faces/one more hole")->Unit(benchmark::kMillisecond)->UseRealTime();
BENCHMARK(trialHousing)->Name("cut family/trial on a housing/kervo")->Unit(benchmark::kMillisecond)->UseRealTime();
BENCHMARK(kernelHousing)
    ->Name("cut family/trial on a housing/kernel_one_call")
    ->Unit(benchmark::kMillisecond)
    ->UseRealTime();
