#pragma once

#include "app/job_runner.h"
#include "media/player.h"

#include <QObject>
#include <QTimer>
#include <memory>
#include <optional>

namespace wirenote::app {

class Document;

// Play, stop, loop, and where the sound stands that is heard.
class Transport : public QObject {
    Q_OBJECT
  public:
    Transport(Document& document, std::unique_ptr<SoundOutput> device, QObject* parent = nullptr);
    ~Transport() override;

    bool playing() const { return m_playing; }
    double playhead_s() const { return m_playhead_s; }
    bool simulated() const { return m_output->simulated(); }
    Listening listening() const { return m_listening; }
    std::optional<TimeRange> loop() const { return m_loop; }

    void toggle();
    void play();
    void pause();
    void seek(double time_s);
    void setLoop(std::optional<TimeRange> loop);
    void setListening(Listening what);
    void playOnce(TimeRange span); // hears one stretch, then stops and returns to its start

  signals:
    void moved();   // the playhead
    void changed(); // playing, loop, what is listened to, or the device

  private:
    void tick();
    void renderTab();
    void startOutput();

    Document& m_document;
    Player m_player;
    std::unique_ptr<SoundOutput> m_output;
    JobRunner m_rendering;
    QTimer m_timer;
    QTimer m_render_soon;
    bool m_playing = false;
    bool m_tab_stale = true;
    bool m_play_when_rendered = false;
    double m_playhead_s = 0.0;
    Listening m_listening = Listening::Take;
    std::optional<TimeRange> m_loop;
    std::optional<TimeRange> m_once;
};

} // namespace wirenote::app
