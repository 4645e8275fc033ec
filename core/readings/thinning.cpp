#include "readings/thinning.h"

#include "piece/one_stroke.h"
#include "piece/timeline_map.h"
#include "score/quantise.h"

#include <algorithm>
#include <array>

namespace wirenote {
namespace {

constexpr int kMostInChord = 3;  // notes that level 2 keeps of a chord
constexpr double kFast_s = 0.16; // from note to note: what is faster is thinned between beats
constexpr std::array kOrnaments{
    Technique::Trill, Technique::Vibrato, Technique::Rake, Technique::Roll, Technique::Tremolo};

class Thinning {
  public:
    Thinning(const Piece& view, double bpm)
        : m_view(view), m_bpm(bpm > 0.0 ? bpm : view.timeline.tempo_bpm),
          m_departures(view.notes.size()) {}

    void optional() {
        for (std::size_t i = 0; i < m_view.notes.size(); ++i) {
            const Need& need = m_view.notes[i].need;
            if (need.kind == Necessity::MayGo && m_bpm >= need.above_bpm)
                leaveOut(i, DepartureWhy::MayGo);
        }
    }

    void ornaments() {
        for (std::size_t i = 0; i < m_view.notes.size(); ++i) {
            const Note& note = m_view.notes[i];
            if (note.has(Technique::Grace)) {
                leaveOut(i, DepartureWhy::Ornament);
                continue;
            }
            std::vector<Technique> plain = note.techniques;
            std::erase_if(plain, [](Technique t) {
                return std::ranges::find(kOrnaments, t) != kOrnaments.end();
            });
            if (plain.size() != note.techniques.size())
                m_departures[i] = {DepartureWhy::Ornament, false, 0, std::move(plain)};
        }
    }

    // The bass, the tune, and what tells major from minor between them.
    void innerNotes() {
        for (const IndexSpan stroke : strokeSpans(m_view.notes)) {
            std::vector<std::size_t> chord = pitchedOf(stroke);
            if (static_cast<int>(chord.size()) <= kMostInChord)
                continue;
            const std::size_t bass = chord.front();
            const std::size_t tune = chord.back();
            const std::size_t third = thirdOf(chord, bass, tune);
            for (const std::size_t i : chord)
                if (i != bass && i != tune && i != third)
                    leaveOut(i, DepartureWhy::ThinnedChord);
        }
    }

    // What is too fast and lies between the halves of beats.
    void fastNotes() {
        const auto quantised = quantise(m_view);
        const Rational half(1, 2);
        std::vector<bool> on_half(m_view.notes.size(), true);
        for (const ScoreNote& note : quantised.notes)
            on_half[note.index] = ((note.start / half).den() == 1) && !note.grace;
        const auto strokes = strokeSpans(m_view.notes);
        for (std::size_t s = 1; s < strokes.size(); ++s) {
            const double gap_s = m_view.notes[strokes[s].first].onset_s() -
                                 m_view.notes[strokes[s - 1].first].onset_s();
            for (std::size_t i = strokes[s].first; i < strokes[s].end; ++i)
                if (gap_s < kFast_s && !on_half[i])
                    leaveOut(i, DepartureWhy::MayGo);
        }
    }

    void tuneAndBass() {
        const TimelineMap map(m_view.timeline);
        for (const IndexSpan stroke : strokeSpans(m_view.notes)) {
            const std::vector<std::size_t> chord = pitchedOf(stroke);
            if (chord.size() < 2)
                continue;
            constexpr double kOnBeat = 0.12; // of a beat
            const double beat = map.barBeatAt(m_view.notes[stroke.first].onset_s()).beat;
            const bool on_beat = std::min(beat - static_cast<int>(beat),
                                          static_cast<int>(beat) + 1.0 - beat) < kOnBeat;
            for (const std::size_t i : chord)
                if (i != chord.back() && !(on_beat && i == chord.front()))
                    leaveOut(i, DepartureWhy::TuneAndBass);
        }
    }

    // Who is slurred from a note that is not there has to be struck.
    std::vector<Departure> take() {
        std::array<std::size_t, kMaxStrings + 1> before{}; // index + 1 of the last on each string
        for (std::size_t i = 0; i < m_view.notes.size(); ++i) {
            const auto string =
                static_cast<std::size_t>(m_view.asPlayed().plans[i].position.value.string);
            if (m_view.notes[i].slurred() && !m_departures[i].left_out && before[string] > 0 &&
                m_departures[before[string] - 1].left_out)
                strike(i);
            before[string] = i + 1;
        }
        return std::move(m_departures);
    }

  private:
    void leaveOut(std::size_t i, DepartureWhy why) {
        if (m_view.notes[i].need.kind != Necessity::MustLand)
            m_departures[i] = {why, true, 0, {}};
    }

    // Pitched notes of a stroke that are still there, from the lowest to the highest.
    std::vector<std::size_t> pitchedOf(IndexSpan stroke) const {
        std::vector<std::size_t> notes;
        for (std::size_t i = stroke.first; i < stroke.end; ++i)
            if (m_view.notes[i].pitched() && !m_departures[i].left_out)
                notes.push_back(i);
        std::ranges::sort(notes, {}, [this](std::size_t i) { return m_view.notes[i].pitch.value; });
        return notes;
    }

    std::size_t
    thirdOf(const std::vector<std::size_t>& chord, std::size_t bass, std::size_t tune) const {
        constexpr int kMinor = 3;
        constexpr int kMajor = 4;
        constexpr int kOctave = 12;
        for (const std::size_t i : chord) {
            const int above = (m_view.notes[i].midi() - m_view.notes[bass].midi()) % kOctave;
            if (i != bass && i != tune && (above == kMinor || above == kMajor))
                return i;
        }
        return chord[chord.size() / 2];
    }

    void strike(std::size_t i) {
        std::vector<Technique> struck =
            m_departures[i].techniques ? *m_departures[i].techniques : m_view.notes[i].techniques;
        std::erase_if(struck, [](Technique t) {
            return t == Technique::HammerOn || t == Technique::PullOff || t == Technique::Slide;
        });
        const DepartureWhy why =
            m_departures[i].why == DepartureWhy::None ? DepartureWhy::MayGo : m_departures[i].why;
        m_departures[i] = {why, false, 0, std::move(struck)};
    }

    const Piece& m_view;
    double m_bpm;
    std::vector<Departure> m_departures;
};

} // namespace

std::vector<Departure> thinned(const Piece& view, int level, double bpm) {
    Thinning thinning(view, bpm);
    thinning.ornaments();
    thinning.optional();
    if (level >= 2) {
        thinning.innerNotes();
        thinning.fastNotes();
    }
    if (level >= kEasiestLevel)
        thinning.tuneAndBass();
    return thinning.take();
}

std::vector<Departure> withoutWhatMayGo(const Piece& view, double bpm) {
    Thinning thinning(view, bpm);
    thinning.optional();
    return thinning.take();
}

} // namespace wirenote
