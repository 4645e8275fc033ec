#include "media/sound_file.h"

#include "base/atomic_file.h"

#include <algorithm>
#include <cstring>
#include <sndfile.h>
#include <string>

namespace wirenote {
namespace {

// libsndfile writes into memory, so that the file itself appears in one step.
struct Memory {
    std::string bytes;
    std::size_t at = 0;
};

sf_count_t length(void* user) {
    return static_cast<sf_count_t>(static_cast<Memory*>(user)->bytes.size());
}
sf_count_t seek(sf_count_t offset, int whence, void* user) {
    auto& m = *static_cast<Memory*>(user);
    const auto base = whence == SEEK_SET   ? 0
                      : whence == SEEK_CUR ? static_cast<sf_count_t>(m.at)
                                           : length(user);
    m.at = static_cast<std::size_t>(std::max<sf_count_t>(0, base + offset));
    return static_cast<sf_count_t>(m.at);
}
sf_count_t read(void* out, sf_count_t count, void* user) {
    auto& m = *static_cast<Memory*>(user);
    const std::size_t n =
        std::min(static_cast<std::size_t>(count), m.bytes.size() - std::min(m.at, m.bytes.size()));
    std::memcpy(out, m.bytes.data() + m.at, n);
    m.at += n;
    return static_cast<sf_count_t>(n);
}
sf_count_t write(const void* in, sf_count_t count, void* user) {
    auto& m = *static_cast<Memory*>(user);
    const auto n = static_cast<std::size_t>(count);
    if (m.bytes.size() < m.at + n)
        m.bytes.resize(m.at + n);
    std::memcpy(m.bytes.data() + m.at, in, n);
    m.at += n;
    return count;
}
sf_count_t tell(void* user) {
    return static_cast<sf_count_t>(static_cast<Memory*>(user)->at);
}

int formatNumber(SoundFormat format) {
    switch (format) {
    case SoundFormat::Wav:
        return SF_FORMAT_WAV | SF_FORMAT_PCM_24;
    case SoundFormat::Flac:
        return SF_FORMAT_FLAC | SF_FORMAT_PCM_16;
    case SoundFormat::Ogg:
        return SF_FORMAT_OGG | SF_FORMAT_VORBIS;
    case SoundFormat::Mp3:
        return SF_FORMAT_MPEG | SF_FORMAT_MPEG_LAYER_III;
    }
    return 0;
}

constexpr std::array<std::string_view, 4> kEndings = {"wav", "flac", "ogg", "mp3"};

} // namespace

std::string_view endingOf(SoundFormat format) {
    return kEndings[static_cast<std::size_t>(format)];
}

std::optional<SoundFormat> soundFormatOf(std::string_view ending) {
    const auto at = std::ranges::find(kEndings, ending);
    if (at == kEndings.end())
        return std::nullopt;
    return static_cast<SoundFormat>(at - kEndings.begin());
}

Result<std::string> encodeSound(SoundView sound, SoundFormat format) {
    constexpr double kQuality = 0.5;
    constexpr std::size_t kBlock = 4096; // samples: the Vorbis encoder keeps a block on the stack
    Memory memory;
    SF_VIRTUAL_IO io{length, seek, read, write, tell};
    SF_INFO info{};
    info.samplerate = static_cast<int>(sound.rate_hz);
    info.channels = 1;
    info.format = formatNumber(format);
    const Error failed{ErrorKind::Internal,
                       {},
                       "the " + std::string(endingOf(format)) + " file could not be made"};
    SNDFILE* file = sf_open_virtual(&io, SFM_WRITE, &info, &memory);
    if (!file)
        return failed;
    double quality = kQuality;
    sf_command(file, SFC_SET_CLIPPING, nullptr, SF_TRUE);
    sf_command(file, SFC_SET_VBR_ENCODING_QUALITY, &quality, sizeof quality);
    bool ok = true;
    for (std::size_t at = 0; at < sound.samples.size() && ok; at += kBlock) {
        const auto count = static_cast<sf_count_t>(std::min(kBlock, sound.samples.size() - at));
        ok = sf_write_float(file, sound.samples.data() + at, count) == count;
    }
    sf_close(file);
    if (!ok)
        return failed;
    return std::move(memory.bytes);
}

Status writeWav(const std::filesystem::path& path, SoundView sound) {
    const auto bytes = encodeSound(sound, SoundFormat::Wav);
    if (!bytes)
        return Error{bytes.error().kind, path.string(), bytes.error().message};
    return writeFileAtomically(path, *bytes);
}

} // namespace wirenote
