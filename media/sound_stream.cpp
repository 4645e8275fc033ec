#include "media/sound_stream.h"

#include "media/ffmpeg.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstring>
#include <fstream>

namespace wirenote {
namespace {

constexpr int kMaxChannels = 64;
constexpr double kWarmUp_s = 0.12;      // MP3, AAC and Opus need some frames before they are exact
constexpr double kStampSlack_s = 0.012; // stamps are rounded; smaller steps are no gaps

// FFmpeg takes the end of the file for the end of a WAV; the header knows how much there should be.
bool riffIsCutOff(const std::filesystem::path& path) {
    std::ifstream in(path, std::ios::binary);
    std::array<unsigned char, 8> head{};
    in.read(reinterpret_cast<char*>(head.data()), head.size());
    if (!in || std::memcmp(head.data(), "RIFF", 4) != 0)
        return false;
    const std::uint64_t size =
        head[4] | head[5] << 8U | head[6] << 16U | static_cast<std::uint64_t>(head[7]) << 24U;
    std::error_code code;
    const auto there = std::filesystem::file_size(path, code);
    return !code && size != 0 && size != 0xFFFFFFFFU &&
           there + 1024 < size; // streams leave the size open
}

} // namespace

struct SoundStream::State {
    std::filesystem::path path;
    ffmpeg::Owned<AVFormatContext> format;
    ffmpeg::Owned<AVCodecContext> codec;
    ffmpeg::Owned<SwrContext> planar;
    ffmpeg::Owned<AVPacket> packet{av_packet_alloc()};
    ffmpeg::Owned<AVFrame> frame{av_frame_alloc()};
    int stream = -1;
    int rate_hz = 0;
    int channels = 0;
    double zero_s = 0.0;
    double promised_s = 0.0;
    double next_s = 0.0;     // where the next frame should start
    bool next_known = false; // after a seek only the stamp tells
    bool drained = false;
    bool damaged = false;

    Status open(int wanted);
    Result<bool> receive(Block& block);
    Status toPlanar(Block& block);
    double placeOf(const AVFrame& decoded);
    double onFrameGrid(double stamped_s, int frame_samples) const;
};

Status SoundStream::State::open(int wanted) {
    auto opened = ffmpeg::openContainer(path);
    if (!opened)
        return opened.error();
    format = std::move(*opened);
    stream = wanted >= 0
                 ? wanted
                 : av_find_best_stream(format.get(), AVMEDIA_TYPE_AUDIO, -1, -1, nullptr, 0);
    if (stream < 0 || stream >= static_cast<int>(format->nb_streams) ||
        format->streams[stream]->codecpar->codec_type != AVMEDIA_TYPE_AUDIO)
        return badInput(path.string(), "holds no such sound; choose another of its sound streams");
    for (unsigned i = 0; i < format->nb_streams; ++i) // what nobody reads is not even split off
        format->streams[i]->discard =
            static_cast<int>(i) == stream ? AVDISCARD_DEFAULT : AVDISCARD_ALL;
    auto decoder = ffmpeg::openDecoder(path, *format, stream, 1);
    if (!decoder)
        return decoder.error();
    codec = std::move(*decoder);
    const AVStream& s = *format->streams[stream];
    rate_hz = s.codecpar->sample_rate;
    channels = s.codecpar->ch_layout.nb_channels;
    if (rate_hz < 4000 || rate_hz > 768000 || channels < 1 || channels > kMaxChannels)
        return badInput(
            path.string(),
            "has a sample rate or channel count no recording has; export it again as WAV");
    zero_s = ffmpeg::zeroOf(*format);
    promised_s = ffmpeg::lengthOf(*format, stream);
    if (format->duration_estimation_method == AVFMT_DURATION_FROM_BITRATE) // it was read to its end
        av_seek_frame(format.get(), stream, 0, AVSEEK_FLAG_BACKWARD);
    damaged = riffIsCutOff(path);
    return {};
}

// Stamps say where a frame belongs; where they only wobble, the count of samples is the better
// clock.
double SoundStream::State::placeOf(const AVFrame& decoded) {
    const std::int64_t stamp = decoded.best_effort_timestamp;
    const double length = static_cast<double>(decoded.nb_samples) / rate_hz;
    double at = next_s;
    if (stamp != AV_NOPTS_VALUE) {
        const double stamped =
            static_cast<double>(stamp) * av_q2d(format->streams[stream]->time_base) - zero_s;
        if (!next_known)
            at = onFrameGrid(stamped, decoded.nb_samples);
        // A stamp that goes back would put sound over sound: it is not believed.
        else if (stamped > next_s + kStampSlack_s)
            at = stamped;
        if (next_known && stamped < next_s - 1.0)
            damaged = true;
    }
    next_known = true;
    next_s = at + length;
    return at;
}

// Some containers round stamps to milliseconds. Where the coder's frames all have one length, the
// frame's own number gives its place to the sample.
double SoundStream::State::onFrameGrid(double stamped_s, int frame_samples) const {
    const AVStream& s = *format->streams[stream];
    const AVCodecID id = s.codecpar->codec_id;
    const bool even = id == AV_CODEC_ID_OPUS || id == AV_CODEC_ID_FLAC || id == AV_CODEC_ID_AAC ||
                      id == AV_CODEC_ID_MP3 || id == AV_CODEC_ID_AC3;
    const double rounding_s = av_q2d(s.time_base);
    if (!even || frame_samples <= 0 || rounding_s * rate_hz < 2.0)
        return stamped_s;
    const double grid_s = static_cast<double>(frame_samples) / rate_hz;
    const double padding_s = static_cast<double>(s.codecpar->initial_padding) / rate_hz;
    const double snapped = std::round((stamped_s + padding_s) / grid_s) * grid_s - padding_s;
    return std::abs(snapped - stamped_s) < 1.1 * rounding_s ? snapped : stamped_s;
}

Status SoundStream::State::toPlanar(Block& block) {
    if (frame->ch_layout.nb_channels != channels || frame->sample_rate != rate_hz)
        return badInput(
            path.string(),
            "changes its sample rate or channels in the middle; export it again as WAV");
    if (!planar) {
        SwrContext* raw = nullptr;
        if (swr_alloc_set_opts2(&raw,
                                &frame->ch_layout,
                                AV_SAMPLE_FMT_FLTP,
                                rate_hz,
                                &frame->ch_layout,
                                static_cast<AVSampleFormat>(frame->format),
                                rate_hz,
                                0,
                                nullptr) < 0 ||
            swr_init(raw) < 0) {
            swr_free(&raw);
            return badInput(path.string(),
                            "holds samples of an unknown kind; export it again as WAV");
        }
        planar.reset(raw);
    }
    block.channels.resize(static_cast<std::size_t>(channels));
    std::array<std::uint8_t*, kMaxChannels> out{};
    for (std::size_t c = 0; c < block.channels.size(); ++c) {
        block.channels[c].resize(static_cast<std::size_t>(frame->nb_samples));
        out[c] = reinterpret_cast<std::uint8_t*>(block.channels[c].data());
    }
    const int got = swr_convert(planar.get(),
                                out.data(),
                                frame->nb_samples,
                                const_cast<const std::uint8_t**>(frame->extended_data),
                                frame->nb_samples);
    for (auto& channel : block.channels)
        channel.resize(static_cast<std::size_t>(std::max(0, got)));
    return {};
}

Result<bool> SoundStream::State::receive(Block& block) {
    const int code = avcodec_receive_frame(codec.get(), frame.get());
    if (code < 0)
        return false;
    block.start_s = placeOf(*frame);
    if (const Status converted = toPlanar(block); !converted)
        return converted.error();
    return true;
}

SoundStream::SoundStream(std::unique_ptr<State> state) : m(std::move(state)) {}
SoundStream::~SoundStream() = default;

Result<std::unique_ptr<SoundStream>> SoundStream::open(const std::filesystem::path& path,
                                                       int stream) {
    auto state = std::make_unique<State>();
    state->path = path;
    if (const Status opened = state->open(stream); !opened)
        return opened.error();
    return std::unique_ptr<SoundStream>(new SoundStream(std::move(state)));
}

double SoundStream::rate_hz() const {
    return m->rate_hz;
}
int SoundStream::channels() const {
    return m->channels;
}
double SoundStream::promised_s() const {
    return m->promised_s;
}
bool SoundStream::damaged() const {
    return m->damaged;
}

Result<bool> SoundStream::next(Block& block) {
    for (;;) {
        auto got = m->receive(block);
        if (!got || *got)
            return got;
        if (m->drained)
            return false;
        const int read = av_read_frame(m->format.get(), m->packet.get());
        if (read < 0) {
            if (read != AVERROR_EOF)
                m->damaged = true;
            m->drained = true;
            avcodec_send_packet(m->codec.get(), nullptr);
            continue;
        }
        if (m->packet->stream_index == m->stream &&
            avcodec_send_packet(m->codec.get(), m->packet.get()) < 0)
            m->damaged = true;
        av_packet_unref(m->packet.get());
    }
}

void SoundStream::seek(double time_s) {
    const AVStream& s = *m->format->streams[m->stream];
    const double from_s = std::max(0.0, time_s - kWarmUp_s);
    const auto stamp =
        static_cast<std::int64_t>(std::floor((from_s + m->zero_s) / av_q2d(s.time_base)));
    const bool to_start = from_s <= 0.0;
    int code = av_seek_frame(m->format.get(),
                             m->stream,
                             to_start && s.start_time != AV_NOPTS_VALUE
                                 ? std::min<std::int64_t>(stamp, s.start_time)
                                 : stamp,
                             AVSEEK_FLAG_BACKWARD);
    if (code < 0) // some files only know their beginning
        code = av_seek_frame(m->format.get(), -1, 0, AVSEEK_FLAG_BACKWARD);
    if (code < 0)
        m->damaged = true;
    avcodec_flush_buffers(m->codec.get());
    m->drained = false;
    m->next_s = 0.0;
    m->next_known = false;
}

} // namespace wirenote
