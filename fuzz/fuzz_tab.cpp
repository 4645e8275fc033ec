#include "fuzzing.h"

#include "formats/ascii_tab.h"

using namespace wirenote;

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    const fuzzing::Watch watch;
    const auto read = readAsciiTab(fuzzing::text(data, size));
    if (!read)
        fuzzing::checkRefusal(read.error());
    else
        fuzzing::checkPieceLetThrough(read->piece);
    return 0;
}
