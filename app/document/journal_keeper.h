#pragma once

#include "session/journal_file.h"

#include <QObject>
#include <QTimer>
#include <memory>

namespace wirenote::app {

class Document;

// Keeps the journal of the open piece: every edit as it is made, begun anew when the piece is
// saved.
class JournalKeeper : public QObject {
    Q_OBJECT
  public:
    JournalKeeper(Document& document, std::filesystem::path folder, QObject* parent = nullptr);
    ~JournalKeeper() override; // keeps everything

    // What programs that are gone left behind.
    std::vector<Recoverable> kept() const { return recoverableIn(m_folder); }
    void flush();   // returns when all is on the disk
    void discard(); // the piece is saved, or its changes are not wanted
    // Goes when the piece that is opened next is safe in a journal of its own.
    void replaces(const std::filesystem::path& journal) { m_replaced = journal; }

  signals:
    void problem(const QString& sentence);

  private:
    void begin();
    void look();
    JournalHeader header(bool unsaved) const;

    Document& m_document;
    std::filesystem::path m_folder;
    std::filesystem::path m_replaced;
    std::unique_ptr<JournalFile> m_journal;
    QTimer m_look;
    bool m_told = false;
};

} // namespace wirenote::app
