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

} // namespace

Status writeWav(const std::filesystem::path& path, SoundView sound) {
    Memory memory;
    SF_VIRTUAL_IO io{length, seek, read, write, tell};
    SF_INFO info{};
    info.samplerate = static_cast<int>(sound.rate_hz);
    info.channels = 1;
    info.format = SF_FORMAT_WAV | SF_FORMAT_PCM_24;
    SNDFILE* file = sf_open_virtual(&io, SFM_WRITE, &info, &memory);
    if (!file)
        return Error{ErrorKind::Internal, path.string(), "the WAV file could not be made"};
    sf_command(file, SFC_SET_CLIPPING, nullptr, SF_TRUE);
    const auto count = static_cast<sf_count_t>(sound.samples.size());
    const bool ok = sf_write_float(file, sound.samples.data(), count) == count;
    sf_close(file);
    if (!ok)
        return Error{ErrorKind::Internal, path.string(), "the WAV file could not be made"};
    return writeFileAtomically(path, memory.bytes);
}

} // namespace wirenote
