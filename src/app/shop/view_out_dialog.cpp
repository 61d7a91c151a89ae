#include "app/shop/view_out_dialog.h"

#include "app/selection.h"
#include "app/texts.h"
#include "shop/view_picture.h"

namespace kervo::app {

ViewOutDialog::ViewOutDialog(Desk& desk, SavedView now, QWidget* parent)
    : FlatOutDialog(desk, tr("Draw a view"), parent), view_(new QComboBox), hidden_(new QCheckBox(tr("hidden edges"))) {
  views_ = desk.session.document().seen.views;
  views_.insert(views_.begin(), std::move(now));
  view_->setAccessibleName(tr("View"));
  for (const SavedView& each : views_) view_->addItem(QString::fromStdString(each.name));
  form().addRow(tr("View"), view_);
  connect(view_, &QComboBox::currentIndexChanged, this, &ViewOutDialog::again);
  scale_ = addLine(tr("Scale"), "1:1");
  hidden_->setChecked(true);
  form().addRow(QString(), hidden_);
  connect(hidden_, &QCheckBox::toggled, this, &ViewOutDialog::again);
}

std::function<FlatOutDialog::Result(Progress&)> ViewOutDialog::work() {
  const SavedView view = views_[static_cast<std::size_t>(std::max(0, view_->currentIndex()))];
  ViewPictureOrder order;
  order.name = view.id.empty() ? std::string() : view.name;
  order.scale = scaleFrom(scale_->text().trimmed().toStdString());
  order.hidden = hidden_->isChecked();
  const auto made = desk().session.made();
  return [made, view, order](Progress& progress) {
    const auto drawn =
        std::make_shared<const ViewPicture>(viewPicture(made->document, *made->model, view, order, progress));
    Result result;
    result.pictures = {drawn->picture};
    result.notes << tr("%1 bodies, %2 × %3 mm on paper")
                        .arg(drawn->bodies.size())
                        .arg(drawn->picture.width, 0, 'f', 0)
                        .arg(drawn->picture.height, 0, 'f', 0);
    for (const std::string& note : drawn->notes) result.notes << QString::fromStdString(note);
    result.write = [drawn](const std::filesystem::path& path, Progress& writing) {
      writePicture(path, drawn->picture, writing);
      return std::vector<std::filesystem::path>{path};
    };
    return result;
  };
}

}  // namespace kervo::app
