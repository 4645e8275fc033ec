// Plays a take, its tab, or both, at any speed, and knows what is being heard right now.
#pragma once

#include "base/sound.h"
#include "base/time_range.h"
#include "media/sound_output.h"
#include "media/stereo_source.h"

#include <cstdint>
#include <deque>
#include <memory>
#include <mutex>
#include <optional>
#include <thread>
#include <vector>

namespace wirenote {

enum class Listening { Take, Tab, Both }; // Both: the take left, the tab right

struct Beat {
    double time_s = 0.0; // media time of the take
    bool strong = false; // the one
};

struct HearingBand {
    double low_hz = 20.0;
    double high_hz = 20000.0;
    bool operator==(const HearingBand&) const = default;
};

struct PlayerSettings {
    Listening what = Listening::Take;
    double speed = 1.0;     // kSlowest to kFastest, the pitch stays
    double semitones = 0.0; // the speed stays
    std::optional<HearingBand> band;
    ChannelChoice channels = ChannelChoice::Mix; // mix: as recorded
    double take_gain = 0.8;
    double tab_gain = 0.8;
    double limit = 0.9; // nothing louder than this leaves the player; 1 is full scale
    bool click = false;
    std::vector<Beat> beats; // rising
};

// The player may be steered from one thread while the output pulls from another. Whatever changes
// while it plays is faded over within 12 ms, so that nothing clicks, and every frame handed out has
// a known place in the take. Times are media times of the take.
class Player : public SoundSource {
  public:
    explicit Player(double rate_hz);
    ~Player() override;

    // Sources must have the player's rate; may be null. With a place, playing goes on from there.
    void setTake(std::shared_ptr<StereoSource> take, std::optional<double> at_s = {});
    void setTab(std::shared_ptr<StereoSource> tab);
    PlayerSettings settings() const;
    void change(const PlayerSettings& settings);
    void setLoop(std::optional<TimeRange> loop); // empty ranges are no loop
    // Playing goes on from there, after so many clicks at this distance.
    void seek(double time_s, int count_in = 0, double count_in_s = 0.5);
    double length_s() const;

    // Where the sound stands that is heard now, given what the output has played so far.
    double heardAt(std::int64_t frames_heard) const;
    // The output was started anew: its frames count from 0 again.
    void restartCount();
    bool atEnd() const; // everything has been handed out and nothing loops

    // Works a little ahead in a thread of its own, so that decoding and stretching seldom keep the
    // output waiting: fill() waits for the chunk that is being made at the most, and makes one
    // itself when none is ahead. Without it everything is done inside fill().
    void workAhead(bool on);

    void fill(std::span<float> stereo) override;

  private:
    struct Voice;
    struct Stretch { // frames made in one go
        std::int64_t device_frame = 0;
        std::int64_t count = 0;
        double media_frame = 0.0; // of the first
        double step = 1.0;        // media frames a device frame
    };
    struct Chunk {
        std::vector<float> samples;
        Stretch place;
        std::size_t used = 0; // frames handed out already
    };
    struct Click {
        std::int64_t age = 0; // frames since it began; negative: still to come
        bool strong = false;
    };

    Chunk make(std::size_t most);
    Chunk makeCountIn(std::size_t most);
    void beginVoice(double media_frame);
    void jumpWhereDue();
    std::size_t framesToLoopEnd(std::size_t most) const;
    void addFading(std::span<float> stereo);
    void addClicks(std::span<float> stereo);
    void limit(std::span<float> stereo);
    void hand(Chunk& chunk, std::span<float>& stereo);
    std::int64_t lengthFrames() const;
    void runAhead();

    mutable std::mutex m_mutex; // guards all below
    double m_rate_hz;
    std::shared_ptr<StereoSource> m_take;
    std::shared_ptr<StereoSource> m_tab;
    PlayerSettings m_settings;
    std::optional<TimeRange> m_loop;
    double m_next = 0.0; // media frame to make next
    std::optional<double> m_seek;
    bool m_changed = true;
    std::unique_ptr<Voice> m_voice;
    std::unique_ptr<Voice> m_fading; // what played before the last change
    std::int64_t m_fade_at = 0;
    std::int64_t m_count_in_left = 0;
    std::int64_t m_count_in_step = 0;
    std::vector<Click> m_clicks;
    double m_limiter = 1.0;
    std::int64_t m_handed_out = 0; // device frames since the count restarted
    std::deque<Stretch> m_history;
    std::deque<Chunk> m_ahead;
    std::int64_t m_ahead_frames = 0;
    std::thread m_worker;
    bool m_working = false;
};

} // namespace wirenote
