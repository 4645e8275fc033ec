// FFmpeg's objects with owners, and the one way to open a file with it. For the .cpp files of this
// folder only.
#pragma once

#include "base/result.h"

#include <filesystem>
#include <memory>

extern "C" {
#include <libavcodec/avcodec.h>
#include <libavformat/avformat.h>
#include <libavutil/display.h>
#include <libavutil/log.h>
#include <libavutil/opt.h>
#include <libavutil/pixdesc.h>
#include <libswresample/swresample.h>
#include <libswscale/swscale.h>
}

namespace wirenote::ffmpeg {

struct Closer {
    void operator()(AVFormatContext* c) const { avformat_close_input(&c); }
    void operator()(AVCodecContext* c) const { avcodec_free_context(&c); }
    void operator()(AVPacket* p) const { av_packet_free(&p); }
    void operator()(AVFrame* f) const { av_frame_free(&f); }
    void operator()(SwrContext* s) const { swr_free(&s); }
    void operator()(SwsContext* s) const { sws_freeContext(s); }
};
template <class T> using Owned = std::unique_ptr<T, Closer>;

// Opens a local file in one of the known containers; nothing that refers to other files or to the
// network. Errors: not there, not readable, empty, not a recording, damaged, protected.
Result<Owned<AVFormatContext>> openContainer(const std::filesystem::path& path);

// A decoder for one stream, ready to take packets.
Result<Owned<AVCodecContext>> openDecoder(const std::filesystem::path& path,
                                          const AVFormatContext& format,
                                          int stream,
                                          int threads);

// The moment in the container's own time that counts as second 0 of the medium: where its first
// stream starts, never before 0. Sound and picture share it.
double zeroOf(const AVFormatContext& format);

// Length in seconds of one stream as the file promises it; counted where the file only lets guess
// (raw AAC). 0 when nobody knows. May read through the file and leave it at its end.
double lengthOf(AVFormatContext& format, int stream);

} // namespace wirenote::ffmpeg
