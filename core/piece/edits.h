// What a person can do to a piece. Each edit changes the piece it is given or refuses with one
// sentence; a refused edit changes nothing. The caller keeps the difference for undo, and re-solves
// the neighbourhood. What is decided here has basis "set".
#pragma once

#include "piece/clock_change.h"
#include "piece/decision_text.h"
#include "piece/grip.h"
#include "piece/piece.h"

#include <functional>
#include <optional>
#include <string>

namespace wirenote {

// Who decides what follows, and why.
struct Because {
    std::string who;
    SetWhy why = SetWhy::Unsaid;
    std::string remark;
};

class PieceEditor {
  public:
    // `when` is the time written into the decision log (ISO 8601, UTC). What is decided of places,
    // fingers and strokes is decided in one of the piece's readings; what is decided of notes holds
    // for all of them.
    PieceEditor(Piece& piece, std::string when, std::size_t reading = 0)
        : m_piece(piece), m_when(std::move(when)), m_reading(reading) {}

    // Goes with all that is decided from now on.
    void because(Because because) { m_because = std::move(because); }
    // Why what is set of these notes was set. Error: nothing of them is set.
    Status sayWhy(const std::vector<NoteId>& notes, SetWhy why);
    // Whether it may be left out, or has to land.
    Status setNeed(NoteId id, const Need& need);
    // This doubt stays open on purpose, with a word (which may be empty).
    Status leaveOpen(NoteId id, DoubtKind kind, std::string word);
    Status askAgain(NoteId id); // nothing of it is left open any more

    Status moveToString(NoteId id, int string); // same pitch on another string
    // Likewise, and with which finger (Unknown: that stays open), as a picture of a take's film
    // shows it; which one is kept.
    Status showPlace(NoteId id, std::size_t take, int string, Finger finger, const ShownIn& shown);
    Status setFret(NoteId id, int fret);       // same string, pitch follows
    Status setPitch(NoteId id, int midi);      // the placement is open again
    Status setTime(NoteId id, TimeRange time); // at least 10 ms, not before 0
    Status setFinger(NoteId id, Finger finger);
    Status setStroke(NoteId id, Stroke stroke);
    Status toggleTechnique(NoteId id, Technique technique);
    // Says that the performer slipped, and what was meant; nothing: it is no slip after all.
    Status setSlip(NoteId id, std::optional<Slip> slip);
    Status split(NoteId id, double at_s); // the second half is struck again
    Status joinWithNext(NoteId id);       // the next note is taken into this one
    Result<NoteId> add(TimeRange time, int midi, std::optional<Position> position);
    Status remove(NoteId id);
    Result<NoteId> takeMiss(std::size_t miss); // it was played after all; its string is open
    // Place, finger and stroke of these notes as of this plan, and their techniques: set by a
    // person. Notes that do not lie there stay as they are.
    Status decideLike(const NotePlan& plan,
                      const std::vector<Technique>& techniques,
                      const std::vector<NoteId>& notes);
    // What this stroke held: notes are added on strings that lack them, those on other strings go,
    // frets are put right; set by a person. Not for a stroke of nothing.
    Status setGrip(const std::vector<NoteId>& stroke, const Grip& grip);
    // What sounds from this moment on is called so; an empty name: as it is found.
    Status nameChord(double at_s, const std::string& name);
    // A mark on the sheet, in the place of one of its kind there; and away with those that begin
    // in a stretch.
    Status putMark(const SheetMark& mark);
    Status clearMarks(TimeRange span);
    Status accept(NoteId id);          // it is right as it stands
    Status setReference(double a4_hz); // 380–480 Hz; the notes keep what they sound
    // Takes, by index; 0 leads and its clock is the piece's.
    Status addTake(Take take);
    Status removeTake(std::size_t index); // not the leading one while there are others
    Status changeTake(std::size_t index, const std::function<void(Take&)>& change);
    // Another copy of the performance in the place of a take: its recording, length, quality and
    // reference as of `copy`. What is decided stays and moves with the clock; notes that lie
    // outside the copy of the leading take go. `louder_db`: by how much the copy is louder.
    Status useCopy(std::size_t index, const Take& copy, const ClockChange& clock, double louder_db);
    // What is going on in a stretch of a take (its seconds). Where nobody plays in the leading one,
    // notes that nobody has decided anything of go.
    Status setSoundKind(std::size_t index, TimeRange span, SoundKind kind);
    // Whether what a demonstration of a take shows counts for the piece.
    Status setLearn(std::size_t index, std::size_t demonstration, bool learn);
    // This stretch of the piece is as that take plays it: `played`, in seconds of the piece. Notes
    // that it has too stay, others that nobody has decided anything of go, and what it has more is
    // added; all of it is set by a person. No take: it follows the leading one again, and what was
    // written down stays.
    Status
    follow(TimeRange span, std::optional<std::size_t> take, const std::vector<TakeNote>& played);
    // What was heard in the takes, and what they show, as another state of this piece has it: take
    // by take of the same recording.
    Status adoptShown(const std::vector<Take>& takes);
    // What the film of a take shows: where the neck is, and, as another state of this piece has it,
    // what is seen at each note. What a person showed stays.
    Status adoptFilm(std::size_t take, const FilmFacts& film, const std::vector<Note>& seen);
    // Where the neck lies in one picture of a take's film, given by a person; what was seen in it
    // before is dropped.
    Status giveNeck(std::size_t take, const NeckFrame& frame);
    // What was heard in a span, as a piece of its own: takes the place of what was heard there
    // before. Notes with anything set by a person stay, and heard notes that are the same are left
    // out.
    Status adoptHearing(const Piece& heard, TimeRange span);
    Status setTempo(double bpm);   // evenly spaced beats from the present beat 1
    Status setDownbeat(NoteId id); // this note is "1" of its bar
    // Any change of the pulse (piece/timeline_edits.h), with what it is called in the log and what
    // is no question any more. `renumber`: bars are counted anew from the first note.
    Status changeTimeline(const std::string& what,
                          const std::function<Status(Timeline&)>& change,
                          bool renumber = false,
                          const Settled& says = {});
    // It is right as it was guessed.
    Status settle(const Settled& says);
    // How this very instrument's strings are, one trait each, as a calibration measured them;
    // empty: nobody knows. They stay until the instrument changes.
    Status setStringTraits(std::vector<StringTrait> traits);
    // What it is called and who made it; not without a title.
    Status setAbout(const std::string& title, const About& about);
    Status setKey(KeySignature key); // −6 to 6 fifths
    Status setSheet(const SheetStyle& style);
    // In which voice a note is written; nothing: as it is found.
    Status setVoice(NoteId id, std::optional<Voice> voice);
    // Placements off the new neck are open again; so is a tool that was only guessed.
    Status setInstrument(const Instrument& instrument);
    Status setTool(PluckingTool tool); // what it is played with; not Unknown
    Status setFretting(FrettingManner manner);
    // And the tool that goes with it; Unknown: as the notes say.
    Status setPluckingSchool(PluckingSchool school);
    // Another reading of the same notes, a copy of this one: its places and strokes are then its
    // own.
    Status addReading(std::string name, std::string purpose);
    Status renameReading(std::string name);
    Status removeReading(); // "as played", the first, stays
    // At which tempi this reading is for: 0 to 400 felt beats a minute, in order.
    Status setTempi(TempoRange tempi);
    // What this reading is said to be; nothing: what can be said of it. Whether that may be claimed
    // is for who asks (piece/exactness.h).
    Status setClaim(std::optional<Exactness> claim);
    // This stretch as another reading of the piece has it: places, fingers, strokes, what it leaves
    // out and adds. Not for "as played". Readings at different pitch or on different instruments do
    // not blend.
    Status blend(TimeRange span, std::size_t from, std::string why);
    // The lesson as a person has it now; `what`: what was changed of it, for the log.
    Status setLesson(LessonPlan plan, const std::string& what);
    Status addPaper(PaperScore paper);
    Status removePaper(std::size_t index);
    Status pin(std::size_t paper, const PagePin& pin); // takes the place of that bar's
    Status unpin(std::size_t paper, int bar);

    // Whether an edit asked for a note that is not in the piece.
    bool missedANote() const { return m_missed; }

  private:
    Status located(NoteId id, std::size_t& index);
    void log(std::string what, NoteId id);
    void setBecause(std::size_t i); // of what was set since it was located
    void keepOrder();
    Status checkName(const std::string& name) const; // of a reading: new, and not empty
    Reading& reading() { return m_piece.readings[m_reading]; }
    NotePlan& plan(std::size_t i) { return reading().plans[i]; }
    void settleToo(const Settled& says);
    void openEverywhere(std::size_t i); // the placement, in every reading
    void openWhereItDoesNotSound(std::size_t i, bool but_here);
    void insertNote(std::size_t at, Note note, const std::vector<NotePlan>& plans);
    void eraseNote(std::size_t i);
    void keepNotes(TimeRange span); // those that begin in it
    void forgetFollowed(TimeRange span);
    void addPlayed(const TakeNote& played);
    // `kept`: how many notes of before stayed.
    Status adoptNotes(const Piece& heard, TimeRange span, std::size_t& kept);

    Piece& m_piece;
    std::string m_when;
    std::size_t m_reading = 0;
    bool m_missed = false;
    Because m_because;
    std::optional<DecidedNote> m_before; // the note of this edit, as it was
};

} // namespace wirenote
