#include "hearing/techniques.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace wirenote {
namespace {

struct Course { // of a pitch, without its trend
    std::vector<double> time_s;
    std::vector<double> cents;
};

Course courseOf(const Note& note, double settle_s) {
    Course course;
    double st = 0, sc = 0, stt = 0, stc = 0;
    for (const PitchPoint& p : note.curve) {
        if (p.time_s < note.onset_s() + settle_s)
            continue;
        course.time_s.push_back(p.time_s);
        course.cents.push_back(p.dev_cents);
        const double t = p.time_s - note.onset_s();
        st += t;
        sc += p.dev_cents;
        stt += t * t;
        stc += t * p.dev_cents;
    }
    const auto n = static_cast<double>(course.cents.size());
    const double d = n * stt - st * st;
    const double slope = d > 1e-12 ? (n * stc - st * sc) / d : 0.0;
    const double start = n > 0 ? (sc - slope * st) / n : 0.0;
    for (std::size_t i = 0; i < course.cents.size(); ++i)
        course.cents[i] -= start + slope * (course.time_s[i] - note.onset_s());
    return course;
}

} // namespace

std::optional<Vibrato> vibratoOf(const Note& note, const VibratoParameters& p) {
    const Course course = courseOf(note, p.settle_s);
    if (course.cents.size() < 12)
        return {};
    const double length_s = course.time_s.back() - course.time_s.front();
    double power = 0.0;
    for (const double c : course.cents)
        power += c * c;
    if (power <= 0.0)
        return {};
    std::optional<Vibrato> best;
    double best_share = p.regular;
    for (double hz = p.slowest_hz; hz <= p.fastest_hz; hz += 0.2) {
        if (hz * length_s < p.least_cycles)
            continue;
        double in_phase = 0.0;
        double quadrature = 0.0;
        for (std::size_t i = 0; i < course.cents.size(); ++i) {
            const double phase = 2.0 * std::numbers::pi * hz * course.time_s[i];
            in_phase += course.cents[i] * std::cos(phase);
            quadrature += course.cents[i] * std::sin(phase);
        }
        const auto n = static_cast<double>(course.cents.size());
        const double amplitude = 2.0 * std::hypot(in_phase, quadrature) / n;
        const double share = 0.5 * amplitude * amplitude * n / power;
        if (share > best_share && amplitude >= p.least_cents) {
            best_share = share;
            best = Vibrato{hz, amplitude};
        }
    }
    return best;
}

void markVibrato(Note& note, const VibratoParameters& parameters) {
    if (vibratoOf(note, parameters))
        note.add(Technique::Vibrato);
}

void markVibrato(std::vector<Note>& notes, const VibratoParameters& parameters) {
    for (Note& note : notes)
        markVibrato(note, parameters);
}

void markStaccato(std::vector<Note>& notes, const StaccatoParameters& p) {
    for (std::size_t i = 0; i < notes.size(); ++i) {
        Note& note = notes[i];
        if (note.has(Technique::GhostStroke) || note.has(Technique::PalmMute) ||
            note.has(Technique::Dead))
            continue;
        double room_s = p.longest_s * 3.0;
        for (std::size_t j = i + 1; j < notes.size(); ++j)
            if (notes[j].onset_s() > note.onset_s() + 0.06 && // not of the same strum
                !notes[j].has(Technique::GhostStroke)) {      // which damps what still sounds
                room_s = notes[j].onset_s() - note.onset_s();
                break;
            }
        const double length_s = note.time.value.length_s();
        if (room_s >= p.least_room_s && length_s <= p.longest_s && length_s < p.share * room_s)
            note.techniques.push_back(Technique::Staccato);
    }
}

} // namespace wirenote
