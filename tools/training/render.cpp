// train_render NOTES.json OUT.wav [PLUCK]: the simulated instrument plays a tab, a little noise
// behind it. PLUCK: where strings are plucked, as a share of the scale from the bridge.
#include "sounding/render.h"
#include "media/sound_file.h"
#include "session/files.h"

#include <cstdio>
#include <cstdlib>

int main(int argc, char** argv) {
    using namespace wirenote;
    if (argc != 3 && argc != 4)
        return 2;
    const auto piece = readAny(argv[1]);
    if (!piece) {
        std::fprintf(stderr, "%s\n", piece.error().message.c_str());
        return 3;
    }
    RenderOptions options;
    options.noise_db = -65.0;
    if (argc == 4)
        options.pluck_share = std::atof(argv[3]);
    const auto sound = renderPiece(*piece, options, {});
    if (!sound)
        return 4;
    return writeWav(argv[2], sound->view()).ok() ? 0 : 4;
}
