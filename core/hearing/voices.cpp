#include "hearing/voices.h"

#include "base/best_path.h"

#include <algorithm>
#include <limits>

namespace wirenote {
namespace {

constexpr double kForever_s = std::numeric_limits<double>::max();

// True when every partial of the higher pitch is near one of the lower pitch's.
bool sharesPartials(int low_midi, int high_midi) {
    const int d = high_midi - low_midi;
    return d == 12 || d == 19 || d == 24 || d == 28 || d == 31 || d == 34 || d == 36;
}

// A knock, a click or a shout says nothing.
bool speaks(const ChordEvent& event, const VoiceParameters& p) {
    return !event.notes.empty() && event.flatness < p.noisy;
}

bool heardInLine(const std::vector<Note>& line, double at_s, double together_s) {
    const auto next = std::ranges::lower_bound(line, at_s - together_s, {}, &Note::onset_s);
    return next != line.end() && next->onset_s() <= at_s + together_s;
}

// What each attack says for several voices.
std::vector<double> witnesses(const std::vector<ChordEvent>& events,
                              const std::vector<Note>& line,
                              const VoiceParameters& p) {
    std::vector<double> said;
    std::vector<const ChordNote*> before;
    for (const ChordEvent& event : events) {
        if (!speaks(event, p)) {
            said.push_back(0.0);
            continue;
        }
        std::erase_if(
            before, [&](const ChordNote* n) { return n->offset_s < event.onset_s + p.ringing_s; });
        const bool over_ringing = std::ranges::any_of(before, [&event](const ChordNote* n) {
            return std::ranges::none_of(event.notes,
                                        [n](const ChordNote& now) { return now.midi == n->midi; });
        });
        for (const ChordNote& note : event.notes)
            before.push_back(&note);
        said.push_back(beginsUnrelated(event, p.believed)                ? p.unrelated
                       : !heardInLine(line, event.onset_s, p.together_s) ? p.unheard
                       : over_ringing                                    ? p.over_ringing
                                                                         : p.alone);
    }
    return said;
}

} // namespace

bool unrelated(int midi_a, int midi_b) {
    return midi_a != midi_b && !sharesPartials(std::min(midi_a, midi_b), std::max(midi_a, midi_b));
}

bool beginsUnrelated(const ChordEvent& event, double least_probability) {
    for (const ChordNote& a : event.notes)
        for (const ChordNote& b : event.notes)
            if (unrelated(a.midi, b.midi) &&
                std::min(a.probability, b.probability) >= least_probability)
                return true;
    return false;
}

std::vector<VoiceSpan> voiceSpans(const std::vector<ChordEvent>& events,
                                  const std::vector<Note>& line,
                                  const Instrument& instrument,
                                  const VoiceParameters& p) {
    if (instrument.isBass() || events.empty())
        return {{{0.0, kForever_s}, Voices::Line}};
    const auto said = witnesses(events, line, p);
    std::vector<double> change(events.size(), p.change);
    double last_s = events.front().onset_s; // what spoke
    for (std::size_t i = 0; i < events.size(); ++i) {
        if (!speaks(events[i], p))
            continue;
        if (events[i].onset_s - last_s > p.pause_s)
            change[i] = p.change_paused;
        last_s = events[i].onset_s;
    }
    // State 0 is a line, 1 several voices.
    const auto own = [&said](std::size_t i) {
        return std::vector<double>{0.5 * said[i], -0.5 * said[i]};
    };
    const auto course = bestPath(events.size(), own, [&](std::size_t i, StepCosts& costs) {
        costs.fill(2, 2, [&](std::size_t from, std::size_t to) {
            // Of two equal courses the one that changes earlier.
            return from == to ? 0.0 : change[i] + 1e-9;
        });
    });
    std::vector<VoiceSpan> spans;
    for (std::size_t i = 0; i < events.size(); ++i) {
        const Voices voices = course[i] == 1 ? Voices::Several : Voices::Line;
        if (spans.empty() || spans.back().voices != voices) {
            const double start_s = spans.empty() ? 0.0 : events[i].onset_s - 0.03;
            if (!spans.empty())
                spans.back().span.end_s = start_s;
            spans.push_back({{start_s, kForever_s}, voices});
        }
    }
    return spans;
}

} // namespace wirenote
