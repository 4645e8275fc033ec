#pragma once

#include "app/document/document.h"
#include "piece/doubts.h"
#include "session/part_source.h"

namespace wirenote::app {

class Derived;
class TimeView;
class Selection;
class Transport;

// What a person can do to what is chosen, in one word each: to the passage where that makes sense,
// else to the note. Everything can be undone.
class EditCommands : public QObject {
    Q_OBJECT
  public:
    EditCommands(Document& document,
                 Selection& selection,
                 Derived& derived,
                 TimeView& time,
                 Transport& transport);

    void moveToString(int string);
    void toStrings(int first, int last); // of the passage what lies there, near each other
    void toPosition(int hand_fret);      // what of the passage lies there, is taken there
    void changeFret(int frets);
    void changePitch(int semitones);
    void moveStart(double seconds);
    void moveEnd(double seconds);
    void setTime(NoteId note, TimeRange time);
    void setFinger(Finger finger);
    void setStroke(Stroke stroke);
    void playWith(PluckingTool tool); // the passage; its strokes follow
    void toggleTechnique(Technique technique);
    void markSlip();         // or take the mark away
    void setMeant(int midi); // of a slip; 0: nothing
    void split();            // under the pointer or at the playhead, inside the chosen note
    void joinWithNext();
    void takeMiss(std::size_t miss); // by its index in the piece
    void takeNearestMiss();          // to where the eyes are
    void addHere();
    void addAt(double time_s, int string);
    void remove();
    void accept();    // and on to the next doubt
    void nextDoubt(); // all that are in doubt of one chord at once
    // In the order of time, or the most urgent first.
    bool doubtsByTime() const { return m_doubts_by_time; }
    void setDoubtsByTime(bool by_time);
    // To another note in time, and the playhead with it; `extend`: the passage grows that far.
    void step(int notes, bool extend = false);
    void stepToTheFirst();
    void hearAgain(); // the chosen note with a little before it
    void loopSelection();
    void growLoopByNote(); // to the end of the next note
    void growLoopByBeat();
    void hearPart(SoundPart part); // of the chosen note; asked for again: everything
    void isolateAround();          // hears only the pitches about the chosen note, or all again
    void setDownbeat();

  signals:
    void said(const QString& sentence); // for the status line
    void doubtOrderChanged();

  private:
    const Note* chosen();
    void acceptStroke();
    void goToNextDoubt();
    Doubt nextByWeight(const std::vector<Doubt>& doubts) const;
    Doubt nextInTime(const std::vector<Doubt>& doubts) const;
    // On the chosen note or under the pointer, else at the playhead.
    double eyes_s() const;
    TimeRange passage() const;
    void follow(); // the playhead goes to the chosen note
    // The note alone.
    bool editNote(const QString& label,
                  const std::function<Status(PieceEditor&, NoteId)>& change,
                  Merge merge = Merge::No);
    // All of the passage, or nothing of it.
    bool edit(const QString& label,
              const std::function<Status(PieceEditor&, NoteId)>& change,
              Merge merge = Merge::No);

    Document& m_document;
    Selection& m_selection;
    Derived& m_derived;
    TimeView& m_time;
    Transport& m_transport;
    bool m_doubts_by_time = false;
};

} // namespace wirenote::app
