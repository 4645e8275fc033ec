#include "session/calibrate.h"

#include "hearing/melody.h"
#include "media/decode.h"

namespace wirenote {

Result<Calibration>
calibrate(const std::filesystem::path& media, const Instrument& instrument, const JobControl& job) {
    const auto decoded = decodeSound(media, kAnalysisRateHz, job, {});
    if (!decoded)
        return decoded.error();
    const SoundView sound = decoded->mono.view();
    auto hearing = hearMelody(sound, instrument, {}, HearingParameters{}, job);
    if (!hearing)
        return hearing.error();
    auto calibration =
        calibrationOf(sound, std::move(hearing->notes), hearing->reference.a4_hz, instrument);
    if (!calibration)
        return badInput(media.string(), calibration.error().message);
    return calibration;
}

} // namespace wirenote
