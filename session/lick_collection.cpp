#include "session/lick_collection.h"

#include "base/atomic_file.h"
#include "formats/licks_json.h"

namespace wirenote {
namespace {
constexpr std::size_t kLargest = 64'000'000; // bytes
}

Result<std::vector<Lick>> readLicks(const std::filesystem::path& file) {
    std::error_code code;
    if (!std::filesystem::exists(file, code))
        return std::vector<Lick>{};
    const auto text = readWholeFile(file, kLargest);
    if (!text)
        return text.error();
    auto licks = readLicksJson(*text);
    if (!licks) {
        Error error = licks.error();
        error.file = file.string();
        return error;
    }
    return licks;
}

Status writeLicks(const std::filesystem::path& file, const std::vector<Lick>& licks) {
    if (licks.size() > kMaxLicks)
        return badCall("a collection holds at most " + std::to_string(kMaxLicks) + " licks");
    std::error_code code;
    std::filesystem::create_directories(file.parent_path(), code);
    return writeFileAtomically(file, writeLicksJson(licks));
}

} // namespace wirenote
