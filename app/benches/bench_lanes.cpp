#include "app/benches/bench_lanes.h"

#include "app/benches/film/film_lane.h"
#include "app/benches/lesson/phrases_lane.h"
#include "app/benches/neck/fingers_lane.h"
#include "app/benches/pulse/tempo_lane.h"
#include "app/benches/strokes/hand_lane.h"
#include "app/benches/strokes/strokes_lane.h"
#include "app/benches/takes/takes_lane.h"
#include "app/strip/chords_lane.h"
#include "app/strip/sound_lanes.h"
#include "app/strip/time_lanes.h"
#include "app/strip/wires_lane.h"

namespace wirenote::app {
namespace {
constexpr int kLowSound = 64; // pixels
constexpr int kHighSound = 110;
constexpr int kPitch = 190;
} // namespace

std::unique_ptr<Lane> BenchLanes::wires() const {
    return std::make_unique<WiresLane>(m_document, m_selection, m_derived, m_edits, m_takes);
}

std::unique_ptr<Lane> BenchLanes::strokes() const {
    return std::make_unique<StrokesLane>(m_document, m_selection, m_strokes);
}

std::vector<std::unique_ptr<Lane>> BenchLanes::of(BenchKind bench) const {
    std::vector<std::unique_ptr<Lane>> lanes;
    const auto add = [&lanes](std::unique_ptr<Lane> lane) { lanes.push_back(std::move(lane)); };
    const auto sound = [&](int height) {
        add(std::make_unique<SoundLane>(m_document, m_transport, m_sounds, m_takes, height));
    };
    const auto pitch = [&](int height) {
        add(std::make_unique<PitchLane>(m_document, m_transport, m_sounds, height));
    };
    const auto film = [&] { add(std::make_unique<FilmLane>(m_document)); };
    const auto chords = [&] { add(std::make_unique<ChordsLane>(m_document, m_derived, m_chords)); };
    add(std::make_unique<FormLane>(m_document, m_derived));
    add(std::make_unique<CountLane>(m_document, m_derived, m_pulse));
    switch (bench) {
    case BenchKind::Takes:
        film();
        add(std::make_unique<TakesLane>(m_document, m_transport, m_sounds, m_takes));
        pitch(0);
        break;
    case BenchKind::Pulse:
        add(std::make_unique<TempoLane>(m_document));
        sound(kHighSound);
        add(wires());
        break;
    case BenchKind::Notes:
        pitch(kPitch);
        sound(kLowSound);
        chords();
        add(wires());
        break;
    case BenchKind::Neck:
        film();
        [[fallthrough]];
    case BenchKind::Sheet:
        sound(kLowSound);
        chords();
        [[fallthrough]];
    case BenchKind::Readings:
        add(wires());
        add(std::make_unique<FingersLane>(m_document, m_selection));
        add(strokes());
        break;
    case BenchKind::Lesson:
        add(std::make_unique<PhrasesLane>(m_book, m_lesson));
        add(wires());
        add(strokes());
        break;
    case BenchKind::Strokes:
        film();
        sound(kLowSound);
        add(wires());
        add(strokes());
        add(std::make_unique<HandLane>(m_document, m_selection));
        break;
    }
    return lanes;
}

} // namespace wirenote::app
