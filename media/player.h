// Plays a take, its tab, or both, and knows what is being heard right now.
#pragma once

#include "base/sound.h"
#include "base/time_range.h"
#include "media/sound_output.h"

#include <cstdint>
#include <deque>
#include <memory>
#include <mutex>
#include <optional>

namespace wirenote {

enum class Listening { Take, Tab, Both }; // Both: the take left, the tab right

// The player may be steered from one thread while the output pulls from another.
class Player : public SoundSource {
  public:
    explicit Player(double rate_hz) : m_rate_hz(rate_hz) {}

    void setTake(std::shared_ptr<const Sound> take); // at the player's rate; may be null
    void setTab(std::shared_ptr<const Sound> tab);
    void setListening(Listening what);
    void setLoop(std::optional<TimeRange> loop); // empty ranges are no loop
    void seek(double time_s);
    double length_s() const;

    // Where the sound stands that is heard now, given what the output has played so far.
    double heardAt(std::int64_t frames_heard) const;
    // The output was started anew: its frames count from 0 again.
    void restartCount();
    bool atEnd() const; // everything has been handed out and nothing loops

    void fill(std::span<float> stereo) override;

  private:
    struct Stretch { // frames handed out in one go
        std::int64_t device_frame = 0;
        std::int64_t media_frame = 0;
        std::int64_t count = 0;
    };
    void fillStretch(std::span<float> stereo, std::int64_t from, std::int64_t loop_end);
    std::int64_t lengthFrames() const;

    mutable std::mutex m_mutex;
    double m_rate_hz;
    std::shared_ptr<const Sound> m_take;
    std::shared_ptr<const Sound> m_tab;
    Listening m_listening = Listening::Take;
    std::optional<TimeRange> m_loop;
    std::int64_t m_next = 0;       // media frame to hand out next
    std::int64_t m_handed_out = 0; // device frames since the count restarted
    std::int64_t m_since_jump = 0; // frames since the last jump, for the fade
    std::deque<Stretch> m_history;
};

} // namespace wirenote
