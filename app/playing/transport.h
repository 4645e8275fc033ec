#pragma once

#include "app/document/job_runner.h"
#include "app/playing/listen_settings.h"
#include "media/player.h"
#include "piece/delta.h"
#include "session/part_source.h"

#include <QElapsedTimer>
#include <QObject>
#include <QTimer>
#include <memory>
#include <optional>
#include <vector>

namespace wirenote::app {

class Document;
class TakeSounds;

// Something to be judged by ear: beats to click over the take, strings to sound beside it, or some
// notes of the tab by themselves.
struct Audition {
    TimeRange span;
    std::optional<Timeline> beats;
    std::optional<Instrument> open_strings;
    std::vector<NoteId> notes;
    bool ownSound() const { return open_strings || !notes.empty(); }
};

// Play, stop, loop, and where the sound stands that is heard. All times are the piece's; which take
// is heard, and how its clock runs against the piece's, is known here alone.
class Transport : public QObject {
    Q_OBJECT
  public:
    Transport(Document& document,
              TakeSounds& sounds,
              std::unique_ptr<SoundOutput> device,
              QObject* parent = nullptr);
    ~Transport() override;

    bool playing() const { return m_playing; }
    double playhead_s() const { return m_playhead_s; }
    bool simulated() const { return m_output->simulated(); }
    // How the take that is heard, or the chosen demonstration of it, follows the piece.
    TakeAlignment clock() const;
    Listening listening() const { return m_listening; }
    std::optional<TimeRange> loop() const { return m_loop; }
    std::size_t take() const { return m_take; } // the one that is heard
    // Which of its demonstrations, where one of them was chosen.
    std::optional<std::size_t> demonstration() const { return m_demonstration; }
    const ListenSettings& listen() const { return m_listen; }
    SoundPart part() const { return m_part; }

    void toggle();
    void play();
    void pause();
    void seek(double time_s);  // goes on playing when it plays
    void back(double seconds); // again from a bit earlier; pressed again, from earlier still
    void setLoop(std::optional<TimeRange> loop);
    void setListening(Listening what);
    void setTake(std::size_t take); // the musical place stays
    // One playing of a part of the piece, among several in one take. The musical place stays.
    void setDemonstration(std::size_t take, std::size_t demonstration);
    void setListen(const ListenSettings& listen);
    // Of the take only what belongs to this note or its string, or all but the note.
    void setPart(SoundPart part, NoteId note);
    void playOnce(TimeRange span); // hears one stretch, then stops and returns to its start
    // The same with beats or open strings that the piece does not have; afterwards all is as it
    // was.
    void audition(Audition choice);
    const std::optional<Audition>& auditioned() const { return m_audition; }

  signals:
    void moved();   // the playhead
    void changed(); // playing, loop, take, what is listened to and how, or the device
    void restAdvised(int minutes); // somebody has listened for long
    void deviceLost();             // it takes no sound any more; playing goes on in silence

  private:
    void tick();
    void renderTab();
    bool deviceIsGone();
    void startOutput();
    void endAudition();
    Listening listeningNow() const;
    Piece soundingPiece() const; // what is rendered as the tab
    void opened();
    void edited(const Changes& what);
    void applySettings();
    void applyLoop();
    void useTake(std::optional<double> go_on_s);
    const Demonstration* shown() const; // the chosen demonstration, while it is there
    double takeTime(double piece_s) const { return clock().toTake({piece_s}).s; }
    double takeGain() const;
    double endOfSound() const;

    Document& m_document;
    TakeSounds& m_sounds;
    Player m_player;
    std::unique_ptr<SoundOutput> m_output;
    JobRunner m_rendering;
    QTimer m_timer;
    QTimer m_render_soon;
    QElapsedTimer m_since_heard; // that the device took some sound
    std::int64_t m_heard_last = -1;
    bool m_playing = false;
    bool m_tab_stale = true;
    bool m_play_when_rendered = false;
    double m_playhead_s = 0.0;
    double m_tab_rms = 0.0;
    double m_listened_s = 0.0; // since the last advice to rest
    std::size_t m_take = 0;
    std::optional<std::size_t> m_demonstration; // of the take
    Listening m_listening = Listening::Take;
    ListenSettings m_listen;
    std::optional<TimeRange> m_loop;
    std::optional<TimeRange> m_once;
    std::optional<Audition> m_audition;
    SoundPart m_part = SoundPart::All;
    NoteId m_part_note = 0;
};

} // namespace wirenote::app
