#include "app/document/kept_work.h"

#include "app/banner.h"
#include "app/document/document.h"
#include "app/document/journal_keeper.h"
#include "app/text/wording.h"

#include <QDateTime>
#include <QDialog>
#include <QDialogButtonBox>
#include <QFileInfo>
#include <QListWidget>
#include <QPushButton>
#include <QVBoxLayout>
#include <system_error>

namespace wirenote::app {
namespace {

constexpr int kJournalRole = Qt::UserRole;

QString lineFor(const Recoverable& kept) {
    const QString file = QString::fromStdString(kept.header.piece_file);
    const QString name =
        file.isEmpty() ? KeptWork::tr("a piece that was never saved") : QFileInfo(file).fileName();
    const QString when =
        QLocale().toString(QFileInfo(QString::fromStdString(kept.journal.string())).lastModified(),
                           QLocale::ShortFormat);
    return KeptWork::tr("%1, last changed %2, %3")
        .arg(name,
             when,
             countText(kept.steps,
                       QT_TRANSLATE_NOOP("wording", "%1 change that is not saved"),
                       QT_TRANSLATE_NOOP("wording", "%1 changes that are not saved")));
}

} // namespace

KeptWork::KeptWork(Document& document, JournalKeeper& keeper, Banner& banner, QWidget* window)
    : QObject(window), m_document(document), m_keeper(keeper), m_banner(banner), m_window(window) {}

bool KeptWork::offer() {
    const auto kept = m_keeper.kept();
    if (kept.empty())
        return false;
    auto* dialog = new QDialog(m_window);
    dialog->setObjectName("keptWork");
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->setWindowTitle(tr("Work that was kept"));
    auto* column = new QVBoxLayout(dialog);
    auto* words = new QLabel(tr("Wirenote ended before this was saved. Everything up to the last "
                                "change is here."));
    words->setWordWrap(true);
    column->addWidget(words);
    auto* list = new QListWidget;
    list->setObjectName("keptList");
    list->setAccessibleName(tr("Work that was kept"));
    for (const Recoverable& one : kept) {
        auto* item = new QListWidgetItem(lineFor(one), list);
        item->setData(kJournalRole, QString::fromStdString(one.journal.string()));
    }
    list->setCurrentRow(0);
    list->setMinimumSize(620, 120);
    list->setWordWrap(true);
    list->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    column->addWidget(list, 1);
    auto* buttons = new QDialogButtonBox;
    auto* open_it = buttons->addButton(tr("Open it"), QDialogButtonBox::AcceptRole);
    auto* away = buttons->addButton(tr("Throw it away"), QDialogButtonBox::DestructiveRole);
    buttons->addButton(tr("Later"), QDialogButtonBox::RejectRole);
    open_it->setDefault(true);
    column->addWidget(buttons);
    const auto chosen = [list] {
        const auto* item = list->currentItem();
        return item ? std::filesystem::path(item->data(kJournalRole).toString().toStdString())
                    : std::filesystem::path();
    };
    connect(buttons, &QDialogButtonBox::accepted, dialog, [this, dialog, chosen] {
        const auto journal = chosen();
        dialog->close();
        emit wanted([this, journal] { open(journal); });
    });
    connect(list, &QListWidget::itemActivated, buttons, &QDialogButtonBox::accepted);
    connect(buttons, &QDialogButtonBox::rejected, dialog, &QDialog::close);
    connect(away, &QPushButton::clicked, dialog, [this, dialog, list, chosen] {
        throwAway(chosen());
        delete list->takeItem(list->currentRow());
        if (list->count() == 0)
            dialog->close();
    });
    dialog->open();
    list->setFocus();
    return true;
}

void KeptWork::open(const std::filesystem::path& journal) {
    auto kept = openKept(journal);
    if (!kept) {
        m_banner.say(sentence(kept.error()));
        return;
    }
    const QString caution = QString::fromStdString(kept->caution);
    m_keeper.replaces(journal);
    m_document.open(std::move(*kept));
    m_banner.say(caution.isEmpty()
                     ? tr("Opened as it was. Save it when it is as you want it.")
                     : tr("Opened as it was. Save it when it is as you want it. %1").arg(caution));
}

void KeptWork::throwAway(const std::filesystem::path& journal) {
    std::error_code code;
    std::filesystem::remove(journal, code);
}

} // namespace wirenote::app
