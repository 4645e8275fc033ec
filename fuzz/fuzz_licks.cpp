#include "fuzzing.h"

#include "formats/licks_json.h"

using namespace wirenote;

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    const fuzzing::Watch watch;
    const auto read = readLicksJson(fuzzing::text(data, size));
    if (!read)
        fuzzing::checkRefusal(read.error());
    return 0;
}
