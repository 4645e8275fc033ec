#include "app/benches/takes/strings_choice.h"

#include "app/commands/take_commands.h"
#include "app/text/wording.h"
#include "base/atomic_file.h"

#include <QDesktopServices>
#include <QDir>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QPushButton>
#include <QTimer>
#include <QUrl>

namespace wirenote::app {
namespace {

constexpr std::size_t kMostBytes = 1 << 20;
constexpr int kSettle_ms = 100; // an editor may write in two steps

} // namespace

StringsChoice::StringsChoice(QWidget* parent)
    : QWidget(parent), m_table(shippedStrings()), m_sets(new QComboBox) {
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    m_sets->setObjectName("stringSet");
    m_sets->setAccessibleName(tr("Set of strings"));
    m_sets->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    m_sets->setMinimumContentsLength(6);
    auto* edit = new QPushButton(tr("Table…"));
    edit->setObjectName("stringTable");
    edit->setToolTip(tr("Opens your own copy of the table of strings: gauges, materials and where "
                        "their values come from. It is read again when you save it; delete it to "
                        "go back to the one that ships."));
    row->addWidget(m_sets, 1);
    row->addWidget(edit);
    setFocusProxy(m_sets);
    connect(m_sets, &QComboBox::activated, this, [this](int index) {
        const auto sets = m_table.setsFor(m_shown.kind);
        if (index > 0 && index <= static_cast<int>(sets.size()))
            emit chosen(sets[static_cast<std::size_t>(index - 1)]);
        else
            show(m_shown);
    });
    connect(edit, &QPushButton::clicked, this, &StringsChoice::editOwn);
    const auto changed = [this] {
        QTimer::singleShot(kSettle_ms, this, [this] {
            readTable();
            show(m_shown);
        });
    };
    connect(&m_watcher, &QFileSystemWatcher::fileChanged, this, changed);
    connect(&m_watcher, &QFileSystemWatcher::directoryChanged, this, changed);
    // Who listens to warnings comes later.
    QTimer::singleShot(0, this, [this] {
        readTable();
        show(m_shown);
    });
}

QString StringsChoice::ownTable() {
    return QFileInfo(TakeCommands::profilesFolder()).path() + "/strings.json";
}

void StringsChoice::watch() {
    const QString folder = QFileInfo(ownTable()).path();
    if (QFileInfo::exists(folder) && !m_watcher.directories().contains(folder))
        m_watcher.addPath(folder);
    if (QFileInfo::exists(ownTable()) && !m_watcher.files().contains(ownTable()))
        m_watcher.addPath(ownTable());
}

void StringsChoice::readTable() {
    watch();
    if (!QFileInfo::exists(ownTable())) {
        m_table = shippedStrings();
        return;
    }
    const auto text = readWholeFile(ownTable().toStdString(), kMostBytes);
    auto table = text ? readStringTable(*text) : Result<StringTable>(text.error());
    if (table) {
        m_table = *table;
        return;
    }
    Error error = table.error();
    error.file = ownTable().toStdString();
    emit warned(tr("%1. The table that ships is used until it is put right.").arg(sentence(error)));
    m_table = shippedStrings();
}

void StringsChoice::show(const Instrument& instrument) {
    m_shown = instrument;
    m_sets->clear();
    m_sets->addItem(tr("as typed"));
    const StringSet* here = m_table.matching(instrument);
    for (const StringSet& set : m_table.setsFor(instrument.kind)) {
        m_sets->addItem(QString::fromStdString(set.name));
        m_sets->setItemData(
            m_sets->count() - 1, QString::fromStdString(set.source), Qt::ToolTipRole);
        if (here && here->name == set.name)
            m_sets->setCurrentIndex(m_sets->count() - 1);
    }
}

Status StringsChoice::makeOwn() {
    if (QFileInfo::exists(ownTable()))
        return {};
    QDir().mkpath(QFileInfo(ownTable()).path());
    const Status written = writeFileAtomically(ownTable().toStdString(), shippedStringsText());
    watch();
    return written;
}

void StringsChoice::editOwn() {
    if (const Status made = makeOwn(); !made) {
        emit warned(sentence(made.error()));
        return;
    }
    emit said(tr("Your table of strings is %1. Change it in any text editor.").arg(ownTable()));
    QDesktopServices::openUrl(QUrl::fromLocalFile(ownTable()));
}

} // namespace wirenote::app
