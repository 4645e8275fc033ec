// Prints what tells talk from playing: one line a frame that sounds, its figures in order.
//   train_talk SOUND …
#include "media/decode.h"
#include "signal/talk_meter.h"

#include <cstdio>

int main(int argc, char** argv) {
    using namespace wirenote;
    constexpr double kRate_hz = 22050.0;
    constexpr std::size_t kEvery = 3; // frames are half a second wide, twenty a second
    for (int i = 1; i < argc; ++i) {
        const auto sound = decodeSound(argv[i], kRate_hz, {}, {});
        if (!sound) {
            std::fprintf(stderr, "%s\n", sound.error().sentence().c_str());
            return 1;
        }
        const auto frames = talkFrames(sound->mono.view(), {});
        if (!frames)
            return 1;
        for (std::size_t k = 0; k < frames->figures.size(); k += kEvery) {
            if (!frames->sounds[k] || frames->figures[k].back() > 0.75F)
                continue;
            std::printf("%d", i - 1);
            for (const float figure : frames->figures[k])
                std::printf(" %.5g", static_cast<double>(figure));
            std::printf("\n");
        }
    }
    return 0;
}
