#include "media/film_file.h"

#include "media/ffmpeg.h"

#include <algorithm>
#include <cmath>

namespace wirenote {
namespace {

using ffmpeg::Owned;

constexpr int kMillisecond = 1000; // WebM counts in these
constexpr std::int64_t kSoundBitsASecond = 96000;
constexpr std::int64_t kPictureBitsASecond = 900000;
constexpr int kPicturesToKey = 100;

struct MuxerCloser {
    void operator()(AVFormatContext* c) const {
        if (c->pb) {
            std::uint8_t* bytes = nullptr;
            avio_close_dyn_buf(c->pb, &bytes);
            av_free(bytes);
            c->pb = nullptr;
        }
        avformat_free_context(c);
    }
};

Error notMade() {
    return {ErrorKind::Internal, {}, "the film could not be encoded"};
}

// One coded stream of the file.
struct CodedStream {
    Owned<AVCodecContext> coder;
    AVStream* stream = nullptr;
};

} // namespace

struct FilmFile::State {
    std::unique_ptr<AVFormatContext, MuxerCloser> file;
    CodedStream heard, seen;
    Owned<SwsContext> scaler;
    int picture_width = 0, picture_height = 0; // that the scaler was made for
    std::int64_t sound_at = 0;                 // frames of the film
    std::int64_t last_pts = -1;

    bool addStream(CodedStream& coded, const AVCodec* codec, AVDictionary* options) const {
        if (file->oformat->flags & AVFMT_GLOBALHEADER)
            coded.coder->flags |= AV_CODEC_FLAG_GLOBAL_HEADER;
        coded.coder->flags |= AV_CODEC_FLAG_BITEXACT;
        const bool opened = avcodec_open2(coded.coder.get(), codec, &options) >= 0;
        av_dict_free(&options);
        coded.stream = opened ? avformat_new_stream(file.get(), nullptr) : nullptr;
        if (!coded.stream)
            return false;
        coded.stream->time_base = coded.coder->time_base;
        return avcodec_parameters_from_context(coded.stream->codecpar, coded.coder.get()) >= 0;
    }

    bool openSound() {
        const AVCodec* codec = avcodec_find_encoder_by_name("libopus");
        heard.coder.reset(codec ? avcodec_alloc_context3(codec) : nullptr);
        if (!heard.coder)
            return false;
        heard.coder->sample_rate = kRate_hz;
        heard.coder->sample_fmt = AV_SAMPLE_FMT_FLT;
        heard.coder->bit_rate = kSoundBitsASecond;
        heard.coder->time_base = {1, kRate_hz};
        av_channel_layout_default(&heard.coder->ch_layout, 2);
        return addStream(heard, codec, nullptr);
    }

    bool openPictures(const Options& options) {
        const AVCodec* codec = avcodec_find_encoder_by_name("libvpx");
        seen.coder.reset(codec ? avcodec_alloc_context3(codec) : nullptr);
        if (!seen.coder)
            return false;
        seen.coder->width = options.width & ~1;
        seen.coder->height = options.height & ~1;
        seen.coder->pix_fmt = AV_PIX_FMT_YUV420P;
        seen.coder->time_base = {1, kMillisecond};
        seen.coder->bit_rate = kPictureBitsASecond;
        seen.coder->gop_size = kPicturesToKey;
        seen.coder->thread_count = 2;
        AVDictionary* quickly = nullptr;
        av_dict_set(&quickly, "deadline", "realtime", 0);
        av_dict_set(&quickly, "cpu-used", "6", 0);
        return addStream(seen, codec, quickly);
    }

    bool addChapters(const std::vector<FilmChapter>& chapters) const {
        std::vector<AVChapter*> made;
        for (const FilmChapter& chapter : chapters) {
            auto* one = chapter.span.empty()
                            ? nullptr
                            : static_cast<AVChapter*>(av_mallocz(sizeof(AVChapter)));
            if (!one)
                continue;
            one->id = static_cast<std::int64_t>(made.size()) + 1;
            one->time_base = {1, kMillisecond};
            one->start = std::llround(kMillisecond * chapter.span.start_s);
            one->end = std::llround(kMillisecond * chapter.span.end_s);
            av_dict_set(&one->metadata, "title", chapter.title.c_str(), 0);
            made.push_back(one);
        }
        if (made.empty())
            return true;
        // Freed with the file.
        file->chapters = static_cast<AVChapter**>(av_malloc(made.size() * sizeof(AVChapter*)));
        if (!file->chapters)
            return false;
        std::ranges::copy(made, file->chapters);
        file->nb_chapters = static_cast<unsigned>(made.size());
        return true;
    }

    bool open(const Options& options) {
        av_log_set_level(AV_LOG_QUIET); // errors are told by what comes back
        AVFormatContext* made = nullptr;
        if (avformat_alloc_output_context2(&made, nullptr, "webm", nullptr) < 0)
            return false;
        file.reset(made);
        if (avio_open_dyn_buf(&file->pb) < 0 || !openSound() ||
            (options.width > 0 && !openPictures(options)) || !addChapters(options.chapters))
            return false;
        av_dict_set(&file->metadata, "title", options.title.c_str(), 0);
        // What Opus begins before the sound is said as its delay: nothing is to be put off for it.
        file->avoid_negative_ts = AVFMT_AVOID_NEG_TS_DISABLED;
        // The same recording gives the same bytes.
        file->flags |= AVFMT_FLAG_BITEXACT;
        return avformat_write_header(file.get(), nullptr) >= 0;
    }

    Owned<AVFrame> coded(std::int64_t pts, const PictureView& picture) {
        if (picture.width != picture_width || picture.height != picture_height) {
            picture_width = picture.width;
            picture_height = picture.height;
            scaler.reset(sws_getContext(picture_width,
                                        picture_height,
                                        AV_PIX_FMT_RGB24,
                                        seen.coder->width,
                                        seen.coder->height,
                                        AV_PIX_FMT_YUV420P,
                                        SWS_BILINEAR,
                                        nullptr,
                                        nullptr,
                                        nullptr));
        }
        Owned<AVFrame> frame(av_frame_alloc());
        frame->format = AV_PIX_FMT_YUV420P;
        frame->width = seen.coder->width;
        frame->height = seen.coder->height;
        frame->pts = pts;
        if (!scaler || av_frame_get_buffer(frame.get(), 0) < 0)
            return nullptr;
        const std::uint8_t* rows[1] = {picture.bytes.data()};
        const int strides[1] = {3 * picture.width};
        sws_scale(scaler.get(),
                  static_cast<const std::uint8_t* const*>(rows),
                  static_cast<const int*>(strides),
                  0,
                  picture.height,
                  frame->data,
                  frame->linesize);
        return frame;
    }

    // A frame, or null at the end; what the coder has ready goes into the file.
    bool send(CodedStream& to, const AVFrame* frame) const {
        if (avcodec_send_frame(to.coder.get(), frame) < 0)
            return false;
        const Owned<AVPacket> packet(av_packet_alloc());
        for (;;) {
            const int got = avcodec_receive_packet(to.coder.get(), packet.get());
            if (got == AVERROR(EAGAIN) || got == AVERROR_EOF)
                return true;
            if (got < 0)
                return false;
            av_packet_rescale_ts(packet.get(), to.coder->time_base, to.stream->time_base);
            packet->stream_index = to.stream->index;
            if (av_interleaved_write_frame(file.get(), packet.get()) < 0)
                return false;
        }
    }
};

FilmFile::FilmFile(std::unique_ptr<State> state) : m(std::move(state)) {}
FilmFile::~FilmFile() = default;

Result<std::unique_ptr<FilmFile>> FilmFile::begin(const Options& options) {
    auto state = std::make_unique<State>();
    if (!state->open(options))
        return notMade();
    return std::unique_ptr<FilmFile>(new FilmFile(std::move(state)));
}

std::size_t FilmFile::soundBlock() const {
    return static_cast<std::size_t>(m->heard.coder->frame_size);
}

double FilmFile::sound_s() const {
    return static_cast<double>(m->sound_at) / kRate_hz;
}

bool FilmFile::addSound(std::span<const float> stereo) {
    if (stereo.size() != 2 * soundBlock())
        return false;
    Owned<AVFrame> frame(av_frame_alloc());
    frame->nb_samples = m->heard.coder->frame_size;
    frame->format = AV_SAMPLE_FMT_FLT;
    frame->sample_rate = kRate_hz;
    av_channel_layout_copy(&frame->ch_layout, &m->heard.coder->ch_layout);
    if (av_frame_get_buffer(frame.get(), 0) < 0)
        return false;
    std::ranges::copy(stereo, reinterpret_cast<float*>(frame->data[0]));
    frame->pts = m->sound_at;
    m->sound_at += frame->nb_samples;
    return m->send(m->heard, frame.get());
}

bool FilmFile::addPicture(double time_s, const PictureView& picture) {
    const std::int64_t pts = std::llround(kMillisecond * std::max(0.0, time_s));
    if (!m->seen.stream || pts <= m->last_pts)
        return m->seen.stream != nullptr;
    m->last_pts = pts;
    const Owned<AVFrame> frame = m->coded(pts, picture);
    return frame && m->send(m->seen, frame.get());
}

Result<std::string> FilmFile::finish() {
    if (!m->send(m->heard, nullptr) || (m->seen.stream && !m->send(m->seen, nullptr)) ||
        av_write_trailer(m->file.get()) < 0)
        return notMade();
    std::uint8_t* bytes = nullptr;
    const int count = avio_close_dyn_buf(m->file->pb, &bytes);
    m->file->pb = nullptr;
    std::string film(reinterpret_cast<const char*>(bytes), static_cast<std::size_t>(count));
    av_free(bytes);
    return film;
}

} // namespace wirenote
