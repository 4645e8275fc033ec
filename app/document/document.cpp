#include "app/document/document.h"

#include "app/text/wording.h"
#include "base/atomic_file.h"
#include "piece/in_reading.h"
#include "session/exporting.h"
#include "session/files.h"
#include "session/other_readings.h"
#include "session/resolve.h"

#include <QUndoCommand>
#include <algorithm>
#include <utility>

namespace wirenote::app {
namespace {

class DeltaCommand : public QUndoCommand {
  public:
    DeltaCommand(
        Document& document, const QString& label, PieceDelta delta, MergeKey merge, Undoing undoing)
        : QUndoCommand(label), m_document(document), m_merge(merge), m_undoing(undoing) {
        m_deltas.push_back(std::move(delta));
    }
    // Qt offers only commands of one id to each other; −1: none.
    int id() const override {
        return m_merge.kind == Merge::No ? -1 : static_cast<int>(m_merge.kind);
    }
    Undoing undoing() const { return m_undoing; }
    bool mergeWith(const QUndoCommand* other) override {
        const auto* next = dynamic_cast<const DeltaCommand*>(other);
        if (!next || next->m_merge != m_merge)
            return false;
        m_deltas.insert(m_deltas.end(), next->m_deltas.begin(), next->m_deltas.end());
        return true;
    }
    void redo() override {
        for (const PieceDelta& delta : m_deltas)
            m_document.applyDelta(delta, true);
    }
    void undo() override {
        for (auto delta = m_deltas.rbegin(); delta != m_deltas.rend(); ++delta)
            m_document.applyDelta(*delta, false);
    }

  private:
    Document& m_document;
    MergeKey m_merge;
    Undoing m_undoing;
    std::vector<PieceDelta> m_deltas;
};

Changes both(Changes a, const Changes& b) {
    a.takes |= b.takes;
    a.title |= b.title;
    a.papers |= b.papers;
    a.lesson |= b.lesson;
    return a;
}

QString mediaKey(const QString& path, int sound_stream) {
    return QString("%1#%2").arg(path).arg(sound_stream);
}

} // namespace

Document::Document(QObject* parent) : QObject(parent) {}

void Document::refreshView() {
    if (m_reading >= m_piece.readings.size())
        m_reading = 0;
    m_view.reset();
    if (m_reading != 0)
        m_view = inReading(m_piece, m_reading);
}

void Document::showReading(std::size_t reading) {
    if (reading >= m_piece.readings.size() || reading == m_reading)
        return;
    m_reading = reading;
    refreshView();
    emit readingShown();
    emit changed(everything());
}

// Of another reading all may be different: what is shown of the piece, from end to end.
Changes Document::everything() const {
    Changes all;
    all.notes = all.plans = all.timeline = all.instrument = all.misses = all.readings = true;
    all.span = {0.0, length_s() + 1.0};
    return all;
}

void Document::compareWith(std::shared_ptr<const Piece> other) {
    if (other == m_compared)
        return;
    m_compared = std::move(other);
    emit comparedChanged();
}

double Document::length_s() const {
    double length = m_piece.lead() ? m_piece.lead()->length_s : 0.0;
    for (const Note& note : piece().notes)
        length = std::max(length, note.offset_s());
    return length;
}

void Document::open(OpenedPiece opened_piece) {
    ++m_revision;
    m_put_right = false;
    m_piece = std::move(opened_piece.piece);
    m_reading = 0;
    m_view.reset();
    m_compared.reset();
    m_media.clear();
    for (std::size_t i = 0; i < opened_piece.media.size() && i < m_piece.takes.size(); ++i)
        if (opened_piece.media[i].playing)
            m_media.insert(mediaKey(QString::fromStdString(m_piece.takes[i].path),
                                    m_piece.takes[i].sound_stream),
                           std::move(opened_piece.media[i]));
    m_file = QString::fromStdString(opened_piece.file.string());
    m_file_state = opened_piece.file_state;
    hold();
    m_open = true;
    m_undo.clear();
    if (m_file.isEmpty() || opened_piece.unsaved)
        m_undo.resetClean(); // a new transcription is not yet kept anywhere
    emit opened();
}

const TakeMedia* Document::media(std::size_t take) const {
    if (take >= m_piece.takes.size())
        return nullptr;
    const auto at = m_media.constFind(mediaKey(QString::fromStdString(m_piece.takes[take].path),
                                               m_piece.takes[take].sound_stream));
    return at == m_media.constEnd() ? nullptr : &*at;
}

void Document::addMedia(const QString& path, int sound_stream, TakeMedia media) {
    m_media.insert(mediaKey(path, sound_stream), std::move(media));
    Changes what;
    what.takes = true;
    emit changed(what);
}

bool Document::edit(const QString& label,
                    double around_s,
                    const std::function<Status(PieceEditor&)>& change,
                    Resolve resolve,
                    MergeKey merge,
                    Undoing undoing) {
    if (m_reading != 0 && resolve == Resolve::Neighbourhood)
        return editShown(label, around_s, change, resolve, merge);
    return take(
        label, tryEdit(m_piece, around_s, signedBy(change), resolve, m_reading), merge, undoing);
}

bool Document::editShown(const QString& label,
                         double around_s,
                         const std::function<Status(PieceEditor&)>& change,
                         Resolve resolve,
                         MergeKey merge) {
    return take(
        label,
        m_reading == 0 ? tryEdit(m_piece, around_s, signedBy(change), resolve)
                       : tryEditIn(m_piece, m_reading, around_s, signedBy(change), resolve),
        merge,
        Undoing::Freely);
}

std::function<Status(PieceEditor&)>
Document::signedBy(const std::function<Status(PieceEditor&)>& change) {
    const Because why{
        m_who.toStdString(), SetWhy::Unsaid, std::exchange(m_remark, {}).toStdString()};
    return [why, change](PieceEditor& editor) {
        editor.because(why);
        return change(editor);
    };
}

bool Document::take(const QString& label,
                    Result<EditOutcome> outcome,
                    MergeKey merge,
                    Undoing undoing) {
    if (!outcome) {
        emit refused(sentence(outcome.error()));
        return false;
    }
    if (outcome->delta.empty())
        return true;
    m_undo.push(new DeltaCommand(*this, label, std::move(outcome->delta), merge, undoing));
    emit followed(static_cast<int>(outcome->followed.size()));
    return true;
}

void Document::hold() {
    m_lock.reset();
    m_held_elsewhere = false;
    if (m_file.isEmpty() || m_lock_folder.empty())
        return;
    m_lock = PieceLock::take(m_lock_folder, m_file.toStdString());
    m_held_elsewhere = !m_lock;
}

Status Document::save(const QString& path, Overwrite overwrite) {
    const std::string file = path.toStdString();
    for (const Take& take : m_piece.takes)
        if (sameFile(file, take.path))
            return badCall(file + ": is a recording of this piece; give the file another name");
    if (overwrite == Overwrite::Refuse && path == m_file) {
        const std::string now = wirenote::fileState(file);
        if (m_held_elsewhere)
            return Error{ErrorKind::Conflict, file, "is open in another window too"};
        if (!m_file_state.empty() && !now.empty() && now != m_file_state)
            return Error{
                ErrorKind::Conflict, file, "was changed by another program since it was opened"};
    }
    if (const Status written = writeAny(m_piece, file); !written)
        return written;
    m_file_state = wirenote::fileState(file);
    if (path != m_file) {
        m_file = path;
        hold();
    }
    m_undo.setClean();
    emit saved();
    return {};
}

Piece Document::written() const {
    if (m_reading != 0)
        return asReading(m_piece, m_reading);
    return m_put_right ? asMeant(m_piece) : m_piece;
}

void Document::putSlipsRight(bool on) {
    if (on == m_put_right)
        return;
    m_put_right = on;
    emit writingChanged();
}

bool Document::adopt(const QString& label, PieceDelta delta, int revision, Undoing undoing) {
    if (revision != m_revision)
        return false;
    if (delta.empty())
        return true;
    const auto before = std::make_shared<const Piece>(m_piece);
    m_undo.push(new DeltaCommand(*this, label, std::move(delta), MergeKey{}, undoing));
    emit adopted(label, before);
    return true;
}

void Document::noteExport(const QString& path) {
    wirenote::noteExport(m_piece, m_reading, path.toStdString());
    Changes what;
    what.papers = true;
    emit changed(what);
}

void Document::replace(const QString& label, const Piece& after) {
    PieceDelta delta = difference(m_piece, after);
    if (!delta.empty())
        m_undo.push(new DeltaCommand(*this, label, std::move(delta), MergeKey{}, Undoing::Freely));
}

void Document::undo() {
    const QUndoCommand* next = m_undo.canUndo() ? m_undo.command(m_undo.index() - 1) : nullptr;
    const auto* step = dynamic_cast<const DeltaCommand*>(next);
    if (step && step->undoing() == Undoing::Asks)
        emit undoAsked(step->text());
    else
        m_undo.undo();
}

void Document::applyDelta(const PieceDelta& delta, bool forwards) {
    ++m_revision;
    if (forwards)
        apply(delta, m_piece);
    else
        revert(delta, m_piece);
    const std::size_t shown = m_reading;
    refreshView();
    emit stepped(delta, forwards);
    if (m_reading != shown)
        emit readingShown(); // the one that was shown is gone
    emit changed(m_reading != 0 || shown != 0 ? both(everything(), changesOf(delta))
                                              : changesOf(delta));
}

} // namespace wirenote::app
