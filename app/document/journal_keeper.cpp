#include "app/document/journal_keeper.h"

#include "app/document/document.h"
#include "session/files.h"

#include <system_error>

namespace wirenote::app {

JournalKeeper::JournalKeeper(Document& document, std::filesystem::path folder, QObject* parent)
    : QObject(parent), m_document(document), m_folder(std::move(folder)) {
    connect(&m_document, &Document::opened, this, &JournalKeeper::begin);
    connect(&m_document, &Document::stepped, this, [this](const PieceDelta& delta, bool forwards) {
        if (!m_journal)
            return;
        if (m_journal->isLong())
            m_journal->restart(header(true), m_document.whole());
        else
            m_journal->add(delta, forwards);
    });
    connect(&m_document, &Document::saved, this, [this] {
        m_told = false;
        if (m_journal)
            m_journal->restart(header(false), m_document.whole());
    });
    connect(&m_look, &QTimer::timeout, this, &JournalKeeper::look);
    m_look.start(1000);
}

JournalKeeper::~JournalKeeper() = default;

JournalHeader JournalKeeper::header(bool unsaved) const {
    return {m_document.file().toStdString(), m_document.fileState(), nowIso8601(), unsaved};
}

void JournalKeeper::begin() {
    discard();
    m_told = false;
    m_journal =
        std::make_unique<JournalFile>(m_folder, header(!m_replaced.empty()), m_document.whole());
    if (m_replaced.empty())
        return;
    m_journal->flush();
    if (!m_journal->takeProblem()) {
        std::error_code code;
        std::filesystem::remove(m_replaced, code);
    }
    m_replaced.clear();
}

void JournalKeeper::flush() {
    if (m_journal)
        m_journal->flush();
}

void JournalKeeper::discard() {
    if (m_journal)
        m_journal->discard();
    m_journal.reset();
}

void JournalKeeper::look() {
    const auto sentence = m_journal ? m_journal->takeProblem() : std::nullopt;
    if (!sentence || m_told)
        return;
    m_told = true;
    emit problem(
        tr("What you do now cannot be kept safe (%1).").arg(QString::fromStdString(*sentence)));
}

} // namespace wirenote::app
