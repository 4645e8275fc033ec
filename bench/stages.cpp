// The stages of the way from sound to tab, each on its own. Times mean something as ratios within
// one run.
#include "demo/heron.h"
#include "form/form.h"
#include "formats/musicxml.h"
#include "formats/piece_json.h"
#include "fretting/placing.h"
#include "hearing/hearing.h"
#include "hearing/melody.h"
#include "score/bars.h"
#include "score/quantise.h"
#include "session/resolve.h"
#include "session/sheet.h"
#include "session/workspace.h"
#include "signal/pulse.h"
#include "signal/yin.h"
#include "sounding/render.h"
#include "strings/measuring.h"
#include "support/pieces.h"

#include <benchmark/benchmark.h>

namespace wirenote {
namespace {

const Sound& heron() {
    static const Sound sound = [] {
        RenderOptions options;
        options.rate_hz = kAnalysisRateHz;
        options.noise_db = -62.0;
        return *renderPiece(standin::heronAtLowWater(), options, {});
    }();
    return sound;
}

void secondsOfSound(benchmark::State& state) {
    state.counters["sound_s_per_s"] = benchmark::Counter(
        heron().length_s() * static_cast<double>(state.iterations()), benchmark::Counter::kIsRate);
}

void Flux(benchmark::State& state) {
    for (auto _ : state)
        benchmark::DoNotOptimize(spectralFlux(heron().view(), {}, {}));
    secondsOfSound(state);
}
BENCHMARK(Flux)->Unit(benchmark::kMillisecond);

void Pitch(benchmark::State& state) {
    for (auto _ : state)
        benchmark::DoNotOptimize(yinCandidates(heron().view(), {}, {}));
    secondsOfSound(state);
}
BENCHMARK(Pitch)->Unit(benchmark::kMillisecond);

void HearMelody(benchmark::State& state) {
    for (auto _ : state)
        benchmark::DoNotOptimize(
            hearMelody(heron().view(), standardInstrument(InstrumentKind::Guitar), {}, {}, {}));
    secondsOfSound(state);
}
BENCHMARK(HearMelody)->Unit(benchmark::kMillisecond);

// The whole hearing: is it one line, and then that line.
void HearTake(benchmark::State& state) {
    for (auto _ : state)
        benchmark::DoNotOptimize(
            hearTake(heron().view(), standardInstrument(InstrumentKind::Guitar), {}, {}, {}));
    secondsOfSound(state);
}
BENCHMARK(HearTake)->Unit(benchmark::kMillisecond);

// What the sound says of the strings: to be held against the hearing.
void StringEvidence(benchmark::State& state) {
    auto notes =
        hearMelody(heron().view(), standardInstrument(InstrumentKind::Guitar), {}, {}, {})->notes;
    for (auto _ : state)
        benchmark::DoNotOptimize(measureStrings(heron().view(), kStandardA4Hz, notes, {}));
    secondsOfSound(state);
}
BENCHMARK(StringEvidence)->Unit(benchmark::kMillisecond);

// What dragging a bar line costs in a piece of 2,000 notes.
void Requantise2000(benchmark::State& state) {
    const Piece piece = test::scalePiece(2000);
    for (auto _ : state)
        benchmark::DoNotOptimize(quantise(piece));
}
BENCHMARK(Requantise2000)->Unit(benchmark::kMillisecond);

// Bars of every kind, most of them unlike.
void Phrases(benchmark::State& state) {
    Piece piece = test::scalePiece(static_cast<int>(state.range(0)));
    for (std::size_t i = 0; i < piece.notes.size(); ++i)
        piece.notes[i].pitch.value += static_cast<double>((i / 8 * 7) % 11);
    const auto bars = contentsOf(piece, quantise(piece));
    for (auto _ : state)
        benchmark::DoNotOptimize(phrasesOf(bars));
}
BENCHMARK(Phrases)->Arg(2000)->Arg(8000)->Unit(benchmark::kMillisecond);

void TrackPulse(benchmark::State& state) {
    const FluxTrack flux = *spectralFlux(heron().view(), {}, {});
    for (auto _ : state)
        benchmark::DoNotOptimize(trackPulse(flux, {}));
}
BENCHMARK(TrackPulse)->Unit(benchmark::kMillisecond);

// Growth must be linear in the number of notes.
void PlaceAll(benchmark::State& state) {
    Piece piece = test::scalePiece(static_cast<int>(state.range(0)));
    for (auto _ : state)
        placeAll(piece);
    state.SetComplexityN(state.range(0));
}
BENCHMARK(PlaceAll)
    ->Arg(100)
    ->Arg(400)
    ->Arg(1600)
    ->Complexity(benchmark::oN)
    ->Unit(benchmark::kMillisecond);

void OneEdit(benchmark::State& state) {
    Piece piece = test::scalePiece(static_cast<int>(state.range(0)));
    placeAll(piece);
    const Note& note = piece.notes[piece.notes.size() / 2];
    for (auto _ : state)
        benchmark::DoNotOptimize(
            tryEdit(piece, note.onset_s(), [&note](PieceEditor& e) { return e.accept(note.id); }));
}
BENCHMARK(OneEdit)->Arg(100)->Arg(2000)->Unit(benchmark::kMillisecond);

void WriteScore(benchmark::State& state) {
    const Piece piece = test::scalePiece(2000);
    for (auto _ : state)
        benchmark::DoNotOptimize(writeScore(piece));
}
BENCHMARK(WriteScore)->Unit(benchmark::kMillisecond);

// 300 bars: the pages of a sheet, against what its MusicXML takes to be written and read.
Piece threeHundredBars() {
    Piece piece = test::scalePiece(2400);
    placeAll(piece);
    return piece;
}

void LayOutSheet(benchmark::State& state) {
    const Piece piece = threeHundredBars();
    for (auto _ : state)
        benchmark::DoNotOptimize(pagesOf(piece));
}
BENCHMARK(LayOutSheet)->Unit(benchmark::kMillisecond);

void WriteAndReadMusicXml(benchmark::State& state) {
    const Piece piece = threeHundredBars();
    for (auto _ : state)
        benchmark::DoNotOptimize(readMusicXml(writeMusicXml(piece)));
}
BENCHMARK(WriteAndReadMusicXml)->Unit(benchmark::kMillisecond);

void SaveAndRead(benchmark::State& state) {
    Piece piece = test::scalePiece(2000);
    placeAll(piece);
    for (auto _ : state)
        benchmark::DoNotOptimize(readPieceJson(writePieceJson(piece)));
}
BENCHMARK(SaveAndRead)->Unit(benchmark::kMillisecond);

} // namespace
} // namespace wirenote
