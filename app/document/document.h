#pragma once

#include "session/piece_guard.h"
#include "session/workspace.h"

#include <QHash>
#include <QObject>
#include <QString>
#include <QUndoStack>
#include <functional>
#include <memory>
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
    // The piece in the reading that is shown, as the one it is played in.
    const Piece& piece() const { return m_view ? *m_view : m_piece; }
    // With all its readings: what is saved, and what jobs that change it start from.
    const Piece& whole() const { return m_piece; }
    std::size_t reading() const { return m_reading; } // that is shown, into whole().readings
    void showReading(std::size_t reading);
    // What the shown reading is held against, with notes of the same numbers; null: nothing.
    const Piece* compared() const { return m_compared.get(); }
    void compareWith(std::shared_ptr<const Piece> other);
    // Who decides what is decided from now on, and why, in this person's words (of the next edit
    // only).
    void setWho(const QString& who) { m_who = who; }
    QString who() const { return m_who; }
    void because(const QString& remark) { m_remark = remark; }
    // What is written down: the reading that is shown, or with slips put right.
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

    // Runs an edit and puts it on the undo stack. False when it was refused (signal refused). An
    // edit of notes (which concerns a neighbourhood) is done in the reading that is shown; of the
    // rest, what concerns hands.
    bool edit(const QString& label,
              double around_s,
              const std::function<Status(PieceEditor&)>& change,
              Resolve resolve = Resolve::Neighbourhood,
              MergeKey merge = {},
              Undoing undoing = Undoing::Freely);
    // The same for an edit of notes that concerns more than a neighbourhood, or of what stands
    // otherwise in another key: on what is shown, so that what was played stays.
    bool editShown(const QString& label,
                   double around_s,
                   const std::function<Status(PieceEditor&)>& change,
                   Resolve resolve,
                   MergeKey merge = {});
    // One step back, or the question whether to (signal undoAsked).
    void undo();
    void undoSurely() { m_undo.undo(); }
    // Puts a difference made elsewhere (in a job) on the undo stack: true when the piece is still
    // what it was at that revision, otherwise nothing happens.
    bool
    adopt(const QString& label, PieceDelta delta, int revision, Undoing undoing = Undoing::Freely);
    // The shown reading was written to a file. Kept with the next save.
    void noteExport(const QString& path);
    // Another state of the whole piece, made from the present one, as one step to undo.
    void replace(const QString& label, const Piece& after);
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
    void comparedChanged();
    void readingShown(); // another one: everything of the piece may look different
    // What a job found was put into the piece: as it was before, for who shows what that changed.
    void adopted(const QString& label, const std::shared_ptr<const Piece>& before);
    void writingChanged(); // whether slips are put right where it is written down
    void saved();
    void refused(const QString& sentence);
    void undoAsked(const QString& label); // of the step that takes much away
    void followed(int notes);             // so many other notes moved with the last edit
    void stepped(const PieceDelta& delta, bool forwards); // an edit was done, or undone

  private:
    void hold(); // the lock of the piece's file
    bool take(const QString& label,
              Result<EditOutcome> outcome,
              MergeKey merge,
              Undoing undoing); // onto the undo stack
    // With who decides, and why.
    std::function<Status(PieceEditor&)> signedBy(const std::function<Status(PieceEditor&)>& change);
    void refreshView();
    Changes everything() const;

    bool m_open = false;
    int m_revision = 0;
    bool m_put_right = false;
    Piece m_piece;
    std::size_t m_reading = 0;
    std::optional<Piece> m_view; // in that reading; none: it is the first
    std::shared_ptr<const Piece> m_compared;
    QString m_who;
    QString m_remark; // to the next edit
    QHash<QString, TakeMedia> m_media; // by path and stream: undo may bring a take back
    QString m_file;
    std::string m_file_state;
    std::filesystem::path m_lock_folder;
    std::optional<PieceLock> m_lock;
    bool m_held_elsewhere = false;
    QUndoStack m_undo;
};

} // namespace wirenote::app
