#include "app/bench/sizes_editor.h"
#include "app/texts.h"

#include <QVBoxLayout>

namespace kervo::app {

SizesEditor::SizesEditor(const SizesField& field, Desk& desk, QWidget* parent)
    : FieldEditor(field, desk, parent), wanted_(field.wanted()) {
  line_ = new ExpressionLine(kindText(field.label()));
  line_->line()->setPlaceholderText(tr("10 mm; 25 mm"));
  auto* all = new QVBoxLayout(this);
  all->setContentsMargins(0, 0, 0, 0);
  all->addWidget(line_);
  setFocusProxy(line_);
  connect(line_, &ExpressionLine::edited, this, [this] { set(sizesIn(line_->line()->text().toStdString())); });
}

void SizesEditor::refresh() {
  const auto& sizes = valueAs<Sizes>();
  // While somebody types, the text stays as it is written.
  if (!(sizesIn(line_->line()->text().toStdString()) == sizes))
    line_->line()->setText(QString::fromStdString(textOf(sizes)));
  QStringList values;
  QString problem;
  for (std::size_t i = 0; i < sizes.each.size(); ++i) {
    const QString hint = valueHint(wanted_, sizes.each[i], desk_);
    if (!hint.isEmpty()) values << hint;
    const QString wrong = problemOf(wanted_, sizes.each[i], desk_.session.document(), desk_.session.dimensions());
    if (problem.isEmpty() && !wrong.isEmpty()) problem = tr("%1: %2").arg(i + 1).arg(wrong);
  }
  line_->setValueText(values.join(" "));
  line_->setProblem(problem);
}

}  // namespace kervo::app
