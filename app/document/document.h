#pragma once

#include "session/piece_guard.h"
#include "session/workspace.h"

#include <QHash>
#include <QObject>
#include <QString>
#include <QUndoStack>
#include <functional>
#include <optional>

namespace wirenote::app {

// Edits of one kind about the same thing, one right after the other, are undone together.
enum class Merge { No, Start, End, Fret, Pitch, Meant, TakeShift };
struct MergeKey {
    Merge kind = Merge::No;
    NoteId of = 0; // a note; of TakeShift: the index of a take
    bool operator==(const MergeKey&) const = default;
};

// What takes much away when it is undone is asked about.
enum class Undoing { Freely, Asks };

// The open piece on the interface thread: its undo stack and its file. What follows from the piece
// is worked out elsewhere (Derived).
class Document : public QObject {
    Q_OBJECT
  public:
    explicit Document(QObject* parent = nullptr);

    bool isOpen() const { return m_open; }
    const Piece& piece() const { return m_piece; }
    // What is written down: as played, or with slips put right.
    Piece written() const;
    bool slipsPutRight() const { return m_put_right; }
    void putSlipsRight(bool on);
    // The open media of a take; null when its recording is missing or it has none.
    const TakeMedia* media(std::size_t take) const;
    void addMedia(const QString& path, int sound_stream, TakeMedia media);
    QString file() const { return m_file; } // empty: never saved
    QUndoStack& undoStack() { return m_undo; }
    bool modified() const { return m_open && !m_undo.isClean(); }
    double length_s() const;

    void open(OpenedPiece opened);

    // Runs an edit and puts it on the undo stack. False when it was refused (signal refused).
    bool edit(const QString& label,
              double around_s,
              const std::function<Status(PieceEditor&)>& change,
              Resolve resolve = Resolve::Neighbourhood,
              MergeKey merge = {},
              Undoing undoing = Undoing::Freely);
    // One step back, or the question whether to (signal undoAsked).
    void undo();
    void undoSurely() { m_undo.undo(); }
    // Puts a difference made elsewhere (in a job) on the undo stack: true when the piece is still
    // what it was at that revision, otherwise nothing happens.
    bool
    adopt(const QString& label, PieceDelta delta, int revision, Undoing undoing = Undoing::Freely);
    int revision() const { return m_revision; } // another one after every change

    // Refuses (Conflict) what would write over a change by another program or window.
    enum class Overwrite { Refuse, Allow };
    Status save(const QString& path, Overwrite overwrite = Overwrite::Refuse);
    const std::string& fileState() const { return m_file_state; } // as it was read or saved
    // Where locks of open pieces are kept; before anything is opened.
    void setLockFolder(const std::filesystem::path& folder) { m_lock_folder = folder; }
    bool heldElsewhere() const { return m_held_elsewhere; }  // another window has the same file
    void applyDelta(const PieceDelta& delta, bool forwards); // for the undo commands

  signals:
    void opened();                     // another piece
    void changed(const Changes& what); // the same piece, edited
    void writingChanged();             // whether slips are put right where it is written down
    void saved();
    void refused(const QString& sentence);
    void undoAsked(const QString& label); // of the step that takes much away
    void followed(int notes);             // so many other notes moved with the last edit
    void stepped(const PieceDelta& delta, bool forwards); // an edit was done, or undone

  private:
    void hold(); // the lock of the piece's file

    bool m_open = false;
    int m_revision = 0;
    bool m_put_right = false;
    Piece m_piece;
    QHash<QString, TakeMedia> m_media; // by path and stream: undo may bring a take back
    QString m_file;
    std::string m_file_state;
    std::filesystem::path m_lock_folder;
    std::optional<PieceLock> m_lock;
    bool m_held_elsewhere = false;
    QUndoStack m_undo;
};

} // namespace wirenote::app
