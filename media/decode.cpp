#include "media/decode.h"

#include "media/resampler.h"
#include "media/sound_stream.h"

#include <algorithm>
#include <cmath>

namespace wirenote {
namespace {

constexpr float kFullScale = 0.999F;
constexpr double kSilence = 1e-4; // RMS; −80 dB
constexpr float kImpossible = 1e6F;

// Samples that are not numbers become silence; full-scale samples are counted.
class Repair {
  public:
    void apply(std::vector<std::vector<float>>& channels) {
        m_power.resize(channels.size(), 0.0);
        for (std::size_t c = 0; c < channels.size(); ++c)
            for (float& v : channels[c]) {
                if (!(std::abs(v) <= kImpossible)) {
                    v = 0.0F;
                    m_bad = true;
                }
                m_at_limit += std::abs(v) >= kFullScale ? 1 : 0;
                m_power[c] += static_cast<double>(v) * v;
            }
        m_samples += channels.empty() ? 0 : channels.size() * channels.front().size();
    }
    bool bad() const { return m_bad; }
    // A handful of full-scale samples is a well-set level; a fraction of a per mille is clipping.
    bool clipped() const { return m_at_limit > 20 && m_at_limit > m_samples / 20000; }
    // Channels within 50 dB of the loudest.
    std::size_t alive() const {
        const double loudest =
            m_power.empty() ? 0.0 : *std::max_element(m_power.begin(), m_power.end());
        return static_cast<std::size_t>(
            std::count_if(m_power.begin(), m_power.end(), [&](double p) {
                return p > 0.0 && p > 1e-5 * loudest;
            }));
    }

  private:
    bool m_bad = false;
    std::size_t m_at_limit = 0;
    std::size_t m_samples = 0;
    std::vector<double> m_power;
};

// The wanted channels as one; a mix is the plain sum, its mean is taken at the end, when the
// channels that carry nothing are known.
void mix(const std::vector<std::vector<float>>& channels,
         ChannelChoice choice,
         std::vector<float>& out) {
    const std::vector<float>& left = channels.front();
    const std::vector<float>& right = channels.size() > 1 ? channels[1] : left;
    switch (choice) {
    case ChannelChoice::Left:
        out = left;
        return;
    case ChannelChoice::Right:
        out = right;
        return;
    case ChannelChoice::Difference:
        out = left;
        for (std::size_t i = 0; i < out.size(); ++i)
            out[i] = 0.5F * (out[i] - right[i]);
        return;
    case ChannelChoice::Mix:
        out = left;
        for (std::size_t c = 1; c < channels.size(); ++c)
            for (std::size_t i = 0; i < out.size(); ++i)
                out[i] += channels[c][i];
        return;
    }
}

class Decoding {
  public:
    Decoding(const std::filesystem::path& path, const JobControl& job, const DecodeOptions& options)
        : m_path(path), m_job(job), m_options(options) {}

    Result<DecodedSound> run(double rate_hz) {
        auto stream = SoundStream::open(m_path, m_options.stream);
        if (!stream)
            return stream.error();
        m_stream = std::move(*stream);
        if (m_options.span.empty() && m_stream->promised_s() > m_options.longest_s)
            return tooLong();
        auto resampler =
            Resampler::make(m_stream->rate_hz(), rate_hz > 0.0 ? rate_hz : m_stream->rate_hz(), 1);
        if (!resampler)
            return resampler.error();
        m_decoded.mono.rate_hz = rate_hz > 0.0 ? rate_hz : m_stream->rate_hz();
        m_decoded.start_s = m_options.span.empty() ? 0.0 : m_options.span.start_s;
        if (m_decoded.start_s > 0.0)
            m_stream->seek(m_decoded.start_s);
        if (const Status read = readAll(*resampler); !read)
            return read.error();
        return finish();
    }

  private:
    Error refuse(const std::string& what) const { return badInput(m_path.string(), what); }
    Error tooLong() const {
        return refuse("is longer than " +
                      std::to_string(static_cast<int>(m_options.longest_s / 3600)) +
                      " hours; cut out the part you need");
    }

    Status readAll(Resampler& resampler) {
        const double rate = m_stream->rate_hz();
        const double end_s = m_options.span.empty() ? 1e12 : m_options.span.end_s;
        // As much as the file promises, so that a long take is not held twice while it grows.
        const double promised_s = std::min({m_stream->promised_s() - m_decoded.start_s,
                                            m_options.longest_s,
                                            end_s - m_decoded.start_s});
        if (promised_s > 0.0)
            m_decoded.mono.samples.reserve(
                static_cast<std::size_t>((promised_s + 1.0) * m_decoded.mono.rate_hz));
        SoundStream::Block block;
        std::vector<float> mono;
        for (;;) {
            const auto more = m_stream->next(block);
            if (!more)
                return more.error();
            if (!*more || block.start_s >= end_s)
                break;
            if (m_job.cancelRequested())
                return cancelled();
            m_repair.apply(block.channels);
            if (m_options.watch)
                m_options.watch(block.channels, rate);
            mix(block.channels, m_options.channels, mono);
            place(mono, block.start_s, end_s, resampler);
            const double at_s = m_decoded.start_s + static_cast<double>(m_taken) / rate;
            if (at_s - m_decoded.start_s > m_options.longest_s)
                return tooLong();
            m_job.report(at_s, std::max(at_s, m_stream->promised_s()));
        }
        resampler.finish(m_decoded.mono.samples);
        return {};
    }

    // Puts a block where its time says: holes become silence, what comes twice is taken once.
    void place(std::vector<float>& mono, double start_s, double end_s, Resampler& resampler) {
        const double rate = m_stream->rate_hz();
        const std::int64_t first = std::llround((start_s - m_decoded.start_s) * rate);
        constexpr double kLongestHole_s = 600.0; // a longer one is a wrong stamp
        if (first > m_taken && static_cast<double>(first - m_taken) < kLongestHole_s * rate) {
            const std::vector<float> hole(static_cast<std::size_t>(first - m_taken), 0.0F);
            resampler.add(hole, m_decoded.mono.samples);
            m_taken = first;
        }
        const auto skip = static_cast<std::size_t>(std::clamp<std::int64_t>(
            first < m_taken ? m_taken - first : 0, 0, static_cast<std::int64_t>(mono.size())));
        const auto room = static_cast<std::int64_t>((end_s - m_decoded.start_s) * rate) - m_taken;
        const auto count = static_cast<std::size_t>(
            std::clamp<std::int64_t>(room, 0, static_cast<std::int64_t>(mono.size() - skip)));
        resampler.add(std::span(mono).subspan(skip, count), m_decoded.mono.samples);
        m_taken += static_cast<std::int64_t>(count);
    }

    Result<DecodedSound> finish() {
        const double length_s = static_cast<double>(m_taken) / m_stream->rate_hz();
        m_decoded.file_rate_hz = m_stream->rate_hz();
        m_decoded.file_channels = m_stream->channels();
        if (length_s < m_options.shortest_s)
            return refuse("is only " + std::to_string(static_cast<int>(length_s * 1000)) +
                          " ms long; a take needs at least " +
                          std::to_string(static_cast<int>(m_options.shortest_s * 1000)) + " ms");
        levelMix();
        double power = 0.0;
        for (const float v : m_decoded.mono.samples)
            power += static_cast<double>(v) * v;
        if (std::sqrt(power / static_cast<double>(m_decoded.mono.samples.size())) < kSilence)
            return refuse("is silent; check the recording level and the chosen input or channel");
        const auto caution = [this](bool yes, SoundCaution what) {
            if (yes)
                m_decoded.cautions.push_back(what);
        };
        caution(m_repair.bad(), SoundCaution::BadSamples);
        caution(m_repair.clipped(), SoundCaution::Clipped);
        caution(m_repair.alive() > 0 &&
                    m_repair.alive() < static_cast<std::size_t>(m_stream->channels()),
                SoundCaution::DeadChannel);
        caution(m_stream->damaged() ||
                    (m_options.span.empty() && length_s < m_stream->promised_s() - 0.1),
                SoundCaution::Truncated);
        caution(m_stream->rate_hz() < 16000, SoundCaution::LowRate);
        return std::move(m_decoded);
    }

    void levelMix() {
        if (m_options.channels != ChannelChoice::Mix || m_repair.alive() < 2)
            return;
        const float share = 1.0F / static_cast<float>(m_repair.alive());
        for (float& v : m_decoded.mono.samples)
            v *= share;
    }

    std::filesystem::path m_path;
    const JobControl& m_job;
    const DecodeOptions& m_options;
    std::unique_ptr<SoundStream> m_stream;
    DecodedSound m_decoded;
    Repair m_repair;
    std::int64_t m_taken = 0; // samples at the file's rate, from start_s on
};

} // namespace

Result<DecodedSound> decodeSound(const std::filesystem::path& path,
                                 double rate_hz,
                                 const JobControl& job,
                                 const DecodeOptions& options) {
    return Decoding(path, job, options).run(rate_hz);
}

Result<Sound> resample(SoundView sound, double rate_hz) {
    auto resampler = Resampler::make(sound.rate_hz, rate_hz, 1);
    if (!resampler)
        return resampler.error();
    Sound out;
    out.rate_hz = rate_hz;
    constexpr std::size_t kBlock = 1U << 16U;
    for (std::size_t at = 0; at < sound.samples.size(); at += kBlock)
        resampler->add(sound.samples.subspan(at, std::min(kBlock, sound.samples.size() - at)),
                       out.samples);
    resampler->finish(out.samples);
    const auto expected = static_cast<std::size_t>(
        std::ceil(static_cast<double>(sound.samples.size()) * rate_hz / sound.rate_hz));
    out.samples.resize(std::min(out.samples.size(), expected));
    return out;
}

} // namespace wirenote
