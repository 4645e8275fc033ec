#include "media/picture_reader.h"

#include "media/ffmpeg.h"
#include "media/media_info.h"

#include <algorithm>
#include <cmath>
#include <deque>

namespace wirenote {
namespace {

constexpr std::size_t kCachedPictures = 40;
constexpr double kGoOn_s = 1.5; // decoding on is cheaper than seeking, up to here
constexpr double kSame_s = 1e-6;
constexpr int kLargestSide = 8192; // a larger picture is refused
constexpr int kThreads = 2;

// Turned clockwise by a quarter, a half or three quarters.
Picture turned(Picture in, int degrees) {
    if (degrees == 0)
        return in;
    Picture out = in;
    if (degrees != 180)
        std::swap(out.width, out.height);
    for (int y = 0; y < in.height; ++y)
        for (int x = 0; x < in.width; ++x) {
            const int to_x = degrees == 90    ? in.height - 1 - y
                             : degrees == 180 ? in.width - 1 - x
                                              : y;
            const int to_y = degrees == 90    ? x
                             : degrees == 180 ? in.height - 1 - y
                                              : in.width - 1 - x;
            const int n = in.channels;
            std::copy_n(&in.bytes[static_cast<std::size_t>(n * (y * in.width + x))],
                        n,
                        &out.bytes[static_cast<std::size_t>(n * (to_y * out.width + to_x))]);
        }
    return out;
}

// Whether grey can be had as it was decoded, without going by colours.
bool hasLuma(const AVFrame& decoded) {
    const auto* format = av_pix_fmt_desc_get(static_cast<AVPixelFormat>(decoded.format));
    constexpr int kBits = 8;
    return format && (format->flags & (AV_PIX_FMT_FLAG_RGB | AV_PIX_FMT_FLAG_PAL)) == 0 &&
           format->comp[0].plane == 0 && format->comp[0].step == 1 &&
           format->comp[0].depth == kBits;
}

Picture lumaOf(const AVFrame& decoded) {
    // ITU-R BT.601: most films keep luma from 16 to 235. Small numbers, so that many are done at
    // a time.
    constexpr std::uint16_t kBlack = 16;
    constexpr int kStretch = 149; // 255 / 219, in 128ths
    const bool full = decoded.color_range == AVCOL_RANGE_JPEG ||
                      decoded.format == AV_PIX_FMT_YUVJ420P ||
                      decoded.format == AV_PIX_FMT_YUVJ422P ||
                      decoded.format == AV_PIX_FMT_YUVJ444P || decoded.format == AV_PIX_FMT_GRAY8;
    Picture grey;
    grey.width = decoded.width;
    grey.height = decoded.height;
    grey.channels = 1;
    const auto width = static_cast<std::size_t>(grey.width);
    grey.bytes.reserve(width * static_cast<std::size_t>(grey.height));
    for (int y = 0; y < grey.height; ++y) {
        const std::uint8_t* row =
            decoded.data[0] + static_cast<std::ptrdiff_t>(y) * decoded.linesize[0];
        grey.bytes.insert(grey.bytes.end(), row, row + width);
    }
    if (!full)
        for (std::uint8_t& value : grey.bytes) {
            const std::uint16_t above = std::max<std::uint16_t>(value, kBlack) - kBlack;
            const std::uint16_t stretched = static_cast<std::uint16_t>(above * kStretch) >> 7;
            value = static_cast<std::uint8_t>(std::min<std::uint16_t>(stretched, 255));
        }
    return grey;
}

// Luma of ITU-R BT.601.
Picture weighed(const Picture& colours) {
    Picture grey = colours;
    grey.channels = 1;
    grey.bytes.resize(colours.bytes.size() / 3);
    for (std::size_t i = 0; i < grey.bytes.size(); ++i) {
        const std::uint8_t* rgb = &colours.bytes[3 * i];
        grey.bytes[i] =
            static_cast<std::uint8_t>((77 * rgb[0] + 150 * rgb[1] + 29 * rgb[2] + 128) >> 8);
    }
    return grey;
}

} // namespace

struct PictureReader::State {
    using Shared = std::shared_ptr<const Picture>;
    std::filesystem::path path;
    int max_width = 960;
    int stream = -1;
    int turn = 0;
    double zero_s = 0.0;
    ffmpeg::Owned<AVFormatContext> format;
    ffmpeg::Owned<AVCodecContext> codec;
    ffmpeg::Owned<SwsContext> scaler;
    ffmpeg::Owned<AVPacket> packet{av_packet_alloc()};
    ffmpeg::Owned<AVFrame> frame{av_frame_alloc()};
    bool drained = false;
    // A picture that is only gone past is never made into colours.
    struct Entry {
        double time_s = 0.0;
        ffmpeg::Owned<AVFrame> frame; // as decoded, until somebody asks for its colours
        Shared picture;
        Shared grey;
        // Start of the following picture: neighbours that were decoded one after the other know
        // it. Infinity: it is the last.
        double next_s = NAN;
    };
    std::deque<Entry> cache;   // by time
    std::deque<double> by_age; // newest first
    double last_s = NAN;       // the picture the decoder gave last

    double timeBase() const { return av_q2d(format->streams[stream]->time_base); }

    Entry* find(double time_s) {
        const auto at = std::find_if(cache.begin(), cache.end(), [time_s](const Entry& e) {
            return std::abs(e.time_s - time_s) < kSame_s;
        });
        return at == cache.end() ? nullptr : &*at;
    }

    // The cached picture shown at that time, if the cache can be sure of it.
    Entry* shownAt(double time_s) {
        const auto after = std::upper_bound(cache.begin(),
                                            cache.end(),
                                            time_s + kSame_s,
                                            [](double t, const Entry& e) { return t < e.time_s; });
        if (after == cache.begin())
            return nullptr;
        Entry& entry = *(after - 1);
        return !std::isnan(entry.next_s) && time_s + kSame_s < entry.next_s ? &entry : nullptr;
    }

    void keep(double time_s) {
        if (Entry* last = find(last_s))
            last->next_s = time_s;
        last_s = time_s;
        if (find(time_s))
            return;
        while (cache.size() >= kCachedPictures) {
            const double oldest = by_age.back();
            by_age.pop_back();
            std::erase_if(cache, [oldest](const Entry& e) { return e.time_s == oldest; });
        }
        by_age.push_front(time_s);
        const auto place =
            std::upper_bound(cache.begin(), cache.end(), time_s, [](double t, const Entry& e) {
                return t < e.time_s;
            });
        ffmpeg::Owned<AVFrame> decoded{av_frame_alloc()};
        av_frame_move_ref(decoded.get(), frame.get());
        const bool large = decoded->width > max_width;
        const auto kept =
            cache.insert(place, Entry{time_s, std::move(decoded), nullptr, nullptr, NAN});
        if (large) // would take more room than what is shown of it
            shown(*kept, Shade::Colours);
    }

    // Null where the scaler refuses it.
    Shared shown(Entry& entry, Shade shade) {
        if (shade == Shade::Grey && !entry.grey)
            entry.grey = greyOf(entry);
        if (shade == Shade::Grey)
            return entry.grey;
        if (!entry.picture && entry.frame)
            entry.picture = convert(*entry.frame, entry.time_s);
        entry.frame.reset();
        return entry.picture;
    }

    Shared greyOf(Entry& entry) {
        if (entry.frame && hasLuma(*entry.frame)) {
            Picture grey = lumaOf(*entry.frame);
            grey.time_s = entry.time_s;
            return std::make_shared<const Picture>(turned(std::move(grey), turn));
        }
        const Shared colours = shown(entry, Shade::Colours);
        return colours ? std::make_shared<const Picture>(weighed(*colours)) : nullptr;
    }

    Status open();
    void seek(double time_s);
    bool decodeOne(); // into the cache; false at the end
    bool receive();
    Shared convert(const AVFrame& decoded, double time_s);
    Entry* reach(double time_s);

    std::vector<std::uint8_t> roomy; // what the scaler writes into
};

Status PictureReader::State::open() {
    const auto info = readMediaInfo(path);
    if (!info)
        return info.error();
    if (!info->picture.exists())
        return badInput(path.string(), "has no moving picture");
    if (std::max(info->picture.width, info->picture.height) > kLargestSide)
        return badInput(path.string(),
                        "has a picture larger than 8192 pixels; make a smaller copy");
    auto opened = ffmpeg::openContainer(path);
    if (!opened)
        return opened.error();
    format = std::move(*opened);
    stream = info->picture.stream;
    turn = info->picture.turned_degrees;
    zero_s = ffmpeg::zeroOf(*format);
    for (unsigned i = 0; i < format->nb_streams; ++i)
        if (static_cast<int>(i) != stream)
            format->streams[i]->discard = AVDISCARD_ALL;
    auto decoder = ffmpeg::openDecoder(path, *format, stream, kThreads);
    if (!decoder)
        return decoder.error();
    codec = std::move(*decoder);
    return {};
}

void PictureReader::State::seek(double time_s) {
    const auto stamp = static_cast<std::int64_t>(std::floor((time_s + zero_s) / timeBase() + 1e-6));
    if (av_seek_frame(format.get(), stream, stamp, AVSEEK_FLAG_BACKWARD) < 0)
        av_seek_frame(format.get(), -1, 0, AVSEEK_FLAG_BACKWARD);
    avcodec_flush_buffers(codec.get());
    drained = false;
    last_s = NAN;
}

PictureReader::State::Shared PictureReader::State::convert(const AVFrame& decoded, double time_s) {
    int width = decoded.width;
    int height = decoded.height;
    const int across = turn % 180 == 0 ? width : height;
    if (across > max_width) {
        width = std::max(1, width * max_width / across);
        height = std::max(1, height * max_width / across);
    }
    // The size may change in the middle of a film; the scaler follows.
    SwsContext* fitting = sws_getCachedContext(scaler.release(),
                                               decoded.width,
                                               decoded.height,
                                               static_cast<AVPixelFormat>(decoded.format),
                                               width,
                                               height,
                                               AV_PIX_FMT_RGB24,
                                               SWS_BILINEAR,
                                               nullptr,
                                               nullptr,
                                               nullptr);
    scaler.reset(fitting);
    if (!fitting)
        return nullptr;
    Picture picture;
    picture.time_s = time_s;
    picture.width = width;
    picture.height = height;
    const int row = 3 * width;
    // The scaler writes in steps of a whole register, beyond the end of rows that are no multiple
    // of it: it gets rows with room behind them.
    constexpr int kRegister = 64; // bytes
    const bool fits = row % kRegister == 0;
    const int step = fits ? row : (row / kRegister + 2) * kRegister;
    const std::size_t room =
        static_cast<std::size_t>(step) * static_cast<std::size_t>(height) + kRegister;
    std::vector<std::uint8_t>& written = fits ? picture.bytes : roomy;
    written.resize(room);
    std::uint8_t* rows[4] = {written.data(), nullptr, nullptr, nullptr};
    const int steps[4] = {step, 0, 0, 0};
    sws_scale(fitting, decoded.data, decoded.linesize, 0, decoded.height, rows, steps);
    picture.bytes.resize(static_cast<std::size_t>(row * height));
    for (int y = 0; y < height && !fits; ++y)
        std::copy_n(roomy.begin() + static_cast<std::ptrdiff_t>(y) * step,
                    row,
                    picture.bytes.begin() + static_cast<std::ptrdiff_t>(y) * row);
    return std::make_shared<const Picture>(turned(std::move(picture), turn));
}

bool PictureReader::State::receive() {
    while (avcodec_receive_frame(codec.get(), frame.get()) >= 0) {
        const std::int64_t stamp = frame->best_effort_timestamp;
        const double time_s =
            stamp == AV_NOPTS_VALUE ? NAN : static_cast<double>(stamp) * timeBase() - zero_s;
        // A picture without a time, or with one that goes back, cannot be shown anywhere.
        if (std::isnan(time_s) || (!std::isnan(last_s) && time_s <= last_s) ||
            std::max(frame->width, frame->height) > kLargestSide)
            continue;
        keep(time_s);
        return true;
    }
    return false;
}

bool PictureReader::State::decodeOne() {
    for (;;) {
        if (receive())
            return true;
        if (drained) {
            if (Entry* last = find(last_s))
                last->next_s = INFINITY;
            return false;
        }
        if (av_read_frame(format.get(), packet.get()) < 0) {
            drained = true;
            avcodec_send_packet(codec.get(), nullptr);
            continue;
        }
        if (packet->stream_index == stream)
            avcodec_send_packet(codec.get(), packet.get()); // a damaged one is passed over
        av_packet_unref(packet.get());
    }
}

PictureReader::State::Entry* PictureReader::State::reach(double time_s) {
    if (Entry* known = shownAt(time_s))
        return known;
    const bool near =
        !std::isnan(last_s) && last_s <= time_s + kSame_s && time_s - last_s < kGoOn_s;
    if (!near || (drained && !shownAt(last_s))) {
        seek(time_s);
        // Some files land behind the wanted place: then from further before.
        for (double back_s = 1.0; decodeOne() && last_s > time_s + kSame_s && back_s < 130.0;
             back_s *= 4.0) {
            if (Entry* known = shownAt(time_s))
                return known;
            seek(std::max(0.0, time_s - back_s));
            if (time_s - back_s < -1.0) { // from the very beginning: this is the first picture
                decodeOne();
                break;
            }
        }
    }
    if (Entry* known = shownAt(time_s))
        return known;
    while (!std::isnan(last_s) && last_s <= time_s + kSame_s && decodeOne()) {
    }
    if (Entry* known = shownAt(time_s))
        return known;
    return cache.empty() ? nullptr : &cache.front();
}

PictureReader::PictureReader(std::unique_ptr<State> state) : m(std::move(state)) {}
PictureReader::~PictureReader() = default;

Result<std::unique_ptr<PictureReader>> PictureReader::open(const std::filesystem::path& path,
                                                           int max_width) {
    auto state = std::make_unique<State>();
    state->path = path;
    state->max_width = std::clamp(max_width, 16, kLargestSide);
    if (const Status opened = state->open(); !opened)
        return opened.error();
    return std::unique_ptr<PictureReader>(new PictureReader(std::move(state)));
}

std::shared_ptr<const Picture> PictureReader::at(double time_s, Shade shade) {
    State::Entry* entry = m->reach(time_s);
    return entry ? m->shown(*entry, shade) : nullptr;
}

std::shared_ptr<const Picture> PictureReader::after(double time_s, Shade shade) {
    const State::Entry* entry = m->reach(time_s);
    if (!entry || std::isinf(entry->next_s) || std::isnan(entry->next_s))
        return nullptr;
    return at(entry->next_s, shade);
}

std::shared_ptr<const Picture> PictureReader::before(double time_s) {
    const State::Entry* entry = m->reach(time_s);
    if (!entry)
        return nullptr;
    const double start_s = entry->time_s;
    State::Entry* earlier = m->reach(start_s - 1e-4);
    return earlier && earlier->time_s < start_s ? m->shown(*earlier, Shade::Colours) : nullptr;
}

std::size_t PictureReader::cachedBytes() const {
    std::size_t bytes = 0;
    for (const auto& entry : m->cache) {
        for (const auto& kept : {entry.picture, entry.grey})
            bytes += kept ? kept->bytes.size() : 0;
        for (int plane = 0; entry.frame && plane < AV_NUM_DATA_POINTERS; ++plane)
            bytes += entry.frame->buf[plane] ? entry.frame->buf[plane]->size : 0;
    }
    return bytes;
}

} // namespace wirenote
