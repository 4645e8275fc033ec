#include "media/slow_film.h"

#include "media/cached_sound.h"
#include "media/ffmpeg.h"
#include "media/media_info.h"
#include "media/picture_reader.h"
#include "media/time_stretch.h"

#include <algorithm>
#include <cmath>

namespace wirenote {
namespace {

using ffmpeg::Owned;

constexpr int kSoundRateHz = 48000; // of Opus
constexpr int kMillisecond = 1000;  // WebM counts in these
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
    return {ErrorKind::Internal, {}, "the slower recording could not be encoded"};
}

// One coded stream of the file.
struct CodedStream {
    Owned<AVCodecContext> coder;
    AVStream* stream = nullptr;
};

class FilmWriter {
  public:
    FilmWriter(const SlowFilm& film, const JobControl& job) : m_film(film), m_job(job) {}

    Status open(const std::filesystem::path& recording) {
        const auto info = readMediaInfo(recording);
        if (!info)
            return info.error();
        auto sound = CachedSound::open(
            recording, {.stream = m_film.sound_stream, .rate_hz = kSoundRateHz, .most_blocks = 16});
        if (!sound)
            return sound.error();
        m_sound = *sound;
        m_reader = std::make_unique<StretchedReader>(
            *m_sound, std::llround(m_film.span.start_s * kSoundRateHz), m_film.speed, 0.0);
        if (info->picture.exists()) {
            auto pictures = PictureReader::open(recording, m_film.max_width);
            if (!pictures)
                return pictures.error();
            m_pictures = std::move(*pictures);
            m_picture = m_pictures->at(m_film.span.start_s + m_film.offset_s);
        }
        return openFile();
    }

    Result<std::string> write() {
        const double length_s = m_film.span.length_s() / m_film.speed;
        const auto frames = std::llround(length_s * kSoundRateHz);
        while (m_sound_at < frames) {
            if (m_job.cancelRequested())
                return cancelled();
            const double now_s = static_cast<double>(m_sound_at) / kSoundRateHz;
            m_job.report(now_s, length_s);
            if (!picturesUntil(now_s) || !soundBlock())
                return notMade();
        }
        if (!picturesUntil(length_s) || !send(m_heard, nullptr) ||
            (m_seen.stream && !send(m_seen, nullptr)) || av_write_trailer(m_file.get()) < 0)
            return notMade();
        std::uint8_t* bytes = nullptr;
        const int count = avio_close_dyn_buf(m_file->pb, &bytes);
        m_file->pb = nullptr;
        std::string film(reinterpret_cast<const char*>(bytes), static_cast<std::size_t>(count));
        av_free(bytes);
        return film;
    }

  private:
    Status openFile() {
        AVFormatContext* file = nullptr;
        if (avformat_alloc_output_context2(&file, nullptr, "webm", nullptr) < 0)
            return notMade();
        m_file.reset(file);
        if (avio_open_dyn_buf(&m_file->pb) < 0 || !addSound() || (m_picture && !addPicture()) ||
            !addChapters())
            return notMade();
        av_dict_set(&m_file->metadata, "title", m_film.title.c_str(), 0);
        // What Opus begins before the sound is said as its delay: nothing is to be put off for it.
        m_file->avoid_negative_ts = AVFMT_AVOID_NEG_TS_DISABLED;
        // The same recording gives the same bytes.
        m_file->flags |= AVFMT_FLAG_BITEXACT;
        return avformat_write_header(m_file.get(), nullptr) < 0 ? Status(notMade()) : Status();
    }

    bool addStream(CodedStream& coded, const AVCodec* codec, AVDictionary* options) {
        if (m_file->oformat->flags & AVFMT_GLOBALHEADER)
            coded.coder->flags |= AV_CODEC_FLAG_GLOBAL_HEADER;
        coded.coder->flags |= AV_CODEC_FLAG_BITEXACT;
        const bool opened = avcodec_open2(coded.coder.get(), codec, &options) >= 0;
        av_dict_free(&options);
        coded.stream = opened ? avformat_new_stream(m_file.get(), nullptr) : nullptr;
        if (!coded.stream)
            return false;
        coded.stream->time_base = coded.coder->time_base;
        return avcodec_parameters_from_context(coded.stream->codecpar, coded.coder.get()) >= 0;
    }

    bool addSound() {
        const AVCodec* codec = avcodec_find_encoder_by_name("libopus");
        m_heard.coder.reset(codec ? avcodec_alloc_context3(codec) : nullptr);
        if (!m_heard.coder)
            return false;
        m_heard.coder->sample_rate = kSoundRateHz;
        m_heard.coder->sample_fmt = AV_SAMPLE_FMT_FLT;
        m_heard.coder->bit_rate = kSoundBitsASecond;
        m_heard.coder->time_base = {1, kSoundRateHz};
        av_channel_layout_default(&m_heard.coder->ch_layout, 2);
        return addStream(m_heard, codec, nullptr);
    }

    bool addPicture() {
        const AVCodec* codec = avcodec_find_encoder_by_name("libvpx");
        m_seen.coder.reset(codec ? avcodec_alloc_context3(codec) : nullptr);
        if (!m_seen.coder)
            return false;
        m_seen.coder->width = m_picture->width & ~1;
        m_seen.coder->height = m_picture->height & ~1;
        m_seen.coder->pix_fmt = AV_PIX_FMT_YUV420P;
        m_seen.coder->time_base = {1, kMillisecond};
        m_seen.coder->bit_rate = kPictureBitsASecond;
        m_seen.coder->gop_size = kPicturesToKey;
        m_seen.coder->thread_count = 2;
        AVDictionary* options = nullptr;
        av_dict_set(&options, "deadline", "realtime", 0);
        av_dict_set(&options, "cpu-used", "6", 0);
        m_scaler.reset(sws_getContext(m_picture->width,
                                      m_picture->height,
                                      AV_PIX_FMT_RGB24,
                                      m_seen.coder->width,
                                      m_seen.coder->height,
                                      AV_PIX_FMT_YUV420P,
                                      SWS_BILINEAR,
                                      nullptr,
                                      nullptr,
                                      nullptr));
        return m_scaler && addStream(m_seen, codec, options);
    }

    bool addChapters() {
        std::vector<AVChapter*> made;
        for (const FilmChapter& chapter : m_film.chapters) {
            const TimeRange in = {std::max(chapter.span.start_s, m_film.span.start_s),
                                  std::min(chapter.span.end_s, m_film.span.end_s)};
            auto* one =
                in.empty() ? nullptr : static_cast<AVChapter*>(av_mallocz(sizeof(AVChapter)));
            if (!one)
                continue;
            one->id = static_cast<std::int64_t>(made.size()) + 1;
            one->time_base = {1, kMillisecond};
            one->start = std::llround(kMillisecond * placeOf(in.start_s));
            one->end = std::llround(kMillisecond * placeOf(in.end_s));
            av_dict_set(&one->metadata, "title", chapter.title.c_str(), 0);
            made.push_back(one);
        }
        if (made.empty())
            return true;
        // Freed with the file.
        m_file->chapters = static_cast<AVChapter**>(av_malloc(made.size() * sizeof(AVChapter*)));
        if (!m_file->chapters)
            return false;
        std::ranges::copy(made, m_file->chapters);
        m_file->nb_chapters = static_cast<unsigned>(made.size());
        return true;
    }

    // Where a moment of the recording stands in the film.
    double placeOf(double time_s) const { return (time_s - m_film.span.start_s) / m_film.speed; }

    bool soundBlock() {
        Owned<AVFrame> frame(av_frame_alloc());
        frame->nb_samples = m_heard.coder->frame_size;
        frame->format = AV_SAMPLE_FMT_FLT;
        frame->sample_rate = kSoundRateHz;
        av_channel_layout_copy(&frame->ch_layout, &m_heard.coder->ch_layout);
        if (av_frame_get_buffer(frame.get(), 0) < 0)
            return false;
        m_reader->read({reinterpret_cast<float*>(frame->data[0]),
                        2 * static_cast<std::size_t>(frame->nb_samples)});
        frame->pts = m_sound_at;
        m_sound_at += frame->nb_samples;
        return send(m_heard, frame.get());
    }

    // Pictures that are shown before a moment of the film.
    bool picturesUntil(double film_s) {
        while (m_picture) {
            // What is shown as the stretch begins is shown from its beginning on.
            const double at_s = std::max(0.0, placeOf(m_picture->time_s - m_film.offset_s));
            const std::int64_t pts = std::llround(kMillisecond * at_s);
            if (at_s > film_s)
                return true;
            if (pts > m_last_pts && !send(m_seen, coded(pts).get()))
                return false;
            m_last_pts = std::max(m_last_pts, pts);
            m_picture = m_pictures->after(m_picture->time_s);
        }
        return true;
    }

    Owned<AVFrame> coded(std::int64_t pts) const {
        Owned<AVFrame> frame(av_frame_alloc());
        frame->format = AV_PIX_FMT_YUV420P;
        frame->width = m_seen.coder->width;
        frame->height = m_seen.coder->height;
        frame->pts = pts;
        if (av_frame_get_buffer(frame.get(), 0) < 0)
            return nullptr;
        const std::uint8_t* rows[1] = {m_picture->rgb.data()};
        const int strides[1] = {3 * m_picture->width};
        sws_scale(m_scaler.get(),
                  static_cast<const std::uint8_t* const*>(rows),
                  static_cast<const int*>(strides),
                  0,
                  m_picture->height,
                  frame->data,
                  frame->linesize);
        return frame;
    }

    // A frame, or null at the end; what the coder has ready goes into the file.
    bool send(CodedStream& coded, const AVFrame* frame) {
        if (avcodec_send_frame(coded.coder.get(), frame) < 0)
            return false;
        const Owned<AVPacket> packet(av_packet_alloc());
        for (;;) {
            const int got = avcodec_receive_packet(coded.coder.get(), packet.get());
            if (got == AVERROR(EAGAIN) || got == AVERROR_EOF)
                return true;
            if (got < 0)
                return false;
            av_packet_rescale_ts(packet.get(), coded.coder->time_base, coded.stream->time_base);
            packet->stream_index = coded.stream->index;
            if (av_interleaved_write_frame(m_file.get(), packet.get()) < 0)
                return false;
        }
    }

    const SlowFilm& m_film;
    const JobControl& m_job;
    std::shared_ptr<CachedSound> m_sound;
    std::unique_ptr<StretchedReader> m_reader;
    std::unique_ptr<PictureReader> m_pictures;
    std::shared_ptr<const Picture> m_picture; // the next to be written
    std::unique_ptr<AVFormatContext, MuxerCloser> m_file;
    CodedStream m_heard, m_seen;
    Owned<SwsContext> m_scaler;
    std::int64_t m_sound_at = 0; // frames of the film
    std::int64_t m_last_pts = -1;
};

} // namespace

Result<std::string> encodeSlowFilm(const std::filesystem::path& recording,
                                   const SlowFilm& film,
                                   const JobControl& job) {
    if (film.span.empty() || film.speed < kSlowest || film.speed > kFastest)
        return badCall("a slower recording needs a stretch of it and a speed between " +
                       std::to_string(kSlowest) + " and " + std::to_string(kFastest));
    if (film.span.length_s() / film.speed > kLongestSlowFilm_s)
        return badInput(recording.string(),
                        "would be longer than half an hour made slower; choose fewer bars");
    FilmWriter writer(film, job);
    if (const Status opened = writer.open(recording); !opened)
        return opened.error();
    return writer.write();
}

} // namespace wirenote
