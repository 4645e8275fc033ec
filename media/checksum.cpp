#include "media/checksum.h"

#include <array>
#include <fstream>
#include <memory>
#include <vector>

extern "C" {
#include <libavutil/mem.h>
#include <libavutil/sha.h>
}

namespace wirenote {

Result<std::string> fileSha256(const std::filesystem::path& path) {
    std::ifstream in(path, std::ios::binary);
    if (!in)
        return badInput(path.string(), "cannot be read; check its name and permissions");
    struct Free {
        void operator()(AVSHA* sha) const { av_free(sha); }
    };
    const std::unique_ptr<AVSHA, Free> sha(av_sha_alloc());
    av_sha_init(sha.get(), 256);
    std::vector<char> block(1U << 16U);
    while (in.read(block.data(), static_cast<std::streamsize>(block.size())) || in.gcount() > 0)
        av_sha_update(sha.get(),
                      reinterpret_cast<const std::uint8_t*>(block.data()),
                      static_cast<std::size_t>(in.gcount()));
    std::array<std::uint8_t, 32> digest{};
    av_sha_final(sha.get(), digest.data());
    std::string hex;
    for (const std::uint8_t byte : digest) {
        hex += "0123456789abcdef"[byte >> 4U];
        hex += "0123456789abcdef"[byte & 15U];
    }
    return hex;
}

} // namespace wirenote
