#pragma once

#include "app/document/document.h"
#include "app/document/job_runner.h"

#include "form/form_comparison.h"

#include <QObject>
#include <optional>
#include <vector>

namespace wirenote::app {

class Transport;

// One playing of a place: a demonstration of a take.
struct PlayingRef {
    std::size_t take = 0;
    std::size_t demonstration = 0;
    bool operator==(const PlayingRef&) const = default;
};

// Every take heard, what each stretch of its playing shows, and how one hears it and says whether
// it counts.
class Playings : public QObject {
    Q_OBJECT
  public:
    Playings(Document& document, Transport& transport, JobRunner& jobs);

    // Hears the takes that nobody has listened to, and recognises what all of them show.
    void recognise();
    // The playings of the place at the playhead, slow ones first, one after the other.
    void hearNext();
    void hear(PlayingRef playing);
    // What a take has otherwise; what it lacks is heard in the piece.
    void hearDifference(std::size_t take, const FormDifference& difference);
    std::vector<PlayingRef> playingsOf(double piece_s) const;
    // The take whose form is held against the piece: the one that is heard, or the second.
    std::size_t comparedTake() const;
    // Where the playhead stands in the piece, when it stands where the leading take shows
    // something once more.
    double placeInPiece(double piece_s) const;

    // What is heard, or what the playhead stands in, counts or counts no more.
    void toggleLearn();
    void setLearn(PlayingRef playing, bool learn);
    const Demonstration* get(PlayingRef playing) const;
    // The loop, or the bar at the playhead, is written down as the playing that is heard has it.
    void followHere();
    // The loop is all that is played, without the talk before and after it.
    void loopPlaying();

  signals:
    void said(const QString& sentence);
    void warned(const QString& sentence);

  private:
    std::optional<PlayingRef> current() const;
    TimeRange barHere() const;
    void adopt(const Piece& before, const Result<Piece>& heard, int revision);

    Document& m_document;
    Transport& m_transport;
    JobRunner& m_jobs;
};

} // namespace wirenote::app
