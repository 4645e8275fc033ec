#include "media/player.h"

#include <algorithm>
#include <cmath>

namespace wirenote {
namespace {
constexpr std::int64_t kFade = 160; // frames: no click at a jump
constexpr std::size_t kHistory = 400;
constexpr float kHeadroom = 0.8F;

float sampleAt(const std::shared_ptr<const Sound>& sound, std::int64_t frame) {
    return sound && frame >= 0 && frame < static_cast<std::int64_t>(sound->samples.size())
               ? sound->samples[static_cast<std::size_t>(frame)]
               : 0.0F;
}
} // namespace

void Player::setTake(std::shared_ptr<const Sound> take) {
    const std::lock_guard lock(m_mutex);
    m_take = std::move(take);
}
void Player::setTab(std::shared_ptr<const Sound> tab) {
    const std::lock_guard lock(m_mutex);
    m_tab = std::move(tab);
}
void Player::setListening(Listening what) {
    const std::lock_guard lock(m_mutex);
    m_listening = what;
}
void Player::setLoop(std::optional<TimeRange> loop) {
    const std::lock_guard lock(m_mutex);
    m_loop = loop && loop->length_s() > 0.02 ? loop : std::nullopt;
}

void Player::seek(double time_s) {
    const std::lock_guard lock(m_mutex);
    m_next = static_cast<std::int64_t>(std::max(0.0, time_s) * m_rate_hz);
    m_since_jump = 0;
}

std::int64_t Player::lengthFrames() const {
    const auto length = [](const std::shared_ptr<const Sound>& s) {
        return s ? static_cast<std::int64_t>(s->samples.size()) : 0;
    };
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
    m_since_jump = 0;
}

bool Player::atEnd() const {
    const std::lock_guard lock(m_mutex);
    return !m_loop && m_next >= lengthFrames();
}

double Player::heardAt(std::int64_t frames_heard) const {
    const std::lock_guard lock(m_mutex);
    for (auto s = m_history.rbegin(); s != m_history.rend(); ++s)
        if (frames_heard >= s->device_frame)
            return static_cast<double>(s->media_frame +
                                       std::min(frames_heard - s->device_frame, s->count)) /
                   m_rate_hz;
    return static_cast<double>(m_history.empty() ? m_next : m_history.front().media_frame) /
           m_rate_hz;
}

void Player::fill(std::span<float> stereo) {
    const std::lock_guard lock(m_mutex);
    auto left = static_cast<std::int64_t>(stereo.size() / 2);
    std::size_t at = 0;
    while (left > 0) {
        std::int64_t end = m_next + left;
        std::int64_t loop_end = -1;
        if (m_loop) {
            const auto loop_start = static_cast<std::int64_t>(m_loop->start_s * m_rate_hz);
            loop_end =
                std::max(loop_start + 1, static_cast<std::int64_t>(m_loop->end_s * m_rate_hz));
            if (m_next >= loop_end) {
                m_next = loop_start;
                m_since_jump = 0;
            }
            end = std::min(m_next + left, loop_end);
        }
        const std::int64_t count = end - m_next;
        fillStretch(stereo.subspan(at, static_cast<std::size_t>(count) * 2), m_next, loop_end);
        m_history.push_back({m_handed_out, m_next, count});
        if (m_history.size() > kHistory)
            m_history.pop_front();
        m_handed_out += count;
        m_next = end;
        at += static_cast<std::size_t>(count) * 2;
        left -= count;
    }
}

void Player::fillStretch(std::span<float> stereo, std::int64_t from, std::int64_t loop_end) {
    for (std::size_t i = 0; i * 2 < stereo.size(); ++i) {
        const std::int64_t frame = from + static_cast<std::int64_t>(i);
        float gain = kHeadroom * static_cast<float>(std::min(kFade, ++m_since_jump)) / kFade;
        if (loop_end >= 0)
            gain *=
                static_cast<float>(std::clamp<std::int64_t>(loop_end - frame, 0, kFade)) / kFade;
        const float take = gain * sampleAt(m_take, frame);
        const float tab = gain * sampleAt(m_tab, frame);
        stereo[2 * i] = std::clamp(m_listening == Listening::Tab ? tab : take, -1.0F, 1.0F);
        stereo[2 * i + 1] = std::clamp(m_listening == Listening::Take ? take : tab, -1.0F, 1.0F);
    }
}

} // namespace wirenote
