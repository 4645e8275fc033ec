#include "media/decode.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstring>
#include <fstream>
#include <memory>
#include <sys/stat.h>
#include <unistd.h>

extern "C" {
#include <libavcodec/avcodec.h>
#include <libavformat/avformat.h>
#include <libavutil/log.h>
#include <libavutil/opt.h>
#include <libswresample/swresample.h>
}

namespace wirenote {
namespace {

struct FormatCloser {
    void operator()(AVFormatContext* c) const { avformat_close_input(&c); }
};
struct CodecCloser {
    void operator()(AVCodecContext* c) const { avcodec_free_context(&c); }
};
struct PacketCloser {
    void operator()(AVPacket* p) const { av_packet_free(&p); }
};
struct FrameCloser {
    void operator()(AVFrame* f) const { av_frame_free(&f); }
};
struct ResamplerCloser {
    void operator()(SwrContext* s) const { swr_free(&s); }
};
using FormatPtr = std::unique_ptr<AVFormatContext, FormatCloser>;
using CodecPtr = std::unique_ptr<AVCodecContext, CodecCloser>;
using ResamplerPtr = std::unique_ptr<SwrContext, ResamplerCloser>;

constexpr float kFullScale = 0.999F;
constexpr double kSilence = 1e-4; // RMS; −80 dB
constexpr int kMaxChannels = 64;

class Decoder {
  public:
    Decoder(const std::filesystem::path& path, const JobControl& job, const DecodeLimits& limits)
        : m_path(path), m_job(job), m_limits(limits) {}

    Result<DecodedSound> run(double rate_hz) {
        if (const Status opened = open(); !opened)
            return opened.error();
        if (const Status read = readAll(); !read)
            return read.error();
        return finish(rate_hz);
    }

  private:
    Error refuse(const std::string& what) const { return badInput(m_path.string(), what); }

    Status checkFile() const {
        struct stat info {};
        if (::stat(m_path.c_str(), &info) != 0)
            return refuse("there is no such file; check the name");
        if (!S_ISREG(info.st_mode))
            return refuse("is not a file; choose a WAV or FLAC recording");
        if (::access(m_path.c_str(), R_OK) != 0)
            return refuse("cannot be read; check its permissions");
        if (info.st_size == 0)
            return refuse("is empty; record or copy it again");
        return {};
    }

    Status open() {
        if (const Status there = checkFile(); !there)
            return there;
        av_log_set_level(AV_LOG_QUIET);
        AVFormatContext* raw = nullptr;
        AVDictionary* options = nullptr;
        av_dict_set(&options, "protocol_whitelist", "file", 0);
        av_dict_set(&options, "format_whitelist", "wav,w64,flac", 0);
        const int code =
            avformat_open_input(&raw, ("file:" + m_path.string()).c_str(), nullptr, &options);
        av_dict_free(&options);
        if (code < 0)
            return refuse("is not a WAV or FLAC recording, or is damaged at its start; export it "
                          "again as WAV");
        m_format.reset(raw);
        if (avformat_find_stream_info(raw, nullptr) < 0)
            return refuse("has a damaged header; export it again as WAV");
        const AVCodec* codec = nullptr;
        m_stream = av_find_best_stream(raw, AVMEDIA_TYPE_AUDIO, -1, -1, &codec, 0);
        if (m_stream < 0 || !codec)
            return refuse("holds no sound this version can read; export it as PCM WAV or FLAC");
        m_codec.reset(avcodec_alloc_context3(codec));
        const AVCodecParameters* parameters = raw->streams[m_stream]->codecpar;
        if (!m_codec || avcodec_parameters_to_context(m_codec.get(), parameters) < 0 ||
            avcodec_open2(m_codec.get(), codec, nullptr) < 0)
            return refuse("holds sound that cannot be decoded; export it again as WAV");
        m_rate_hz = parameters->sample_rate;
        m_channels = parameters->ch_layout.nb_channels;
        if (m_rate_hz < 4000 || m_rate_hz > 768000 || m_channels < 1 || m_channels > kMaxChannels)
            return refuse(
                "has a sample rate or channel count no recording has; export it again as WAV");
        const AVStream* stream = raw->streams[m_stream];
        if (stream->duration > 0)
            m_promised_s = static_cast<double>(stream->duration) * av_q2d(stream->time_base);
        if (m_promised_s > m_limits.longest_s)
            return refuse("is longer than " +
                          std::to_string(static_cast<int>(m_limits.longest_s / 3600)) +
                          " hours; cut out the part you need");
        m_damaged = riffIsCutOff();
        m_samples.resize(static_cast<std::size_t>(m_channels));
        return {};
    }

    // FFmpeg takes the end of the file for the end of a WAV; the header knows how much there should
    // be.
    bool riffIsCutOff() const {
        std::ifstream in(m_path, std::ios::binary);
        std::array<unsigned char, 8> head{};
        in.read(reinterpret_cast<char*>(head.data()), head.size());
        if (!in || std::memcmp(head.data(), "RIFF", 4) != 0)
            return false;
        const std::uint64_t size =
            head[4] | head[5] << 8U | head[6] << 16U | static_cast<std::uint64_t>(head[7]) << 24U;
        std::error_code code;
        const auto there = std::filesystem::file_size(m_path, code);
        return !code && size != 0 && size != 0xFFFFFFFFU &&
               there + 1024 < size; // streams leave the size open
    }

    Status readAll() {
        const std::unique_ptr<AVPacket, PacketCloser> packet(av_packet_alloc());
        const std::unique_ptr<AVFrame, FrameCloser> frame(av_frame_alloc());
        while (av_read_frame(m_format.get(), packet.get()) >= 0) {
            const bool ours = packet->stream_index == m_stream;
            if (ours && avcodec_send_packet(m_codec.get(), packet.get()) < 0)
                m_damaged = true;
            av_packet_unref(packet.get());
            if (ours)
                if (const Status took = takeFrames(frame.get()); !took)
                    return took;
            if (m_job.cancelRequested())
                return cancelled();
        }
        avcodec_send_packet(m_codec.get(), nullptr);
        return takeFrames(frame.get());
    }

    Status takeFrames(AVFrame* frame) {
        while (avcodec_receive_frame(m_codec.get(), frame) >= 0) {
            if (frame->ch_layout.nb_channels != m_channels || frame->sample_rate != m_rate_hz)
                return refuse(
                    "changes its sample rate or channels in the middle; export it again as WAV");
            if (const Status added = append(frame); !added)
                return added;
            const double at_s = static_cast<double>(m_samples[0].size()) / m_rate_hz;
            if (at_s > m_limits.longest_s)
                return refuse("is longer than it should be; cut out the part you need");
            m_job.report(at_s, std::max(at_s, m_promised_s));
        }
        return {};
    }

    Status append(AVFrame* frame) {
        if (!m_planar) {
            SwrContext* raw = nullptr;
            if (swr_alloc_set_opts2(&raw,
                                    &frame->ch_layout,
                                    AV_SAMPLE_FMT_FLTP,
                                    m_rate_hz,
                                    &frame->ch_layout,
                                    static_cast<AVSampleFormat>(frame->format),
                                    m_rate_hz,
                                    0,
                                    nullptr) < 0 ||
                swr_init(raw) < 0) {
                swr_free(&raw);
                return refuse("has a sample format that cannot be read; export it again as WAV");
            }
            m_planar.reset(raw);
        }
        std::vector<std::uint8_t*> targets;
        for (auto& channel : m_samples) {
            channel.resize(channel.size() + static_cast<std::size_t>(frame->nb_samples));
            targets.push_back(reinterpret_cast<std::uint8_t*>(channel.data() + channel.size() -
                                                              frame->nb_samples));
        }
        const int got = swr_convert(m_planar.get(),
                                    targets.data(),
                                    frame->nb_samples,
                                    const_cast<const std::uint8_t**>(frame->extended_data),
                                    frame->nb_samples);
        if (got != frame->nb_samples)
            return refuse("could not be converted; export it again as WAV");
        return {};
    }

    Result<DecodedSound> finish(double rate_hz) {
        DecodedSound decoded;
        decoded.file_rate_hz = m_rate_hz;
        decoded.file_channels = m_channels;
        const double length_s = static_cast<double>(m_samples[0].size()) / m_rate_hz;
        if (length_s < m_limits.shortest_s)
            return refuse("is only " + std::to_string(static_cast<int>(length_s * 1000)) +
                          " ms long; a take needs at least " +
                          std::to_string(static_cast<int>(m_limits.shortest_s * 1000)) + " ms");
        repairSamples(decoded);
        mixDown(decoded);
        if (rms(decoded.mono.samples) < kSilence)
            return refuse("is silent; check the recording level and the chosen input");
        if (m_damaged || length_s < m_promised_s - 0.05)
            decoded.cautions.push_back(SoundCaution::Truncated);
        if (m_rate_hz < 16000)
            decoded.cautions.push_back(SoundCaution::LowRate);
        if (rate_hz > 0.0 && rate_hz != decoded.mono.rate_hz) {
            auto resampled = resample(decoded.mono.view(), rate_hz);
            if (!resampled)
                return resampled.error();
            decoded.mono = std::move(*resampled);
        }
        return decoded;
    }

    static double rms(const std::vector<float>& x) {
        double sum = 0.0;
        for (const float v : x)
            sum += static_cast<double>(v) * v;
        return x.empty() ? 0.0 : std::sqrt(sum / static_cast<double>(x.size()));
    }

    void repairSamples(DecodedSound& decoded) {
        bool bad = false;
        std::size_t at_limit = 0;
        for (auto& channel : m_samples)
            for (float& v : channel) {
                if (!std::isfinite(v) || std::abs(v) > 1e6F) {
                    v = 0.0F;
                    bad = true;
                }
                at_limit += std::abs(v) >= kFullScale ? 1 : 0;
            }
        if (bad)
            decoded.cautions.push_back(SoundCaution::BadSamples);
        // A handful of full-scale samples is a well-set level; a fraction of a per mille is
        // clipping.
        if (at_limit > 20 && at_limit > m_samples[0].size() * m_samples.size() / 20000)
            decoded.cautions.push_back(SoundCaution::Clipped);
    }

    void mixDown(DecodedSound& decoded) {
        std::vector<double> levels;
        for (const auto& channel : m_samples)
            levels.push_back(rms(channel));
        const double loudest = *std::max_element(levels.begin(), levels.end());
        std::vector<std::size_t> alive;
        for (std::size_t c = 0; c < levels.size(); ++c)
            if (levels[c] > 0.003 * loudest && levels[c] > 0.0) // within 50 dB of the loudest
                alive.push_back(c);
        if (!alive.empty() && alive.size() < levels.size())
            decoded.cautions.push_back(SoundCaution::DeadChannel);
        decoded.mono.rate_hz = m_rate_hz;
        if (alive.empty())
            alive.push_back(0);
        decoded.mono.samples = std::move(m_samples[alive[0]]);
        for (std::size_t k = 1; k < alive.size(); ++k)
            for (std::size_t i = 0; i < decoded.mono.samples.size(); ++i)
                decoded.mono.samples[i] += m_samples[alive[k]][i];
        for (float& v : decoded.mono.samples)
            v /= static_cast<float>(alive.size());
    }

    std::filesystem::path m_path;
    const JobControl& m_job;
    DecodeLimits m_limits;
    FormatPtr m_format;
    CodecPtr m_codec;
    ResamplerPtr m_planar;
    int m_stream = -1;
    int m_rate_hz = 0;
    int m_channels = 0;
    double m_promised_s = 0.0;
    bool m_damaged = false;
    std::vector<std::vector<float>> m_samples;
};

} // namespace

Result<DecodedSound> decodeSound(const std::filesystem::path& path,
                                 double rate_hz,
                                 const JobControl& job,
                                 const DecodeLimits& limits) {
    return Decoder(path, job, limits).run(rate_hz);
}

Result<Sound> resample(SoundView sound, double rate_hz) {
    AVChannelLayout mono = AV_CHANNEL_LAYOUT_MONO;
    SwrContext* raw = nullptr;
    const int in_rate = static_cast<int>(std::lround(sound.rate_hz));
    const int out_rate = static_cast<int>(std::lround(rate_hz));
    if (swr_alloc_set_opts2(&raw,
                            &mono,
                            AV_SAMPLE_FMT_FLT,
                            out_rate,
                            &mono,
                            AV_SAMPLE_FMT_FLT,
                            in_rate,
                            0,
                            nullptr) < 0 ||
        swr_init(raw) < 0) {
        swr_free(&raw);
        return Error{ErrorKind::Internal, {}, "the sound could not be resampled"};
    }
    const ResamplerPtr context(raw);
    Sound out;
    out.rate_hz = out_rate;
    const auto expected = static_cast<std::size_t>(
        std::ceil(static_cast<double>(sound.samples.size()) * out_rate / in_rate));
    out.samples.resize(expected + 64);
    std::size_t written = 0;
    constexpr std::size_t kBlock = 1U << 20U;
    const auto convert = [&](const float* in, std::size_t count) {
        if (written >= out.samples.size())
            out.samples.resize(written + 4096);
        auto* target = reinterpret_cast<std::uint8_t*>(out.samples.data() + written);
        const auto* source = reinterpret_cast<const std::uint8_t*>(in);
        const int got = swr_convert(context.get(),
                                    &target,
                                    static_cast<int>(out.samples.size() - written),
                                    in ? &source : nullptr,
                                    static_cast<int>(count));
        written += static_cast<std::size_t>(std::max(0, got));
        return got;
    };
    for (std::size_t at = 0; at < sound.samples.size(); at += kBlock)
        convert(sound.samples.data() + at, std::min(kBlock, sound.samples.size() - at));
    while (convert(nullptr, 0) > 0) {
    }
    out.samples.resize(std::min(written, expected));
    return out;
}

} // namespace wirenote
