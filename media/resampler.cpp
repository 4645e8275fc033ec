#include "media/resampler.h"

#include "media/ffmpeg.h"

#include <cmath>

namespace wirenote {

struct Resampler::State {
    ffmpeg::Owned<SwrContext> context; // null: the rates are the same
    double ratio = 1.0;
    int channels = 1;

    int convert(const float* in, std::size_t frames, std::vector<float>& out) {
        const std::size_t before = out.size();
        const auto room =
            static_cast<std::size_t>(std::ceil(static_cast<double>(frames) * ratio)) + 4096;
        out.resize(before + room * static_cast<std::size_t>(channels));
        auto* target = reinterpret_cast<std::uint8_t*>(out.data() + before);
        const auto* source = reinterpret_cast<const std::uint8_t*>(in);
        const int got = std::max(0,
                                 swr_convert(context.get(),
                                             &target,
                                             static_cast<int>(room),
                                             in ? &source : nullptr,
                                             static_cast<int>(frames)));
        out.resize(before + static_cast<std::size_t>(got) * static_cast<std::size_t>(channels));
        return got;
    }
};

Resampler::Resampler(std::unique_ptr<State> state) : m(std::move(state)) {}
Resampler::~Resampler() = default;
Resampler::Resampler(Resampler&&) noexcept = default;
Resampler& Resampler::operator=(Resampler&&) noexcept = default;

Result<Resampler> Resampler::make(double from_hz, double to_hz, int channels) {
    auto state = std::make_unique<State>();
    state->channels = channels;
    state->ratio = to_hz / from_hz;
    if (from_hz != to_hz) {
        AVChannelLayout layout{};
        av_channel_layout_default(&layout, channels);
        SwrContext* raw = nullptr;
        if (swr_alloc_set_opts2(&raw,
                                &layout,
                                AV_SAMPLE_FMT_FLT,
                                static_cast<int>(std::lround(to_hz)),
                                &layout,
                                AV_SAMPLE_FMT_FLT,
                                static_cast<int>(std::lround(from_hz)),
                                0,
                                nullptr) < 0 ||
            swr_init(raw) < 0) {
            swr_free(&raw);
            return Error{ErrorKind::Internal, {}, "the sound could not be resampled"};
        }
        state->context.reset(raw);
    }
    return Resampler(std::move(state));
}

void Resampler::add(std::span<const float> in, std::vector<float>& out) {
    if (!m->context)
        out.insert(out.end(), in.begin(), in.end());
    else if (!in.empty())
        m->convert(in.data(), in.size() / static_cast<std::size_t>(m->channels), out);
}

void Resampler::finish(std::vector<float>& out) {
    if (m->context)
        while (m->convert(nullptr, 0, out) > 0) {
        }
}

} // namespace wirenote
