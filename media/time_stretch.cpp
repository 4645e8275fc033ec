#include "media/time_stretch.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <rubberband/RubberBandStretcher.h>
#include <vector>

namespace wirenote {
namespace {
using RubberBand::RubberBandStretcher;
constexpr std::size_t kMostAtOnce = 1024;
} // namespace

struct StretchedReader::State {
    StereoSource& source;
    std::int64_t next = 0;                          // source frame to read next
    std::unique_ptr<RubberBandStretcher> stretcher; // null: passed through
    std::size_t drop = 0;                           // output frames still to be thrown away
    std::vector<float> interleaved;
    std::array<std::vector<float>, 2> sides;

    void feed(std::size_t frames) {
        interleaved.resize(2 * frames);
        source.read(next, interleaved);
        next += static_cast<std::int64_t>(frames);
        for (std::size_t c = 0; c < 2; ++c) {
            sides[c].resize(frames);
            for (std::size_t i = 0; i < frames; ++i)
                sides[c][i] = interleaved[2 * i + c];
        }
        const float* in[2] = {sides[0].data(), sides[1].data()};
        stretcher->process(in, frames, false);
    }

    std::size_t retrieve(std::span<float> out) {
        const auto available = static_cast<std::size_t>(std::max(0, stretcher->available()));
        const std::size_t frames = std::min(available, drop > 0 ? drop : out.size() / 2);
        if (frames == 0)
            return 0;
        for (auto& side : sides)
            side.resize(frames);
        float* into[2] = {sides[0].data(), sides[1].data()};
        const std::size_t got = stretcher->retrieve(into, frames);
        if (drop > 0) {
            drop -= got;
            return 0;
        }
        for (std::size_t i = 0; i < got; ++i) {
            out[2 * i] = sides[0][i];
            out[2 * i + 1] = sides[1][i];
        }
        return got;
    }
};

StretchedReader::StretchedReader(StereoSource& source,
                                 std::int64_t from_frame,
                                 double speed,
                                 double semitones)
    : m(new State{source, from_frame, nullptr, 0, {}, {}}) {
    speed = std::clamp(speed, kSlowest, kFastest);
    semitones = std::clamp(semitones, -kMostSemitones, kMostSemitones);
    if (std::abs(speed - 1.0) < 1e-6 && std::abs(semitones) < 1e-6)
        return;
    // With another pitch only this option keeps the stated delay exact; without one it only costs
    // time.
    const int pitch_option = std::abs(semitones) < 1e-6
                                 ? RubberBandStretcher::OptionPitchHighSpeed
                                 : RubberBandStretcher::OptionPitchHighConsistency;
    m->stretcher = std::make_unique<RubberBandStretcher>(
        static_cast<std::size_t>(std::lround(source.rate_hz())),
        2,
        RubberBandStretcher::OptionProcessRealTime | RubberBandStretcher::OptionEngineFiner |
            RubberBandStretcher::OptionChannelsTogether | pitch_option,
        1.0 / speed,
        std::exp2(semitones / 12.0));
    m->stretcher->setMaxProcessSize(kMostAtOnce);
    // The padding is the sound that comes just before, not silence: the first attack stays whole.
    std::size_t pad = m->stretcher->getPreferredStartPad();
    m->drop = m->stretcher->getStartDelay();
    m->next -= static_cast<std::int64_t>(pad);
    while (pad > 0) {
        const std::size_t part = std::min(pad, kMostAtOnce);
        m->feed(part);
        pad -= part;
    }
}

StretchedReader::~StretchedReader() = default;

void StretchedReader::read(std::span<float> out) {
    if (!m->stretcher) {
        m->source.read(m->next, out);
        m->next += static_cast<std::int64_t>(out.size() / 2);
        return;
    }
    while (!out.empty()) {
        const std::size_t got = m->retrieve(out);
        out = out.subspan(2 * got);
        if (got == 0 && m->stretcher->available() <= 0)
            m->feed(std::clamp<std::size_t>(m->stretcher->getSamplesRequired(), 1, kMostAtOnce));
    }
}

} // namespace wirenote
