#include "app/benches/sheet/style_choice.h"

#include "app/kept_entries.h"
#include "formats/sheet_style_fields.h"

#include <QHBoxLayout>
#include <algorithm>
#include <vector>

namespace wirenote::app {
namespace {

constexpr const char* kList = "sheetStyles"; // in the settings

struct Style {
    QString name;
    SheetStyle style;
};

SheetStyle bare() {
    SheetStyle style;
    style.fingers = style.positions = style.strokes = style.chords = false;
    style.doubts = style.exactness = false;
    return style;
}

SheetStyle forLearners() {
    SheetStyle style;
    style.count = style.grips = style.holds = true;
    return style;
}

SheetStyle forTheStand() {
    SheetStyle style = bare();
    style.size = SheetSize::Stand;
    style.repeats = SheetRepeats::Signs;
    style.chords = true;
    style.key_to_signs = false;
    return style;
}

SheetStyle forReaders() {
    SheetStyle style;
    style.staves = SheetStaves::TabAndStaff;
    style.repeats = SheetRepeats::Signs;
    return style;
}

// Everything that is known and how: for who goes on working at it.
SheetStyle forTheTranscriber() {
    SheetStyle style;
    style.basis = style.count = true;
    return style;
}

std::vector<Style> usual() {
    return {{StyleChoice::tr("hand-out"), {}},
            {StyleChoice::tr("for learners"), forLearners()},
            {StyleChoice::tr("for the stand"), forTheStand()},
            {StyleChoice::tr("for readers of notation"), forReaders()},
            {StyleChoice::tr("for the transcriber"), forTheTranscriber()},
            {StyleChoice::tr("numbers and rhythm alone"), bare()}};
}

QString wordsOf(const SheetStyle& style) {
    return QString::fromStdString(writeSheetStyle(style));
}

// What was kept earlier; what this version does not know is passed over.
std::vector<Style> keptIn(QSettings& settings) {
    std::vector<Style> all;
    for (const KeptEntry& kept : keptEntries(settings, kList))
        if (const auto style = readSheetStyle(kept.words.toStdString()))
            all.push_back({kept.name, *style});
    return all;
}

} // namespace

StyleChoice::StyleChoice(QSettings& settings, QWidget* parent)
    : QWidget(parent), m_settings(settings), m_styles(new QComboBox) {
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    setFocusProxy(m_styles);
    m_styles->setObjectName("sheetStyles");
    m_styles->setAccessibleName(tr("Style of the sheet"));
    constexpr int kLetters = 8; // that are always seen of a name
    m_styles->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    m_styles->setMinimumContentsLength(kLetters);
    row->addWidget(m_styles, 1);
    auto* more = new QToolButton;
    more->setObjectName("moreOfStyles");
    more->setText(tr("Keep"));
    more->setAccessibleName(tr("Keep this style, or keep it no more"));
    more->setPopupMode(QToolButton::InstantPopup);
    more->setFocusPolicy(Qt::StrongFocus);
    auto* menu = new QMenu(more);
    QAction* keep_it = menu->addAction(tr("Keep as a style of your own …"));
    keep_it->setObjectName("keepStyle");
    connect(keep_it, &QAction::triggered, this, &StyleChoice::keep);
    m_forget = menu->addAction(tr("Do not keep this style any more"));
    m_forget->setObjectName("forgetStyle");
    connect(m_forget, &QAction::triggered, this, &StyleChoice::forget);
    more->setMenu(menu);
    row->addWidget(more);
    connect(m_styles, &QComboBox::activated, this, [this] {
        if (const auto style = readSheetStyle(m_styles->currentData().toString().toStdString()))
            emit chosen(*style);
    });
    fill();
}

void StyleChoice::show(const SheetStyle& style) {
    if (style == m_now)
        return;
    m_now = style;
    fill();
}

void StyleChoice::fill() {
    m_styles->clear();
    for (const Style& one : usual())
        m_styles->addItem(one.name, wordsOf(one.style));
    const auto kept = keptIn(m_settings);
    for (const Style& one : kept)
        m_styles->addItem(one.name, wordsOf(one.style));
    if (m_styles->findData(wordsOf(m_now)) < 0)
        m_styles->addItem(tr("as chosen below"), wordsOf(m_now));
    m_styles->setCurrentIndex(m_styles->findData(wordsOf(m_now)));
    m_forget->setEnabled(std::ranges::find(kept, m_now, &Style::style) != kept.end());
}

void StyleChoice::keep() {
    const QString name = askForName(this, tr("A style of your own"), {});
    if (name.isEmpty())
        return;
    keepEntry(m_settings, kList, {name, wordsOf(m_now)});
    fill();
}

void StyleChoice::forget() {
    forgetEntry(m_settings, kList, wordsOf(m_now));
    fill();
}

} // namespace wirenote::app
