#include "exchange/plain_healing.h"

#include <ShapeBuild_ReShape.hxx>
#include <ShapeFix_Shape.hxx>
#include <ShapeFix_Wire.hxx>
#include <ShapeProcess_ShapeContext.hxx>
#include <TopoDS_Shape.hxx>
#include <XSAlgo.hxx>
#include <XSAlgo_ToolContainer.hxx>
#include <cstring>

namespace kervo {

namespace {

class WithoutCrossings : public XSAlgo_AlgoContainer {
 public:
  TopoDS_Shape ProcessShape(const TopoDS_Shape& shape, const Standard_Real precision, const Standard_Real loosest,
                            const Standard_CString file, const Standard_CString sequence,
                            Handle(Standard_Transient) & info, const Message_ProgressRange& range,
                            const Standard_Boolean nonManifold) const override {
    if (shape.IsNull() || std::strcmp(sequence, "read.step.sequence") != 0)
      return XSAlgo_AlgoContainer::ProcessShape(shape, precision, loosest, file, sequence, info, range, nonManifold);
    Handle(ShapeProcess_ShapeContext) context = new ShapeProcess_ShapeContext(shape, "", "");
    context->SetDetalisation(TopAbs_EDGE);
    Handle(ShapeBuild_ReShape) changes = new ShapeBuild_ReShape;
    ShapeFix_Shape fix;
    fix.SetContext(changes);
    fix.Init(shape);
    fix.SetPrecision(precision);
    fix.SetMaxTolerance(loosest);
    fix.FixWireTool()->FixSelfIntersectionMode() = 0;
    fix.Perform(range);
    context->RecordModification(changes);
    context->SetResult(fix.Shape());
    info = context;
    return context->Result();
  }
};

}  // namespace

PlainHealing::PlainHealing() : usual_(XSAlgo::AlgoContainer()) {
  Handle(XSAlgo_AlgoContainer) plain = new WithoutCrossings;
  plain->SetToolContainer(usual_->ToolContainer());
  XSAlgo::SetAlgoContainer(plain);
}

PlainHealing::~PlainHealing() {
  XSAlgo::SetAlgoContainer(usual_);
}

}  // namespace kervo
