#include "fuzzing.h"

#include "lesson/vocabulary.h"

using namespace wirenote;

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    const fuzzing::Watch watch;
    const auto words = Vocabulary::read(fuzzing::text(data, size));
    if (!words)
        fuzzing::checkRefusal(words.error());
    else
        static_cast<void>(words->say("words.place", {{"string", "x"}, {"fret", "{string}"}}));
    return 0;
}
