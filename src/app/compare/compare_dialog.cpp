#include "app/compare/compare_dialog.h"

#include <QDialogButtonBox>
#include <QFileDialog>
#include <QFileInfo>
#include <QHeaderView>
#include <QPointer>
#include <QVBoxLayout>

#include "app/file_filters.h"
#include "app/look.h"
#include "app/scene_maker.h"
#include "app/selection.h"

namespace kervo::app {

namespace {

std::shared_ptr<const BodyPicture> pictureIf(const Shape& shape, Progress& progress) {
  return shape.empty() ? nullptr : pictureOf(BodyForm(shape), progress, Picks::Later);
}

QString howText(const BodyChange& change) {
  switch (change.how) {
    case BodyChange::How::Same:
      return CompareDialog::tr("the same");
    case BodyChange::How::Changed:
      return change.unknown ? CompareDialog::tr("changed: %1").arg(QString::fromStdString(change.unknown->happened()))
                            : CompareDialog::tr("changed");
    case BodyChange::How::Added:
      return CompareDialog::tr("new");
    case BodyChange::How::Removed:
      return CompareDialog::tr("gone");
  }
  return {};
}

}  // namespace

CompareDialog::CompareDialog(Desk& desk, Files& files, QWidget* parent)
    : QDialog(parent), desk_(desk), files_(files), with_(new QComboBox), sum_(new QLabel), list_(new QTreeWidget) {
  setWindowTitle(tr("What changed"));
  with_->setAccessibleName(tr("Compare with"));
  with_->addItem(tr("Before the last change"));
  with_->addItem(tr("As it is on the disk"));
  with_->addItem(tr("A file …"));
  sum_->setWordWrap(true);
  list_->setAccessibleName(tr("Bodies that differ"));
  list_->setRootIsDecorated(false);
  list_->setHeaderLabels({tr("Body"), tr("Added"), tr("Removed"), tr("How")});
  list_->header()->setSectionResizeMode(QHeaderView::ResizeToContents);
  list_->header()->setStretchLastSection(true);
  auto* buttons = new QDialogButtonBox(QDialogButtonBox::Close);
  auto* top = new QHBoxLayout;
  auto* label = new QLabel(tr("Compared &with"));
  label->setBuddy(with_);
  top->addWidget(label);
  top->addWidget(with_, 1);
  auto* all = new QVBoxLayout(this);
  all->addLayout(top);
  all->addWidget(sum_);
  all->addWidget(list_, 1);
  all->addWidget(buttons);
  resize(540, 260);
  connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
  connect(with_, &QComboBox::activated, this, [this](int index) {
    const With with = static_cast<With>(index);
    if (with != With::File) return compareWith(with);
    const QString path = QFileDialog::getOpenFileName(
        this, tr("Compare with"), QString(), filters(Direction::Read, std::nullopt, tr("All that can be read")));
    if (!path.isEmpty()) compareWith(With::File, path);
  });
  connect(list_, &QTreeWidget::currentItemChanged, this, [this](QTreeWidgetItem* item) {
    if (!item) return;
    const QVariant box = item->data(0, Qt::UserRole);
    const QList<QVariant> numbers = box.toList();
    if (numbers.size() != 6) return;
    const auto number = [&](int i) { return numbers[i].toDouble(); };
    emit placeWanted(Box{{number(0), number(1), number(2)}, {number(3), number(4), number(5)}});
  });
  connect(&files_.reader(), &ForeignReader::failed, this, [this](const std::optional<Error>& error) {
    if (busy_) refuse(error ? QString::fromStdString(error->what()) : tr("Reading was stopped"));
  });
  // The model may go on changing while it is open.
  connect(&desk_.session, &Session::modelChanged, this, [this] {
    if (desk_.session.upToDate()) again();
  });
}

void CompareDialog::compareWith(With with, const QString& path) {
  with_->setCurrentIndex(static_cast<int>(with));
  path_ = path;
  if (with == With::File)
    with_->setItemText(static_cast<int>(With::File), tr("File: %1").arg(QFileInfo(path).fileName()));
  again();
}

void CompareDialog::again() {
  switch (static_cast<With>(with_->currentIndex())) {
    case With::LastEdit:
      if (const auto before = desk_.session.before()) return compareDocument(*before);
      return refuse(tr("Nothing was changed yet."));
    case With::Disk:
      if (const auto& disk = desk_.session.onDisk()) return compareDocument(*disk);
      return refuse(tr("It is not on the disk yet."));
    case With::File:
      break;
  }
  busy_ = true;
  const int number = ++newest_;
  sum_->setText(tr("reading …"));
  const QPointer<CompareDialog> dialog(this);
  files_.readToCompare(
      path_,
      [dialog, number](const Document& other) {
        if (dialog && dialog->newest_ == number) dialog->compareDocument(other);
      },
      [dialog, number] {
        if (dialog && dialog->newest_ == number) dialog->refuse(tr("It could not be read."));
      });
}

void CompareDialog::refuse(const QString& why) {
  busy_ = false;
  list_->clear();
  sum_->setText(why);
  emit sceneMade(kervo::app::sceneOf(*desk_.session.made()));
}

void CompareDialog::compareDocument(const Document& other) {
  busy_ = true;
  const int number = ++newest_;
  sum_->setText(tr("comparing …"));
  const QPointer<CompareDialog> dialog(this);
  desk_.worker.run(
      tr("Comparing"),
      [dialog, number, other, made = desk_.session.made(), worker = &desk_.worker](Progress& progress) -> Worker::Then {
        progress.enter(0, 0.4, tr("rebuilding").toStdString());
        const Model before = worker->rebuilt(other, progress);
        progress.enter(0.4, 0.9, tr("comparing").toStdString());
        auto compared = std::make_shared<Compared>();
        compared->now = made;
        compared->changes = compareBodies(before.bodies, made->model->bodies, progress);
        for (const BodyChange& change : compared->changes) {
          compared->added.push_back(pictureIf(change.added, progress));
          compared->removed.push_back(pictureIf(change.removed, progress));
          compared->common.push_back(pictureIf(change.common, progress));
        }
        return [dialog, compared, number] {
          if (dialog && dialog->newest_ == number) dialog->showResult(*compared);
        };
      },
      [dialog, number](const std::optional<Error>& error) {
        if (dialog && dialog->newest_ == number)
          dialog->refuse(error ? QString::fromStdString(error->what()) : tr("Comparing was stopped."));
      });
}

void CompareDialog::showResult(const Compared& compared) {
  busy_ = false;
  list_->clear();
  double added = 0, removed = 0;
  int differ = 0;
  for (const BodyChange& change : compared.changes) {
    if (change.how == BodyChange::How::Same) continue;
    ++differ;
    added += change.volumeAdded;
    removed += change.volumeRemoved;
    const auto volume = [&](double value) { return value > 0 ? volumeText(value) : QStringLiteral("–"); };
    auto* item = new QTreeWidgetItem(
        {QString::fromStdString(change.name), change.unknown ? tr("not known") : volume(change.volumeAdded),
         change.unknown ? tr("not known") : volume(change.volumeRemoved), howText(change)});
    if (change.unknown) item->setToolTip(3, QString::fromStdString(change.unknown->what()));
    for (const int column : {1, 2}) item->setTextAlignment(column, Qt::AlignRight | Qt::AlignVCenter);
    Box box = change.added.empty() ? Box() : change.added.roughBox();
    if (!change.removed.empty()) box.add(change.removed.roughBox());
    if (box.empty()) box = change.after.empty() ? change.before.roughBox() : change.after.roughBox();
    item->setData(0, Qt::UserRole,
                  QList<QVariant>{box.low.x, box.low.y, box.low.z, box.high.x, box.high.y, box.high.z});
    list_->addTopLevelItem(item);
  }
  sum_->setText(differ == 0 ? tr("All %1 bodies are the same.").arg(compared.changes.size())
                            : tr("%1 of %2 bodies differ: %3 added, %4 removed.")
                                  .arg(differ)
                                  .arg(compared.changes.size())
                                  .arg(volumeText(added), volumeText(removed)));
  emit sceneMade(sceneOf(compared));
}

Scene CompareDialog::sceneOf(const Compared& compared) const {
  Scene scene;
  const Model& model = *compared.now->model;
  for (std::size_t i = 0; i < compared.changes.size(); ++i) {
    const BodyChange& change = compared.changes[i];
    const Body* body = model.find(change.id);
    if (body && !body->inSight()) continue;
    const Color color = body ? bodyColor(*body) : Color{0.7, 0.75, 0.75};
    const auto add = [&](const std::shared_ptr<const BodyPicture>& picture, Role role) {
      if (!picture) return;
      SceneBody& shown = scene.bodies.emplace_back(SceneBody{change.id, change.name, picture, color, role});
      shown.pickable = false;
      shown.from = change.id;
    };
    const auto whole = compared.now->pictures.find(change.id);
    const auto picture = whole == compared.now->pictures.end() ? nullptr : whole->second;
    switch (change.how) {
      case BodyChange::How::Same:
        add(picture, Role::Behind);
        break;
      case BodyChange::How::Changed:
        add(change.unknown || !compared.common[i] ? picture : compared.common[i], Role::Plain);
        add(compared.added[i], Role::Added);
        add(compared.removed[i], Role::Waste);
        break;
      case BodyChange::How::Added:
        add(picture, Role::Added);
        break;
      case BodyChange::How::Removed:
        add(compared.removed[i], Role::Waste);
        break;
    }
  }
  return scene;
}

}  // namespace kervo::app
