#include "hearing/unpitched.h"

#include "hearing/attack_network.h"
#include "hearing/chords.h"

#include <algorithm>
#include <cmath>
#include <optional>

namespace wirenote {
namespace {

constexpr double kThereabouts_s = 8.0;
constexpr double kSame_s = 0.04;  // a note of the line so near begins at that attack
constexpr double kShort_s = 0.15; // longer notes are what they are
constexpr double kLength_s = 0.1; // of a dead note
constexpr double kBelief = 0.85;
constexpr double kBegins = 0.5;
constexpr double kLeastStrength = 0.2; // of the attack
constexpr double kFar_s = 2.0;         // what was played longer ago says nothing of the string

// The note that begins at an attack.
std::optional<std::size_t> noteAt(const std::vector<Note>& line, const AttackMoment& attack) {
    const auto note = std::ranges::lower_bound(line, attack.first_s - kSame_s, {}, &Note::onset_s);
    if (note == line.end() || note->onset_s() > attack.last_s + kSame_s)
        return {};
    return static_cast<std::size_t>(note - line.begin());
}

const Note* before(const std::vector<Note>& line, double onset_s) {
    const auto after = std::ranges::lower_bound(line, onset_s - kSame_s, {}, &Note::onset_s);
    if (after == line.begin() || onset_s - (after - 1)->onset_s() > kFar_s)
        return nullptr;
    return &*(after - 1);
}

// Dead notes stand between others, about as loud: what is heard when a note is let go is none.
bool standsBetween(const std::vector<Note>& line,
                   const Note& like,
                   const AttackMoment& attack,
                   const FluxTrack& flux) {
    constexpr double kSoon_s = 1.0;
    constexpr double kFaint_db = 20.0;
    constexpr double kAttack_s = 0.05;
    const auto loudest_db = [&flux](double from_s) {
        float loudest = -120.0F;
        for (double t = from_s; t < from_s + kAttack_s; t += flux.hop_s)
            loudest = std::max(loudest, flux.level_db[flux.frameAt(t)]);
        return loudest;
    };
    const auto next = std::ranges::upper_bound(line, attack.last_s + kSame_s, {}, &Note::onset_s);
    return next != line.end() && next->onset_s() < attack.last_s + kSoon_s &&
           loudest_db(attack.first_s) > loudest_db(like.onset_s()) - kFaint_db;
}

bool aPitchBegins(const AttackPicture& picture) {
    return std::ranges::any_of(believe(picture),
                               [](const PitchBelief& belief) { return belief.begins > kBegins; });
}

Note deadNote(const Note& like, const AttackMoment& attack, double next_s) {
    Note note;
    note.time.value = {attack.first_s, std::min(attack.first_s + kLength_s, next_s - 0.005)};
    note.time.basis = Basis::Heard;
    note.time.probability = kBelief;
    note.existence = {true, Basis::Heard, kBelief, {}, {}};
    note.pitch.value = like.pitch.value;
    note.pitch.basis = Basis::Reasoned;
    note.pitch.probability = kBelief * like.pitch.probability;
    note.loudness_db = like.loudness_db - 6.0;
    note.velocity = 0.7 * like.velocity;
    note.ownSound().attack.strength = attack.strength;
    note.techniques.push_back(Technique::Dead);
    return note;
}

} // namespace

Nearby quietestLevel(const FluxTrack& flux) {
    constexpr std::size_t kEvery = 4; // frames
    std::vector<TimedValue> levels;
    for (std::size_t i = 0; i < flux.level_db.size(); i += kEvery)
        levels.push_back({flux.timeOf(i), flux.level_db[i]});
    return {
        levels, kThereabouts_s, [](std::vector<double>& near) { return *quantile(near, 0.02); }};
}

bool isGhost(double onset_s,
             double flatness,
             double next_s,
             const FluxTrack& flux,
             double floor_db,
             const GhostParameters& p) {
    if (flatness < p.flatness || flux.level_db.empty())
        return false;
    float loudest = -120.0F;
    float quietest = 0.0F;
    for (double t = onset_s; t < std::min(next_s - 0.01, onset_s + 0.16); t += flux.hop_s) {
        const float level = flux.level_db[flux.frameAt(t)];
        if (t < onset_s + 0.05)
            loudest = std::max(loudest, level);
        quietest = std::min(quietest, level);
    }
    const double heard_db = loudest - floor_db;
    // The noisier, the less it need fall: a room holds it up.
    const double noisy = std::sqrt(flatness / p.noisy_flatness);
    return loudest - quietest > std::min(p.drop_db / noisy, p.drop_share * heard_db);
}

void addDeadNotes(SoundView sound,
                  const LocalTuning& tuning,
                  const FluxTrack& flux,
                  const std::vector<OnsetPeak>& onsets,
                  std::vector<Note>& line,
                  const JobControl& job) {
    const Nearby floor = quietestLevel(flux);
    AttackPictures pictures(sound);
    std::vector<Note> dead;
    std::vector<bool> none(line.size(), false); // heard where a dead note is
    for (const AttackMoment& attack :
         attackMoments(onsets, ChordParameters{}.event_s, sound.length_s())) {
        if (job.cancelRequested())
            return;
        const auto there = noteAt(line, attack);
        if (there && line[*there].time.value.length_s() > kShort_s)
            continue;
        const Note* like = before(line, attack.first_s);
        if (!like || like->has(Technique::PalmMute))
            continue;
        if (attack.strength < kLeastStrength || !standsBetween(line, *like, attack, flux))
            continue;
        const AttackPicture picture = pictures.at(attack, tuning.a4At(attack.first_s));
        if (!isGhost(
                attack.first_s, picture.flatness, attack.next_s, flux, floor.at(attack.first_s)) ||
            aPitchBegins(picture))
            continue;
        dead.push_back(deadNote(*like, attack, attack.next_s));
        if (there)
            none[*there] = true;
    }
    std::size_t i = 0;
    std::erase_if(line, [&](const Note&) { return none[i++]; });
    // The one before may have been cut by it, or go on under it.
    for (Note& note : dead) {
        const auto at = std::ranges::upper_bound(line, note.onset_s(), {}, &Note::onset_s);
        if (at != line.begin() && (at - 1)->offset_s() > note.onset_s())
            (at - 1)->time.value.end_s = note.onset_s();
        line.insert(at, std::move(note));
    }
}

} // namespace wirenote
