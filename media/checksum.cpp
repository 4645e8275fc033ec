#include "media/checksum.h"

#include <algorithm>
#include <array>
#include <fstream>
#include <memory>
#include <vector>

extern "C" {
#include <libavutil/mem.h>
#include <libavutil/sha.h>
}

namespace wirenote {

namespace {

constexpr std::uint64_t kWholeFile = 64U << 20U;
constexpr std::uint64_t kPart = 8U << 20U;

struct Free {
    void operator()(AVSHA* sha) const { av_free(sha); }
};

void addPart(AVSHA* sha, std::ifstream& in, std::uint64_t from, std::uint64_t count) {
    std::vector<char> block(1U << 16U);
    in.clear();
    in.seekg(static_cast<std::streamoff>(from));
    while (count > 0) {
        in.read(block.data(),
                static_cast<std::streamsize>(std::min<std::uint64_t>(block.size(), count)));
        if (in.gcount() <= 0)
            return;
        av_sha_update(sha,
                      reinterpret_cast<const std::uint8_t*>(block.data()),
                      static_cast<std::size_t>(in.gcount()));
        count -= static_cast<std::uint64_t>(in.gcount());
    }
}

} // namespace

Result<std::string> mediaFingerprint(const std::filesystem::path& path) {
    std::ifstream in(path, std::ios::binary);
    std::error_code code;
    const std::uint64_t size = std::filesystem::file_size(path, code);
    if (!in || code)
        return badInput(path.string(), "cannot be read; check its name and permissions");
    const std::unique_ptr<AVSHA, Free> sha(av_sha_alloc());
    av_sha_init(sha.get(), 256);
    if (size <= kWholeFile) {
        addPart(sha.get(), in, 0, size);
    } else {
        const std::string text = std::to_string(size);
        av_sha_update(sha.get(), reinterpret_cast<const std::uint8_t*>(text.data()), text.size());
        for (const std::uint64_t from : {std::uint64_t{0}, size / 2, size - kPart})
            addPart(sha.get(), in, from, kPart);
    }
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
