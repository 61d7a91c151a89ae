#include "app/shop/flat_out_dialog.h"

#include <QFileDialog>
#include <QHBoxLayout>
#include <QPointer>
#include <QSettings>
#include <QStyle>
#include <QVBoxLayout>

#include "app/file_filters.h"
#include "app/look.h"
#include "app/shop/cutter_panel.h"
#include "app/texts.h"
#include "exchange/formats.h"
#include "shop/section_picture.h"

namespace kervo::app {

FlatOutDialog::FlatOutDialog(Desk& desk, const QString& title, QWidget* parent)
    : QDialog(parent),
      desk_(desk),
      form_(new QFormLayout),
      view_(new FlatView),
      notes_(new QLabel),
      pages_(new QComboBox),
      write_(new QPushButton(tr("Write …"))) {
  setWindowTitle(title);
  notes_->setWordWrap(true);
  notes_->setTextInteractionFlags(Qt::TextSelectableByMouse);
  pages_->setAccessibleName(tr("Sheet"));
  buttons_ = new QDialogButtonBox;
  buttons_->addButton(write_, QDialogButtonBox::ActionRole);
  buttons_->addButton(QDialogButtonBox::Close);
  write_->setDefault(true);
  auto* left = new QVBoxLayout;
  left->addLayout(form_);
  left->addWidget(pages_);
  left->addWidget(notes_);
  left->addStretch();
  left->addWidget(buttons_);
  auto* all = new QHBoxLayout(this);
  all->addLayout(left, 1);
  all->addWidget(view_, 3);
  resize(900, 560);
  soon_.setSingleShot(true);
  soon_.setInterval(250);
  connect(&soon_, &QTimer::timeout, this, &FlatOutDialog::make);
  connect(buttons_, &QDialogButtonBox::rejected, this, &QDialog::reject);
  connect(pages_, &QComboBox::currentIndexChanged, this, &FlatOutDialog::showPage);
  connect(write_, &QPushButton::clicked, this, [this] {
    const QString path = QFileDialog::getSaveFileName(this, windowTitle(), QString(), pictureFilters());
    if (path.isEmpty()) return;
    // A name without an ending becomes a DXF.
    writeTo(formatOf(path.toStdString()) ? path : path + QStringLiteral(".dxf"));
  });
  write_->setEnabled(false);
  again();
}

QLineEdit* FlatOutDialog::addLine(const QString& name, const QString& text) {
  auto* line = new QLineEdit(text);
  line->setAccessibleName(name);
  form_->addRow(name, line);
  connect(line, &QLineEdit::textChanged, this, &FlatOutDialog::again);
  return line;
}

double FlatOutDialog::lengthIn(const QLineEdit* line) const {
  const NumberWanted wanted{lengthDimension, NumberRule::NotNegative};
  const Expression text(line->text().trimmed().toStdString());
  const QString problem = problemOf(wanted, text, desk_.session.document(), desk_.session.dimensions());
  const auto value = valueOf(wanted, text, desk_.session.document(), desk_.session.dimensions());
  if (!problem.isEmpty() || !value)
    throw errorOf(problem.isEmpty() ? tr("it has no value") : problem, line->accessibleName(), tr("Write a length"));
  return *value;
}

void FlatOutDialog::make() {
  const int number = ++newest_;
  write_->setEnabled(false);
  std::function<Result(Progress&)> wanted;
  const auto refuse = [this](const Error& error) {
    notes_->setText(QString::fromStdString(error.what()));
    view_->setHint(tr("nothing to be written"));
    pages_->hide();
  };
  try {
    wanted = work();
  } catch (const Error& error) {
    return refuse(error);
  }
  notes_->setText(tr("being laid out …"));
  const QPointer<FlatOutDialog> dialog(this);
  desk_.worker.run(
      windowTitle(),
      [dialog, wanted, number, refuse](Progress& progress) -> Worker::Then {
        try {
          const Result result = wanted(progress);
          return [dialog, result, number] {
            if (dialog && dialog->newest_ == number) dialog->showResult(result);
          };
        } catch (const Error& error) {
          return [dialog, error, number, refuse] {
            if (dialog && dialog->newest_ == number) refuse(error);
          };
        }
      },
      [dialog](const std::optional<Error>& error) {
        if (dialog && error) emit dialog->failed(*error);
      });
}

void FlatOutDialog::showResult(const Result& result) {
  result_ = result;
  {
    const QSignalBlocker still(pages_);
    pages_->clear();
    for (std::size_t i = 0; i < result.pictures.size(); ++i)
      pages_->addItem(QString::fromStdString(result.pictures[i].title));
  }
  pages_->setVisible(result.pictures.size() > 1);
  notes_->setText(result.notes.join('\n'));
  showPage(0);
  write_->setEnabled(true);
}

void FlatOutDialog::showPage(int page) {
  if (page >= 0 && static_cast<std::size_t>(page) < result_.pictures.size())
    view_->setPicture(result_.pictures[static_cast<std::size_t>(page)]);
}

void FlatOutDialog::writeTo(const QString& path) {
  const QPointer<FlatOutDialog> dialog(this);
  desk_.worker.run(
      tr("Writing"),
      [dialog, write = result_.write, path](Progress& progress) -> Worker::Then {
        QStringList names;
        for (const auto& each : write(path.toStdString(), progress)) names << QString::fromStdString(each.string());
        return [dialog, names] {
          if (!dialog) return;
          emit dialog->told(names.size() == 1 ? tr("Wrote %1").arg(names.front().section('/', -1))
                                              : tr("Wrote %1 files").arg(names.size()));
          dialog->paths_ = names;
          if (dialog->play_) dialog->play_->setEnabled(!names.front().endsWith(QLatin1String(".pdf")));
          emit dialog->written(names);
        };
      },
      [dialog](const std::optional<Error>& error) {
        if (!dialog || !error) return;
        dialog->notes_->setText(QString::fromStdString(error->what()));
        emit dialog->failed(*error);
      });
}

void FlatOutDialog::offerToPlay() {
  play_ = buttons_->addButton(tr("Play the cuts"), QDialogButtonBox::ActionRole);
  play_->setToolTip(tr("In the simulated cutter, once they are written as DXF or SVG"));
  play_->setEnabled(false);
  connect(play_, &QPushButton::clicked, this, &FlatOutDialog::playCuts);
}

void FlatOutDialog::playCuts() {
  auto* panel = new CutterPanel(this);
  panel->setWindowFlag(Qt::Window);
  panel->setAttribute(Qt::WA_DeleteOnClose);
  panel->resize(1000, 640);
  const int page = std::clamp(pages_->currentIndex(), 0, static_cast<int>(paths_.size()) - 1);
  try {
    panel->open(paths_[page]);
  } catch (const Error& error) {
    delete panel;
    notes_->setText(QString::fromStdString(error.what()));
    return;
  }
  panel->show();
}

SheetsDialog::SheetsDialog(Desk& desk, std::vector<Body> bodies, QWidget* parent)
    : FlatOutDialog(desk, tr("Cut sheets"), parent),
      bodies_(std::move(bodies)),
      width_(addKept(tr("Sheet width"), "600 mm", "sheet/width")),
      height_(addKept(tr("Sheet height"), "400 mm", "sheet/height")),
      spacing_(addKept(tr("Spacing"), "3 mm", "sheet/spacing")),
      kerf_(addKept(tr("Kerf"), "0.2 mm", "sheet/kerf")) {
  offerToPlay();
}

QLineEdit* SheetsDialog::addKept(const QString& name, const QString& first, const QString& key) {
  QLineEdit* line = addLine(name, QSettings().value(key, first).toString());
  kept_.emplace_back(line, key);
  return line;
}

std::function<FlatOutDialog::Result(Progress&)> SheetsDialog::work() {
  const SheetOrder order{
      .width = lengthIn(width_), .height = lengthIn(height_), .spacing = lengthIn(spacing_), .kerf = lengthIn(kerf_)};
  // All of them are lengths: the next sheets begin with them.
  for (const auto& [line, key] : kept_) QSettings().setValue(key, line->text());
  return [bodies = bodies_, order](Progress& progress) {
    const ShopParts parts = shopParts(bodies, progress);
    const auto sheets = std::make_shared<const CutSheets>(cutSheets(parts.parts, order, progress));
    Result result;
    std::size_t count = 0;
    double used = 0;
    for (const CutSheets::Sheet& sheet : sheets->sheets) {
      result.pictures.push_back(sheet.picture);
      count += sheet.parts.size();
      used += sheet.used / static_cast<double>(sheets->sheets.size());
    }
    const QString share = QString::number(100 * used, 'f', 1);
    result.notes << (sheets->sheets.size() == 1
                         ? tr("%1 parts on one sheet, %2 % used").arg(count).arg(share)
                         : tr("%1 parts on %2 sheets, %3 % used").arg(count).arg(sheets->sheets.size()).arg(share));
    for (const std::string& note : sheets->notes) result.notes << QString::fromStdString(note);
    result.write = [sheets](const std::filesystem::path& path, Progress& writing) {
      return writeSheets(path, *sheets, writing);
    };
    return result;
  };
}

SectionOutDialog::SectionOutDialog(Desk& desk, QWidget* parent)
    : FlatOutDialog(desk, tr("Draw a section"), parent), section_(new QComboBox) {
  section_->setAccessibleName(tr("Section"));
  for (const SectionDesk::Entry& entry : desk.sections.entries())
    section_->addItem(desk.sections.titleOf(entry.id), QString::fromStdString(entry.id.text()));
  const int current = section_->findData(QString::fromStdString(desk.sections.current().text()));
  if (current >= 0) section_->setCurrentIndex(current);
  form().addRow(tr("Section"), section_);
  connect(section_, &QComboBox::currentIndexChanged, this, &SectionOutDialog::again);
  scale_ = addLine(tr("Scale"), "1:1");
}

std::function<FlatOutDialog::Result(Progress&)> SectionOutDialog::work() {
  const std::string id = section_->currentData().toString().toStdString();
  const auto made = desk().session.made();
  const auto& sections = made->model->sections;
  const auto found =
      std::find_if(sections.begin(), sections.end(), [&](const StepReport& each) { return each.id == id; });
  if (found == sections.end() || !found->result || !found->result->section)
    throw errorOf(tr("there is no section that cuts"), {}, tr("Add a section by a plane first"));
  const PaperOrder order{.name = desk().sections.titleOf(id).toStdString(),
                         .scale = scaleFrom(scale_->text().trimmed().toStdString())};
  return [made, cut = found->result->section, order](Progress& progress) {
    const auto drawn = std::make_shared<const SectionPicture>(sectionPicture(*made->model, *cut, order, progress));
    Result result;
    result.pictures = {drawn->picture};
    result.notes
        << tr("%1 bodies cut, %2").arg(drawn->bodies.size()).arg(areaText(drawn->area))
        << tr("%1 × %2 mm on paper").arg(drawn->picture.width, 0, 'f', 0).arg(drawn->picture.height, 0, 'f', 0);
    result.write = [drawn](const std::filesystem::path& path, Progress& writing) {
      writePicture(path, drawn->picture, writing);
      return std::vector<std::filesystem::path>{path};
    };
    return result;
  };
}

}  // namespace kervo::app
