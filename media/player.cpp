#include "media/player.h"

#include "media/biquad.h"
#include "media/time_stretch.h"

#include <algorithm>
#include <array>
#include <chrono>
#include <cmath>
#include <numbers>

namespace wirenote {
namespace {

constexpr double kFade_s = 0.012;
constexpr std::size_t kHistory = 2000;
constexpr std::size_t kMostAtOnce = 512;
constexpr std::int64_t kAheadFrames = 4096;
constexpr double kClick_s = 0.04;
constexpr double kClickLevel = 0.35;
constexpr double kRelease_s = 0.15;

// The wanted sources and channels as one stereo sound, filtered to the wanted band. Must be read
// forwards.
class MixSource : public StereoSource {
  public:
    MixSource(std::shared_ptr<StereoSource> take,
              std::shared_ptr<StereoSource> tab,
              const PlayerSettings& settings,
              double rate_hz)
        : m_take(std::move(take)), m_tab(std::move(tab)), m_what(settings.what),
          m_channels(settings.channels), m_take_gain(static_cast<float>(settings.take_gain)),
          m_tab_gain(static_cast<float>(settings.tab_gain)), m_rate_hz(rate_hz) {
        if (settings.band) // two of second order each: a Butterworth filter of fourth order
            for (auto& side : m_filters)
                side = {Biquad::highPass(settings.band->low_hz, 0.5412, rate_hz),
                        Biquad::highPass(settings.band->low_hz, 1.3066, rate_hz),
                        Biquad::lowPass(settings.band->high_hz, 0.5412, rate_hz),
                        Biquad::lowPass(settings.band->high_hz, 1.3066, rate_hz)};
    }
    double rate_hz() const override { return m_rate_hz; }
    std::int64_t frames() const override { return 0; }

    void read(std::int64_t first, std::span<float> out) override {
        std::fill(out.begin(), out.end(), 0.0F);
        if (m_what != Listening::Tab && m_take)
            addTake(first, out);
        if (m_what != Listening::Take && m_tab)
            addTab(first, out);
        for (std::size_t i = 0; i < out.size(); ++i)
            for (Biquad& filter : m_filters[i % 2])
                out[i] = static_cast<float>(filter(out[i]));
    }

  private:
    void addTake(std::int64_t first, std::span<float> out) {
        m_part.resize(out.size());
        m_take->read(first, m_part);
        for (std::size_t i = 0; i + 1 < out.size(); i += 2) {
            float left = m_take_gain * m_part[i];
            float right = m_take_gain * m_part[i + 1];
            if (m_channels == ChannelChoice::Left)
                right = left;
            else if (m_channels == ChannelChoice::Right)
                left = right;
            else if (m_channels == ChannelChoice::Difference)
                left = right = 0.5F * (left - right);
            if (m_what == Listening::Both) { // the take left, the tab right
                out[i] = m_channels == ChannelChoice::Mix ? 0.5F * (left + right) : left;
            } else {
                out[i] = left;
                out[i + 1] = right;
            }
        }
    }
    void addTab(std::int64_t first, std::span<float> out) {
        m_part.resize(out.size());
        m_tab->read(first, m_part);
        for (std::size_t i = 0; i + 1 < out.size(); i += 2) {
            if (m_what == Listening::Tab)
                out[i] = m_tab_gain * m_part[i];
            out[i + 1] = m_tab_gain * m_part[i + 1];
        }
    }

    std::shared_ptr<StereoSource> m_take;
    std::shared_ptr<StereoSource> m_tab;
    Listening m_what;
    ChannelChoice m_channels;
    float m_take_gain;
    float m_tab_gain;
    double m_rate_hz;
    std::array<std::vector<Biquad>, 2> m_filters;
    std::vector<float> m_part;
};

} // namespace

// One way of playing from one place on; any change begins another.
struct Player::Voice {
    MixSource mix;
    StretchedReader reader;
    double speed;
    Voice(std::shared_ptr<StereoSource> take,
          std::shared_ptr<StereoSource> tab,
          const PlayerSettings& settings,
          double rate_hz,
          double media_frame)
        : mix(std::move(take), std::move(tab), settings, rate_hz),
          reader(mix, std::llround(media_frame), settings.speed, settings.semitones),
          speed(std::clamp(settings.speed, kSlowest, kFastest)) {}
};

Player::Player(double rate_hz) : m_rate_hz(rate_hz) {}

Player::~Player() {
    workAhead(false);
}

void Player::setTake(std::shared_ptr<StereoSource> take, std::optional<double> at_s) {
    const std::lock_guard lock(m_mutex);
    m_take = std::move(take);
    m_changed = true;
    if (at_s)
        m_seek = std::max(0.0, *at_s) * m_rate_hz;
}

void Player::setTab(std::shared_ptr<StereoSource> tab) {
    const std::lock_guard lock(m_mutex);
    m_tab = std::move(tab);
    m_changed = true;
}

PlayerSettings Player::settings() const {
    const std::lock_guard lock(m_mutex);
    return m_settings;
}

void Player::change(const PlayerSettings& settings) {
    const std::lock_guard lock(m_mutex);
    const PlayerSettings& old = m_settings;
    // Clicks and the limit act on what is made next; everything else needs another voice.
    m_changed = m_changed || settings.what != old.what || settings.speed != old.speed ||
                settings.semitones != old.semitones || settings.band != old.band ||
                settings.channels != old.channels || settings.take_gain != old.take_gain ||
                settings.tab_gain != old.tab_gain;
    m_settings = settings;
}

void Player::setLoop(std::optional<TimeRange> loop) {
    const std::lock_guard lock(m_mutex);
    m_loop = loop && loop->length_s() > 0.02 ? loop : std::nullopt;
}

void Player::seek(double time_s, int count_in, double count_in_s) {
    const std::lock_guard lock(m_mutex);
    m_seek = std::max(0.0, time_s) * m_rate_hz;
    m_count_in_step = static_cast<std::int64_t>(std::max(0.05, count_in_s) * m_rate_hz);
    m_count_in_left = count_in * m_count_in_step;
    m_ahead.clear();
    m_ahead_frames = 0;
}

std::int64_t Player::lengthFrames() const {
    const auto length = [](const std::shared_ptr<StereoSource>& s) { return s ? s->frames() : 0; };
    return std::max(length(m_take), length(m_tab));
}

double Player::length_s() const {
    const std::lock_guard lock(m_mutex);
    return static_cast<double>(lengthFrames()) / m_rate_hz;
}

void Player::restartCount() {
    const std::lock_guard lock(m_mutex);
    m_handed_out = 0;
    m_history.clear();
    m_ahead.clear();
    m_ahead_frames = 0;
    m_voice.reset();
    m_fading.reset();
}

bool Player::atEnd() const {
    const std::lock_guard lock(m_mutex);
    return !m_loop && !m_seek && m_next >= static_cast<double>(lengthFrames());
}

double Player::heardAt(std::int64_t frames_heard) const {
    const std::lock_guard lock(m_mutex);
    for (auto s = m_history.rbegin(); s != m_history.rend(); ++s)
        if (frames_heard >= s->device_frame)
            return (s->media_frame + s->step * static_cast<double>(std::min(
                                                   frames_heard - s->device_frame, s->count))) /
                   m_rate_hz;
    return (m_history.empty() ? m_seek.value_or(m_next) : m_history.front().media_frame) /
           m_rate_hz;
}

void Player::beginVoice(double media_frame) {
    m_fading = std::move(m_voice);
    m_fade_at = 0;
    m_voice = std::make_unique<Voice>(m_take, m_tab, m_settings, m_rate_hz, media_frame);
    m_next = media_frame;
    m_changed = false;
}

// A seek, the end of the loop or a change: all begin a new voice, one at a time.
void Player::jumpWhereDue() {
    if (m_fading)
        return;
    if (m_seek) {
        const double to = *m_seek;
        m_seek.reset();
        beginVoice(to);
    } else if (m_loop && m_next >= m_loop->end_s * m_rate_hz - 0.5) {
        beginVoice(m_loop->start_s * m_rate_hz);
    } else if (m_changed || !m_voice) {
        beginVoice(m_next);
    }
}

std::size_t Player::framesToLoopEnd(std::size_t most) const {
    if (!m_loop)
        return most;
    const double left = (m_loop->end_s * m_rate_hz - m_next) / m_voice->speed;
    return static_cast<std::size_t>(
        std::clamp(std::ceil(left - 0.5), 1.0, static_cast<double>(most)));
}

void Player::addFading(std::span<float> stereo) {
    if (!m_fading)
        return;
    const auto length = static_cast<std::int64_t>(kFade_s * m_rate_hz) + 1;
    const auto frames = static_cast<std::size_t>(
        std::min<std::int64_t>(static_cast<std::int64_t>(stereo.size() / 2), length - m_fade_at));
    std::vector<float> old(2 * frames);
    m_fading->reader.read(old);
    for (std::size_t i = 0; i < frames; ++i) {
        const float in = static_cast<float>(++m_fade_at) / static_cast<float>(length);
        for (std::size_t c = 0; c < 2; ++c)
            stereo[2 * i + c] = in * stereo[2 * i + c] + (1.0F - in) * old[2 * i + c];
    }
    if (m_fade_at >= length)
        m_fading.reset();
}

void Player::addClicks(std::span<float> stereo) {
    const auto frames = static_cast<std::int64_t>(stereo.size() / 2);
    for (Click& click : m_clicks) {
        const double hz = click.strong ? 1760.0 : 1320.0;
        for (std::int64_t i = std::max<std::int64_t>(0, -click.age); i < frames; ++i) {
            const double t = static_cast<double>(click.age + i) / m_rate_hz;
            const auto v = static_cast<float>(kClickLevel * std::exp(-t / 0.008) *
                                              std::sin(2.0 * std::numbers::pi * hz * t));
            stereo[static_cast<std::size_t>(2 * i)] += v;
            stereo[static_cast<std::size_t>(2 * i + 1)] += v;
        }
        click.age += frames;
    }
    std::erase_if(m_clicks, [this](const Click& c) {
        return static_cast<double>(c.age) > kClick_s * m_rate_hz;
    });
}

// Down at once, up again slowly: nothing leaves louder than the limit.
void Player::limit(std::span<float> stereo) {
    const double rise = 1.0 / (kRelease_s * m_rate_hz);
    for (std::size_t i = 0; i + 1 < stereo.size(); i += 2) {
        const double peak = std::max(std::abs(stereo[i]), std::abs(stereo[i + 1]));
        m_limiter = std::min(m_limiter + rise, 1.0);
        if (peak * m_limiter > m_settings.limit)
            m_limiter = m_settings.limit / peak;
        stereo[i] *= static_cast<float>(m_limiter);
        stereo[i + 1] *= static_cast<float>(m_limiter);
    }
}

Player::Chunk Player::makeCountIn(std::size_t most) {
    const auto count = static_cast<std::size_t>(
        std::min<std::int64_t>(static_cast<std::int64_t>(most), m_count_in_left));
    Chunk chunk;
    chunk.samples.assign(2 * count, 0.0F);
    for (std::size_t i = 0; i < count; ++i)
        if ((m_count_in_left - static_cast<std::int64_t>(i)) % m_count_in_step == 0)
            m_clicks.push_back({-static_cast<std::int64_t>(i), false});
    m_count_in_left -= static_cast<std::int64_t>(count);
    chunk.place = {0, static_cast<std::int64_t>(count), m_seek.value_or(m_next), 0.0};
    m_voice.reset(); // what played before does not come back after the count
    m_fading.reset();
    addClicks(chunk.samples);
    limit(chunk.samples);
    return chunk;
}

Player::Chunk Player::make(std::size_t most) {
    if (m_count_in_left > 0)
        return makeCountIn(most);
    jumpWhereDue();
    const std::size_t count = framesToLoopEnd(most);
    Chunk chunk;
    chunk.samples.resize(2 * count);
    chunk.place = {0, static_cast<std::int64_t>(count), m_next, m_voice->speed};
    m_voice->reader.read(chunk.samples);
    const double end = m_next + static_cast<double>(count) * m_voice->speed;
    if (m_settings.click)
        for (auto beat = std::lower_bound(m_settings.beats.begin(),
                                          m_settings.beats.end(),
                                          m_next / m_rate_hz,
                                          [](const Beat&b, double t) { return b.time_s < t; });
             beat != m_settings.beats.end() && beat->time_s * m_rate_hz < end;
             ++beat)
            m_clicks.push_back(
                {-static_cast<std::int64_t>((beat->time_s * m_rate_hz - m_next) / m_voice->speed),
                 beat->strong});
    m_next = end;
    addFading(chunk.samples);
    addClicks(chunk.samples);
    limit(chunk.samples);
    return chunk;
}

void Player::hand(Chunk& chunk, std::span<float>& stereo) {
    const std::size_t left = chunk.samples.size() / 2 - chunk.used;
    const std::size_t count = std::min(left, stereo.size() / 2);
    std::copy_n(chunk.samples.begin() + static_cast<std::ptrdiff_t>(2 * chunk.used),
                2 * count,
                stereo.begin());
    m_history.push_back(
        {m_handed_out,
         static_cast<std::int64_t>(count),
         chunk.place.media_frame + chunk.place.step * static_cast<double>(chunk.used),
         chunk.place.step});
    if (m_history.size() > kHistory)
        m_history.pop_front();
    m_handed_out += static_cast<std::int64_t>(count);
    chunk.used += count;
    stereo = stereo.subspan(2 * count);
}

void Player::fill(std::span<float> stereo) {
    const std::lock_guard lock(m_mutex);
    while (stereo.size() >= 2) {
        if (m_ahead.empty()) {
            Chunk chunk = make(std::min(kMostAtOnce, stereo.size() / 2));
            hand(chunk, stereo);
            continue;
        }
        const std::size_t before = m_ahead.front().used;
        hand(m_ahead.front(), stereo);
        m_ahead_frames -= static_cast<std::int64_t>(m_ahead.front().used - before);
        if (2 * m_ahead.front().used >= m_ahead.front().samples.size())
            m_ahead.pop_front();
    }
}

void Player::workAhead(bool on) {
    std::thread ending;
    {
        const std::lock_guard lock(m_mutex);
        if (on == m_working)
            return;
        m_working = on;
        if (on)
            m_worker = std::thread([this] { runAhead(); });
        else
            ending = std::move(m_worker);
    }
    if (ending.joinable())
        ending.join();
}

void Player::runAhead() {
    for (;;) {
        bool full = false;
        {
            const std::lock_guard lock(m_mutex);
            if (!m_working)
                return;
            full = m_ahead_frames >= kAheadFrames;
            if (!full) {
                m_ahead.push_back(make(kMostAtOnce));
                m_ahead_frames += static_cast<std::int64_t>(m_ahead.back().samples.size() / 2);
            }
        }
        if (full)
            std::this_thread::sleep_for(std::chrono::milliseconds(5));
        else
            std::this_thread::yield(); // let fill() in between two chunks
    }
}

} // namespace wirenote
