#include "lesson/shown_claims.h"

#include "form/versions.h"

#include <algorithm>

namespace wirenote {
namespace {

constexpr int kOctave = 12;           // semitones
constexpr double kSure = 0.8;         // of both, from which a difference contradicts
constexpr double kWithinBar_s = 0.03; // a note a little before its bar belongs to it

// Also below MIDI note 0, where a take in a higher key puts what it plays very low.
std::string nameOf(const Speaker& speaker, int midi) {
    return speaker.pitchClass((midi % kOctave + kOctave) % kOctave);
}

CheckedClaim claimOf(const LessonFacts& facts,
                     const Speaker& speaker,
                     const Version& version,
                     const VersionDifference& difference) {
    const Piece& piece = facts.piece();
    CheckedClaim claim;
    claim.take = version.take;
    claim.start_s = inTake(version.moments, difference.piece_s);
    claim.hear_s = difference.piece_s;
    claim.bar = facts.map().barBeatAt(difference.piece_s + kWithinBar_s).bar;
    claim.field = ClaimField::Note;
    claim.verdict = difference.belief >= kSure ? ClaimVerdict::Wrong : ClaimVerdict::Unclear;
    claim.text = piece.takes[version.take].name;
    if (difference.kind != VersionDifferenceKind::Added) {
        claim.note = piece.notes[difference.note].id;
        claim.is = nameOf(speaker, piece.notes[difference.note].midi());
    }
    switch (difference.kind) {
    case VersionDifferenceKind::Missing:
        break;
    case VersionDifferenceKind::Added:
    case VersionDifferenceKind::Pitch:
        claim.said = nameOf(speaker, difference.midi);
        break;
    case VersionDifferenceKind::Slurred:
    case VersionDifferenceKind::Struck: {
        const bool slurred = difference.kind == VersionDifferenceKind::Slurred;
        claim.field = ClaimField::Stroke;
        claim.said = speaker.words().say(slurred ? "words.slurred" : "words.struck");
        claim.is = speaker.words().say(slurred ? "words.struck" : "words.slurred");
        break;
    }
    }
    return claim;
}

} // namespace

std::vector<CheckedClaim> checkDemonstrations(const LessonFacts& facts, const Speaker& speaker) {
    std::vector<CheckedClaim> claims;
    for (const Version& version : versionsOf(facts.piece()))
        for (const VersionDifference& difference : version.differences)
            if (!version.refused)
                claims.push_back(claimOf(facts, speaker, version, difference));
    std::ranges::stable_sort(claims, {}, [](const CheckedClaim& claim) {
        return std::pair(*claim.take, claim.start_s);
    });
    return claims;
}

} // namespace wirenote
