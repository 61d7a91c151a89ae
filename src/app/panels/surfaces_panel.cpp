#include "app/panels/surfaces_panel.h"

#include "app/look.h"

namespace kervo::app {

std::vector<std::pair<SurfaceShow, QString>> SurfacesPanel::choices() {
  return {{SurfaceShow::Nothing, tr("nothing")},
          {SurfaceShow::Stripes, tr("stripes")},
          {SurfaceShow::Curvature, tr("curvature")},
          {SurfaceShow::Draft, tr("draft")},
          {SurfaceShow::Thickness, tr("thickness")},
          {SurfaceShow::Gaps, tr("gaps")},
          {SurfaceShow::Net, tr("net")}};
}

SurfacesPanel::SurfacesPanel(Desk& desk, QWidget* parent)
    : Panel(tr("Show on surfaces"), "surfaces", parent, true), desk_(desk) {
  constexpr int perRow = 3;
  auto* grid = new QGridLayout;
  grid->setContentsMargins(4, 0, 4, 0);
  grid->setSpacing(4);
  buttons_ = new QButtonGroup(this);
  int number = 0;
  for (const auto& [what, word] : choices()) {
    auto* button = new QToolButton;
    button->setObjectName("segment");
    button->setText(word);
    button->setAccessibleName(tr("Show on surfaces: %1").arg(word));
    button->setCheckable(true);
    button->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    buttons_->addButton(button, static_cast<int>(what));
    grid->addWidget(button, number / perRow, number % perRow);
    ++number;
  }
  content()->addLayout(grid);
  auto* below = new QWidget;
  rows_ = new QGridLayout(below);
  rows_->setContentsMargins(4, 0, 4, 0);
  rows_->setVerticalSpacing(4);
  rows_->setColumnStretch(0, 1);
  axisName_ = new QLabel(tr("along"));
  axis_ = new QComboBox;
  axis_->setAccessibleName(tr("Draft is measured along"));
  for (const char* axis : {"x", "y", "z"}) axis_->addItem(axis);
  rows_->addWidget(axisName_, 0, 0);
  rows_->addWidget(axis_, 0, 1);
  content()->addWidget(below);
  connect(buttons_, &QButtonGroup::idClicked, this,
          [this](int id) { desk_.surfaces.show(static_cast<SurfaceShow>(id)); });
  connect(axis_, &QComboBox::activated, &desk_.surfaces, &SurfaceLooks::setDraftAxis);
  connect(&desk_.surfaces, &SurfaceLooks::changed, this, &SurfacesPanel::refresh);
  refresh();
}

void SurfacesPanel::refresh() {
  const SurfaceShow shown = desk_.surfaces.shown();
  buttons_->button(static_cast<int>(shown))->setChecked(true);
  if (shown != SurfaceShow::Nothing && folded()) setFolded(false);
  axisName_->setVisible(shown == SurfaceShow::Draft);
  axis_->setVisible(shown == SurfaceShow::Draft);
  axis_->setCurrentIndex(desk_.surfaces.draftAxis());
  while (rows_->count() > 2) {
    const std::unique_ptr<QLayoutItem> item(rows_->takeAt(rows_->count() - 1));
    item->widget()->deleteLater();
    item->widget()->hide();
  }
  setNote(desk_.surfaces.finding() ? tr("looking …") : QString());
  int row = 1;
  for (const SurfaceLooks::Row& each : desk_.surfaces.rows()) {
    auto* name = new ElidedLabel(each.name);
    name->setObjectName("dim");
    rows_->addWidget(name, row, 0);
    if (each.place) {
      auto* value = new QToolButton;
      value->setObjectName("link");
      value->setText(each.value);
      value->setAccessibleName(each.name + " " + each.value);
      value->setToolTip(tr("Show where"));
      connect(value, &QToolButton::clicked, this, [this, each] { emit placeWanted(*each.place, each.value); });
      rows_->addWidget(value, row, 1, Qt::AlignRight);
    } else {
      rows_->addWidget(new QLabel(each.value), row, 1, Qt::AlignRight);
    }
    ++row;
  }
}

}  // namespace kervo::app
