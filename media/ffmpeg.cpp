#include "media/ffmpeg.h"

#include <algorithm>
#include <string>
#include <sys/stat.h>
#include <unistd.h>

namespace wirenote::ffmpeg {
namespace {

// Containers that hold their own data. Playlists and the like are not among them.
constexpr const char* kContainers = "wav,w64,flac,mp3,aac,ogg,mov,matroska,aiff,avi";

Status checkFile(const std::filesystem::path& path) {
    const auto refuse = [&](const char* what) { return badInput(path.string(), what); };
    struct stat info {};
    if (::stat(path.c_str(), &info) != 0)
        return refuse("there is no such file; check the name");
    if (!S_ISREG(info.st_mode))
        return refuse("is not a file; choose a recording");
    if (::access(path.c_str(), R_OK) != 0)
        return refuse("cannot be read; check its permissions");
    if (info.st_size == 0)
        return refuse("is empty; record or copy it again");
    return {};
}

// Protected packets say so themselves; the streams of such a file look like any other.
bool firstPacketsAreProtected(AVFormatContext& format) {
    const Owned<AVPacket> packet(av_packet_alloc());
    bool yes = false;
    for (int i = 0; i < 8 && !yes && av_read_frame(&format, packet.get()) >= 0; ++i) {
        yes =
            av_packet_get_side_data(packet.get(), AV_PKT_DATA_ENCRYPTION_INFO, nullptr) != nullptr;
        av_packet_unref(packet.get());
    }
    return yes;
}

bool isProtected(const AVStream& stream) {
    for (int i = 0; i < stream.nb_side_data; ++i)
        if (stream.side_data[i].type == AV_PKT_DATA_ENCRYPTION_INIT_INFO)
            return true;
    const std::uint32_t tag = stream.codecpar->codec_tag;
    return tag == MKTAG('e', 'n', 'c', 'a') || tag == MKTAG('e', 'n', 'c', 'v') ||
           tag == MKTAG('d', 'r', 'm', 's') || tag == MKTAG('d', 'r', 'm', 'i');
}

Result<Owned<AVFormatContext>> openOnce(const std::filesystem::path& path) {
    AVFormatContext* raw = nullptr;
    AVDictionary* options = nullptr;
    av_dict_set(&options, "protocol_whitelist", "file", 0);
    av_dict_set(&options, "format_whitelist", kContainers, 0);
    const int code =
        avformat_open_input(&raw, ("file:" + path.string()).c_str(), nullptr, &options);
    av_dict_free(&options);
    if (code < 0)
        return badInput(path.string(),
                        "is not a recording Wirenote knows, or is damaged at its start; export it "
                        "again as WAV, FLAC, MP3, M4A, Ogg, MP4, MKV or WebM");
    Owned<AVFormatContext> format(raw);
    if (avformat_find_stream_info(raw, nullptr) < 0)
        return badInput(path.string(), "has a damaged header; export or copy it again");
    return format;
}

} // namespace

Result<Owned<AVFormatContext>> openContainer(const std::filesystem::path& path) {
    if (const Status there = checkFile(path); !there)
        return there.error();
    av_log_set_level(AV_LOG_QUIET);
    auto format = openOnce(path);
    if (!format)
        return format;
    bool locked = false;
    for (unsigned i = 0; i < (*format)->nb_streams; ++i)
        locked = locked || isProtected(*(*format)->streams[i]);
    if (!locked && std::string((*format)->iformat->name).find("mp4") != std::string::npos) {
        locked = firstPacketsAreProtected(**format);
        format = openOnce(path); // from the start again
    }
    if (locked)
        return badInput(path.string(),
                        "is protected (encrypted) and cannot be read; use an open copy");
    return format;
}

Result<Owned<AVCodecContext>> openDecoder(const std::filesystem::path& path,
                                          const AVFormatContext& format,
                                          int stream,
                                          int threads) {
    const AVCodecParameters* parameters = format.streams[stream]->codecpar;
    const AVCodec* codec = avcodec_find_decoder(parameters->codec_id);
    Owned<AVCodecContext> context(codec ? avcodec_alloc_context3(codec) : nullptr);
    if (!context || avcodec_parameters_to_context(context.get(), parameters) < 0)
        return badInput(path.string(),
                        "holds a kind of coding that cannot be decoded; export it again");
    context->pkt_timebase = format.streams[stream]->time_base;
    context->thread_count = threads;
    if (avcodec_open2(context.get(), codec, nullptr) < 0)
        return badInput(path.string(),
                        "holds a kind of coding that cannot be decoded; export it again");
    return context;
}

double zeroOf(const AVFormatContext& format) {
    bool moving_picture = false;
    for (unsigned i = 0; i < format.nb_streams; ++i)
        moving_picture =
            moving_picture || (format.streams[i]->codecpar->codec_type == AVMEDIA_TYPE_VIDEO &&
                               !(format.streams[i]->disposition & AV_DISPOSITION_ATTACHED_PIC));
    if (moving_picture)
        return format.start_time == AV_NOPTS_VALUE
                   ? 0.0
                   : std::max(0.0, static_cast<double>(format.start_time) / AV_TIME_BASE);
    // Of a file of sound alone the first sample is second 0, whatever its stamp says (MP3 starts
    // its count before the coder's padding).
    const int sound = av_find_best_stream(
        const_cast<AVFormatContext*>(&format), AVMEDIA_TYPE_AUDIO, -1, -1, nullptr, 0);
    if (sound < 0 || format.streams[sound]->start_time == AV_NOPTS_VALUE)
        return 0.0;
    const AVStream& s = *format.streams[sound];
    return std::max(0.0, static_cast<double>(s.start_time) * av_q2d(s.time_base));
}

double lengthOf(AVFormatContext& format, int stream) {
    const AVStream& s = *format.streams[stream];
    if (format.duration_estimation_method != AVFMT_DURATION_FROM_BITRATE) {
        if (s.duration > 0)
            return static_cast<double>(s.duration) * av_q2d(s.time_base);
        return format.duration > 0 ? static_cast<double>(format.duration) / AV_TIME_BASE : 0.0;
    }
    const Owned<AVPacket> packet(av_packet_alloc());
    std::int64_t length = 0;
    while (av_read_frame(&format, packet.get()) >= 0) {
        if (packet->stream_index == stream)
            length += packet->duration;
        av_packet_unref(packet.get());
    }
    return static_cast<double>(length) * av_q2d(s.time_base);
}

} // namespace wirenote::ffmpeg
