#include "media/media_info.h"

#include "media/ffmpeg.h"

#include <cmath>

namespace wirenote {
namespace {

std::string tagOf(const AVStream& stream, const char* key) {
    const AVDictionaryEntry* entry = av_dict_get(stream.metadata, key, nullptr, 0);
    return entry ? std::string(entry->value).substr(0, 200) : std::string();
}

int turnOf(const AVStream& stream) {
    const auto* matrix = reinterpret_cast<const std::int32_t*>(
        av_stream_get_side_data(&stream, AV_PKT_DATA_DISPLAYMATRIX, nullptr));
    if (!matrix)
        return 0;
    const double degrees = -av_display_rotation_get(matrix); // FFmpeg counts anticlockwise
    if (!std::isfinite(degrees))
        return 0;
    return ((static_cast<int>(std::lround(degrees / 90.0)) * 90) % 360 + 360) % 360;
}

PictureInfo pictureOf(const AVFormatContext& format) {
    PictureInfo picture;
    const int best = av_find_best_stream(
        const_cast<AVFormatContext*>(&format), AVMEDIA_TYPE_VIDEO, -1, -1, nullptr, 0);
    if (best < 0 || format.streams[best]->disposition & AV_DISPOSITION_ATTACHED_PIC)
        return picture; // a cover is not a film
    const AVStream& stream = *format.streams[best];
    picture.stream = best;
    picture.turned_degrees = turnOf(stream);
    picture.width = stream.codecpar->width;
    picture.height = stream.codecpar->height;
    if (picture.turned_degrees % 180 != 0)
        std::swap(picture.width, picture.height);
    picture.rate_hz = stream.avg_frame_rate.den > 0 ? av_q2d(stream.avg_frame_rate) : 0.0;
    picture.coding = avcodec_get_name(stream.codecpar->codec_id);
    return picture;
}

} // namespace

Result<MediaInfo> readMediaInfo(const std::filesystem::path& path) {
    auto format = ffmpeg::openContainer(path);
    if (!format)
        return format.error();
    AVFormatContext* raw = format->get();
    MediaInfo info;
    for (unsigned i = 0; i < raw->nb_streams; ++i) {
        const AVStream& stream = *raw->streams[i];
        const AVCodecParameters& p = *stream.codecpar;
        if (p.codec_type == AVMEDIA_TYPE_AUDIO && avcodec_find_decoder(p.codec_id))
            info.sounds.push_back({static_cast<int>(i),
                                   p.sample_rate,
                                   p.ch_layout.nb_channels,
                                   avcodec_get_name(p.codec_id),
                                   tagOf(stream, "language"),
                                   tagOf(stream, "title")});
    }
    info.usual_sound = av_find_best_stream(raw, AVMEDIA_TYPE_AUDIO, -1, -1, nullptr, 0);
    info.picture = pictureOf(*raw);
    if (info.usual_sound >= 0)
        info.length_s = ffmpeg::lengthOf(*raw, info.usual_sound);
    if (info.sounds.empty() || info.usual_sound < 0)
        return badInput(path.string(),
                        info.picture.exists()
                            ? "is a film without sound; choose the copy that has its sound"
                            : "holds no sound; choose a recording");
    return info;
}

} // namespace wirenote
