#include "media/cached_sound.h"

#include "media/resampler.h"
#include "media/sound_stream.h"

#include <algorithm>
#include <cmath>
#include <list>
#include <mutex>
#include <unordered_map>
#include <vector>

namespace wirenote {
namespace {
using Samples = std::vector<float>; // one block, interleaved stereo

// Mono goes to both sides; of more than two channels the first two are left and right.
void toStereo(const std::vector<std::vector<float>>& channels, std::size_t skip, Samples& out) {
    const auto& left = channels.front();
    const auto& right = channels.size() > 1 ? channels[1] : left;
    const auto clean = [](float v) { return std::abs(v) <= 1e6F ? v : 0.0F; }; // NaN is silence
    for (std::size_t i = skip; i < left.size(); ++i) {
        out.push_back(clean(left[i]));
        out.push_back(clean(right[i]));
    }
}
} // namespace

struct CachedSound::State {
    struct Entry {
        Samples samples;
        std::list<std::int64_t>::iterator age;
    };
    mutable std::mutex mutex;
    Options options;
    std::unique_ptr<SoundStream> stream;
    std::int64_t frames = 0;
    bool end_known = false;
    std::unordered_map<std::int64_t, Entry> blocks;
    std::list<std::int64_t> by_age; // newest first
    // The decoder's own place: what it gives next, at the playing rate.
    std::optional<Resampler> resampler;
    Samples ready;                // resampled and not yet handed out
    std::int64_t ready_first = 0; // frame of ready[0]
    std::int64_t taken = 0;       // file frames given to the resampler, from origin on
    double origin_s = 0.0;
    bool at_end = false;

    double rate() const { return options.rate_hz; }

    Status goTo(std::int64_t frame) {
        origin_s = static_cast<double>(frame) / rate();
        stream->seek(origin_s);
        auto fresh = Resampler::make(stream->rate_hz(), rate(), 2);
        if (!fresh)
            return fresh.error();
        resampler.emplace(std::move(*fresh));
        ready.clear();
        ready_first = frame;
        taken = 0;
        at_end = false;
        return {};
    }

    // Decodes on until `count` frames are ready or the sound ends.
    void decodeUntil(std::size_t count) {
        SoundStream::Block block;
        Samples stereo;
        while (!at_end && ready.size() < 2 * count) {
            const auto more = stream->next(block);
            if (!more || !*more) {
                resampler->finish(ready);
                at_end = true;
                break;
            }
            const std::int64_t first = std::llround((block.start_s - origin_s) * stream->rate_hz());
            if (first > taken) { // a hole is silence, but no longer than a wrong stamp is believed
                const std::int64_t hole = std::min<std::int64_t>(
                    first - taken, static_cast<std::int64_t>(600.0 * stream->rate_hz()));
                stereo.assign(static_cast<std::size_t>(2 * std::min<std::int64_t>(hole, 1 << 20)),
                              0.0F);
                for (std::int64_t left = hole; left > 0; left -= 1 << 20)
                    resampler->add(std::span(stereo).first(static_cast<std::size_t>(
                                       2 * std::min<std::int64_t>(left, 1 << 20))),
                                   ready);
                taken = first;
            }
            const auto skip = static_cast<std::size_t>(std::clamp<std::int64_t>(
                taken - first, 0, static_cast<std::int64_t>(block.frames())));
            stereo.clear();
            toStereo(block.channels, skip, stereo);
            resampler->add(stereo, ready);
            taken += static_cast<std::int64_t>(block.frames() - skip);
        }
    }

    const Samples& block(std::int64_t index) {
        if (const auto known = blocks.find(index); known != blocks.end()) {
            by_age.splice(by_age.begin(), by_age, known->second.age);
            return known->second.samples;
        }
        const std::int64_t first = index * kBlockFrames;
        const auto want = static_cast<std::size_t>(kBlockFrames);
        // Going on is cheaper than seeking, for a block or two.
        if (!resampler || first < ready_first || first > ready_first + 3 * kBlockFrames) {
            if (!goTo(first)) {
                at_end = true;
                ready.clear();
            }
        }
        const auto skip = static_cast<std::size_t>(first - ready_first);
        decodeUntil(skip + want);
        Samples samples(2 * want, 0.0F);
        if (ready.size() > 2 * skip) {
            const std::size_t there = std::min(2 * want, ready.size() - 2 * skip);
            std::copy_n(
                ready.begin() + static_cast<std::ptrdiff_t>(2 * skip), there, samples.begin());
        }
        if (at_end) {
            frames = std::max<std::int64_t>(
                0, ready_first + static_cast<std::int64_t>(ready.size() / 2));
            end_known = true;
        }
        const std::size_t gone = std::min(ready.size(), 2 * (skip + want));
        ready.erase(ready.begin(), ready.begin() + static_cast<std::ptrdiff_t>(gone));
        ready_first += static_cast<std::int64_t>(gone / 2);
        return keep(index, std::move(samples));
    }

    const Samples& keep(std::int64_t index, Samples samples) {
        while (blocks.size() >= options.most_blocks) {
            blocks.erase(by_age.back());
            by_age.pop_back();
        }
        by_age.push_front(index);
        return blocks.emplace(index, Entry{std::move(samples), by_age.begin()})
            .first->second.samples;
    }
};

CachedSound::CachedSound(std::unique_ptr<State> state) : m(std::move(state)) {}
CachedSound::~CachedSound() = default;

Result<std::shared_ptr<CachedSound>> CachedSound::open(const std::filesystem::path& path,
                                                       const Options& options) {
    auto stream = SoundStream::open(path, options.stream);
    if (!stream)
        return stream.error();
    auto state = std::make_unique<State>();
    state->options = options;
    state->stream = std::move(*stream);
    state->frames = std::llround(state->stream->promised_s() * options.rate_hz);
    return std::shared_ptr<CachedSound>(new CachedSound(std::move(state)));
}

double CachedSound::rate_hz() const {
    return m->options.rate_hz;
}

std::int64_t CachedSound::frames() const {
    const std::lock_guard lock(m->mutex);
    return m->frames;
}

void CachedSound::read(std::int64_t first_frame, std::span<float> out) {
    const std::lock_guard lock(m->mutex);
    std::size_t done = 0;
    while (done < out.size() / 2) {
        const std::int64_t frame = first_frame + static_cast<std::int64_t>(done);
        const std::size_t left = out.size() / 2 - done;
        if (frame < 0 || (m->end_known && frame >= m->frames)) {
            const std::size_t silent =
                frame < 0 ? std::min(left, static_cast<std::size_t>(-frame)) : left;
            std::fill_n(out.begin() + static_cast<std::ptrdiff_t>(2 * done), 2 * silent, 0.0F);
            done += silent;
            continue;
        }
        const std::int64_t index = frame / kBlockFrames;
        const auto offset = static_cast<std::size_t>(frame - index * kBlockFrames);
        const std::size_t count = std::min(left, static_cast<std::size_t>(kBlockFrames) - offset);
        const Samples& samples = m->block(index);
        std::copy_n(samples.begin() + static_cast<std::ptrdiff_t>(2 * offset),
                    2 * count,
                    out.begin() + static_cast<std::ptrdiff_t>(2 * done));
        done += count;
    }
}

std::size_t CachedSound::cachedBytes() const {
    const std::lock_guard lock(m->mutex);
    return (m->blocks.size() * 2 * static_cast<std::size_t>(kBlockFrames) + m->ready.size()) *
           sizeof(float);
}

bool CachedSound::damaged() const {
    const std::lock_guard lock(m->mutex);
    return m->stream->damaged();
}

} // namespace wirenote
