#include "lesson/claims.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>
#include <map>
#include <set>

namespace wirenote {
namespace {

constexpr double kAtOnce_s = 0.2;  // a caption is this much off what it speaks of
constexpr double kAround_s = 15.0; // what is said of a passage is said near it

// A note that may be meant.
struct Candidate {
    std::size_t note = 0;
    Rational beat; // felt beats from 1
    Rational unit; // the same in the lower number of the metre: the eighths of 6/8
    int bar = 0;
    double onset_s = 0.0;
};

// How much each right field speaks for a note.
struct Weights {
    double string = 1.0, fret = 1.0, finger = 0.8, stroke = 0.7, note = 0.9, beat = 1.2, time = 0.3;
};

class Checker {
  public:
    Checker(const LessonFacts& facts, const Speaker& speaker)
        : m_facts(facts), m_piece(facts.piece()), m_speaker(speaker) {
        for (std::size_t i = 0; i < m_piece.notes.size(); ++i) {
            const auto moment = facts.momentOf(i);
            const ScoreNote& written = facts.scoreNote(i);
            const SpokenPlace place =
                moment ? facts.moments()[*moment].place : facts.placeAt(written.start);
            const Rational beats = Rational(place.beat) + place.part;
            const Rational units =
                facts.metreAt(written.start).compound() ? beats * Rational(3) : beats;
            m_notes.push_back({i,
                               beats + Rational(1),
                               units + Rational(1),
                               place.bar,
                               m_piece.notes[i].onset_s()});
        }
    }

    void check(std::size_t index, const Cue& cue, const SpokenClaim& claim) {
        m_cue = index;
        m_span = &cue;
        if (claim.no_barre)
            noBarre();
        if (claim.chord)
            chord(claim);
        if (!claim.strokes.empty())
            strokes(claim);
        if (claim.ofNote())
            note(claim);
    }
    std::vector<CheckedClaim> found() && { return std::move(m_found); }

  private:
    bool timed() const { return !m_span->span.empty(); }
    double away(double time_s) const {
        if (time_s < m_span->span.start_s - kAtOnce_s)
            return m_span->span.start_s - kAtOnce_s - time_s;
        return std::max(0.0, time_s - m_span->span.end_s - kAtOnce_s);
    }

    CheckedClaim make(ClaimField field, std::string said, int bar) const {
        CheckedClaim one;
        one.cue = m_cue;
        one.start_s = m_span->span.start_s;
        one.bar = bar;
        one.field = field;
        one.said = std::move(said);
        one.text = m_span->text;
        return one;
    }
    void add(ClaimField field,
             std::string said,
             std::string is,
             ClaimVerdict verdict,
             const Candidate* of,
             int bar) {
        CheckedClaim one = make(field, std::move(said), of ? of->bar : bar);
        one.is = std::move(is);
        one.verdict = verdict;
        if (of) {
            one.note = m_piece.notes[of->note].id;
            one.hear_s = of->onset_s;
        }
        m_found.push_back(std::move(one));
    }

    // Notes that a claim may be of: those of the bar it names, or those about its time.
    std::vector<const Candidate*> mayBeMeant(const SpokenClaim& claim) const {
        std::vector<const Candidate*> all;
        for (const Candidate& one : m_notes)
            if (claim.bar ? one.bar >= *claim.bar && one.bar <= claim.last_bar.value_or(*claim.bar)
                          : !timed() || away(one.onset_s) <= kAround_s)
                all.push_back(&one);
        return all;
    }

    bool hasString(const SpokenClaim& claim, const Candidate& c) const {
        return std::ranges::count(claim.strings, place(c).string) > 0;
    }
    Position place(const Candidate& c) const { return m_facts.plan(c.note).position.value; }
    Finger finger(const Candidate& c) const { return m_facts.plan(c.note).finger.value; }
    Stroke stroke(const Candidate& c) const { return m_facts.plan(c.note).stroke.value; }
    bool isNote(int pitch_class, const Candidate& c) const {
        const int sounds = m_piece.notes[c.note].midi() % 12;
        return sounds == pitch_class ||
               (sounds - m_piece.instrument.capo % 12 + 12) % 12 == pitch_class;
    }
    // Six eighths are counted in two or in six.
    static bool isBeat(const SpokenClaim& claim, const Candidate& c) {
        return claim.beat && (c.beat == *claim.beat || c.unit == *claim.beat);
    }
    bool isEither(Finger said, const Candidate& c) const {
        return finger(c) == said || stroke(c) == pluckedBy(said);
    }

    struct Weighed {
        double right = 0.0;
        double all = 0.0;
        int fields = 0, right_fields = 0;
    };
    Weighed weigh(const SpokenClaim& claim, const Candidate& c) const {
        static constexpr Weights kWeights;
        Weighed sum;
        const auto field = [&sum](bool said, bool right, double weight) {
            if (!said)
                return;
            sum.all += weight;
            sum.right += right ? weight : 0.0;
            sum.fields += 1;
            sum.right_fields += right ? 1 : 0;
        };
        field(!claim.strings.empty(), hasString(claim, c), kWeights.string);
        field(claim.fret.has_value(), place(c).fret == claim.fret, kWeights.fret);
        field(claim.finger.has_value(), finger(c) == claim.finger, kWeights.finger);
        field(claim.stroke.has_value(), stroke(c) == claim.stroke, kWeights.stroke);
        field(
            claim.either.has_value(), claim.either && isEither(*claim.either, c), kWeights.finger);
        field(claim.note.has_value(), claim.note && isNote(*claim.note, c), kWeights.note);
        field(claim.beat.has_value(), isBeat(claim, c), kWeights.beat);
        return sum;
    }

    void note(const SpokenClaim& claim) {
        const std::vector<const Candidate*> all = mayBeMeant(claim);
        const Candidate* best = nullptr;
        Weighed of_best;
        double best_score = -1.0;
        for (const Candidate* one : all) {
            const Weighed sum = weigh(claim, *one);
            double score = sum.right;
            if (timed())
                score += Weights{}.time * std::exp(-away(one->onset_s) / 4.0) +
                         (away(one->onset_s) <= 0.0 ? Weights{}.time : 0.0);
            if (score > best_score + 1e-9) {
                best = one;
                of_best = sum;
                best_score = score;
            }
        }
        const bool all_right = best && of_best.right_fields == of_best.fields;
        if (best && (all_right || tied(claim, *best, of_best, all)))
            say(claim, *best);
        else
            fitsNothing(claim);
    }

    // Whether enough is right to say of which note the rest is wrong.
    bool tied(const SpokenClaim& claim,
              const Candidate& best,
              const Weighed& sum,
              const std::vector<const Candidate*>& all) const {
        constexpr std::size_t kFew = 3;
        if (claim.bar && isBeat(claim, best))
            return true; // it says exactly where
        if (sum.fields >= 2 && sum.right_fields >= 1) {
            // A single field of many is no sign of a note.
            return sum.right_fields * 3 >= sum.fields;
        }
        if (sum.fields > 1)
            return false;
        // One thing said: of a bar, or of what sounds just then, and nothing there is so.
        if (claim.bar)
            return !claim.beat;
        std::size_t now = 0;
        for (const Candidate* one : all)
            now += away(one->onset_s) <= 0.0 ? 1 : 0;
        return timed() && away(best.onset_s) <= 0.0 && now <= kFew;
    }

    void say(const SpokenClaim& claim, const Candidate& c) {
        const auto verdict = [](bool right) {
            return right ? ClaimVerdict::Right : ClaimVerdict::Wrong;
        };
        if (!claim.strings.empty())
            add(ClaimField::String,
                stringsText(claim),
                std::to_string(place(c).string),
                verdict(hasString(claim, c)),
                &c,
                c.bar);
        if (claim.fret)
            add(ClaimField::Fret,
                std::to_string(*claim.fret),
                std::to_string(place(c).fret),
                verdict(place(c).fret == *claim.fret),
                &c,
                c.bar);
        if (claim.finger)
            decided(ClaimField::Finger,
                    fingerText(*claim.finger),
                    fingerText(finger(c)),
                    finger(c) != Finger::Unknown,
                    c);
        if (claim.stroke)
            decided(ClaimField::Stroke,
                    strokeText(*claim.stroke),
                    strokeText(stroke(c)),
                    stroke(c) != Stroke::Unknown,
                    c);
        if (claim.either)
            add(ClaimField::Finger,
                fingerText(*claim.either),
                fingerText(finger(c)),
                isEither(*claim.either, c) ? ClaimVerdict::Right : unsure(claim, c),
                &c,
                c.bar);
        if (claim.note)
            add(ClaimField::Note,
                m_speaker.pitchClass(*claim.note),
                m_speaker.pitchClass(m_piece.notes[c.note].midi() % 12),
                verdict(isNote(*claim.note, c)),
                &c,
                c.bar);
        if (claim.beat)
            add(ClaimField::Beat,
                beatText(*claim.beat),
                beatText(c.beat),
                verdict(isBeat(claim, c)),
                &c,
                c.bar);
    }
    // "index" of which hand? Wrong only where a string and fret say that it is pressed.
    ClaimVerdict unsure(const SpokenClaim& claim, const Candidate& c) const {
        return claim.fret && finger(c) != Finger::Unknown ? ClaimVerdict::Wrong
                                                          : ClaimVerdict::Unclear;
    }
    // What nobody has decided contradicts nothing.
    void decided(ClaimField field,
                 const std::string& said,
                 const std::string& is,
                 bool known,
                 const Candidate& c) {
        ClaimVerdict verdict = said == is ? ClaimVerdict::Right : ClaimVerdict::Wrong;
        if (!known)
            verdict = ClaimVerdict::Unclear;
        add(field, said, is, verdict, &c, c.bar);
    }

    // Of no note; but what a fretboard has where is certain.
    void fitsNothing(const SpokenClaim& claim) {
        const int bar = claim.bar.value_or(0);
        const auto unclear = [&](ClaimField field, std::string said) {
            add(field, std::move(said), {}, ClaimVerdict::Unclear, nullptr, bar);
        };
        if (!claim.strings.empty())
            unclear(ClaimField::String, stringsText(claim));
        if (claim.fret)
            unclear(ClaimField::Fret, std::to_string(*claim.fret));
        if (claim.finger || claim.either)
            unclear(ClaimField::Finger, fingerText(claim.finger ? *claim.finger : *claim.either));
        if (claim.stroke)
            unclear(ClaimField::Stroke, strokeText(*claim.stroke));
        if (claim.beat)
            unclear(ClaimField::Beat, beatText(*claim.beat));
        if (!claim.note)
            return;
        const bool on_neck = claim.strings.size() == 1 && claim.fret &&
                             m_piece.instrument.hasString(claim.strings[0]) &&
                             *claim.fret <= m_piece.instrument.highestFret();
        if (!on_neck) {
            unclear(ClaimField::Note, m_speaker.pitchClass(*claim.note));
            return;
        }
        const int there = m_piece.instrument.midiAt({claim.strings[0], *claim.fret}) % 12;
        const int shape = (there - m_piece.instrument.capo % 12 + 12) % 12;
        add(ClaimField::Note,
            m_speaker.pitchClass(*claim.note),
            m_speaker.pitchClass(there),
            *claim.note == there || *claim.note == shape ? ClaimVerdict::Right
                                                         : ClaimVerdict::Wrong,
            nullptr,
            bar);
    }

    // "down, down, up" against the strokes of its bar, or of what sounds then.
    void strokes(const SpokenClaim& claim) {
        std::vector<std::pair<Stroke, const Candidate*>> played;
        for (const LessonMoment& moment : m_facts.moments()) {
            const Candidate& c = m_notes[moment.notes.front()];
            const bool meant =
                claim.bar ? c.bar == *claim.bar : timed() && away(c.onset_s) <= kAtOnce_s;
            if (meant && (stroke(c) == Stroke::Down || stroke(c) == Stroke::Up))
                played.emplace_back(stroke(c), &c);
        }
        const auto text = [](const std::vector<Stroke>& row) {
            std::string all;
            for (const Stroke one : row)
                all += (all.empty() ? "" : " ") + strokeText(one);
            return all;
        };
        std::vector<Stroke> row;
        for (const auto& [stroke, of] : played)
            row.push_back(stroke);
        const bool as_many = row.size() == claim.strokes.size();
        const bool inside =
            std::search(row.begin(), row.end(), claim.strokes.begin(), claim.strokes.end()) !=
            row.end();
        ClaimVerdict verdict = ClaimVerdict::Unclear;
        if (inside)
            verdict = ClaimVerdict::Right;
        else if (as_many)
            verdict = ClaimVerdict::Wrong;
        add(ClaimField::Stroke,
            text(claim.strokes),
            text(row),
            verdict,
            played.empty() ? nullptr : played.front().second,
            claim.bar.value_or(0));
    }

    TimeRange spanOf(const SpokenClaim& claim) const {
        if (!claim.bar)
            return timed()
                       ? TimeRange{m_span->span.start_s - kAtOnce_s, m_span->span.end_s + kAtOnce_s}
                       : TimeRange{};
        const BarGrid& grid = m_facts.map().grid();
        const Metre metre = grid.bar(*claim.bar).metre;
        const Rational start = grid.bar(*claim.bar).start;
        const Rational from =
            claim.beat ? start + (*claim.beat - Rational(1)) * metre.beatLength() : start;
        const Rational to = grid.bar(claim.last_bar.value_or(*claim.bar) + 1).start;
        return {m_facts.map().timeAt(from.toDouble()) - 0.05, m_facts.map().timeAt(to.toDouble())};
    }

    void chord(const SpokenClaim& claim) {
        const TimeRange span = spanOf(claim);
        std::set<int> sounding;
        std::vector<const ChordSpan*> named;
        for (const Candidate& c : m_notes)
            if (m_piece.notes[c.note].pitched() && c.onset_s >= span.start_s - 0.05 &&
                c.onset_s < span.end_s - 0.05)
                sounding.insert(m_piece.notes[c.note].midi() % 12);
        for (const ChordSpan& one : m_facts.chords())
            if (one.span.start_s < span.end_s - 0.1 && one.span.end_s > span.start_s + 0.1)
                named.push_back(&one);
        const bool right =
            std::ranges::any_of(
                named, [&](const ChordSpan* one) { return isChord(*claim.chord, *one); }) ||
            madeOf(*claim.chord, sounding);
        ClaimVerdict verdict = ClaimVerdict::Unclear;
        if (right)
            verdict = ClaimVerdict::Right;
        else if (!named.empty() && !claim.chord_or_place)
            verdict = ClaimVerdict::Wrong;
        CheckedClaim one = make(ClaimField::Chord, claim.chord_said, claim.bar.value_or(0));
        one.verdict = verdict;
        if (!named.empty()) {
            one.is = right ? claim.chord_said : m_facts.chordName(*named.front());
            one.hear_s = named.front()->span.start_s;
            one.bar = claim.bar.value_or(m_facts.map().barBeatAt(one.hear_s).bar);
        }
        m_found.push_back(std::move(one));
    }
    // By its tones, as it sounds or, with a capo, as its shape is called.
    bool isChord(const ChordTones& said, const ChordSpan& one) const {
        const auto tones = parseChord(m_facts.chordName(one));
        if (!tones)
            return false;
        const std::set<int> a(said.classes.begin(), said.classes.end());
        for (const int lower : {0, m_piece.instrument.capo % 12}) {
            std::set<int> b;
            for (const int tone : tones->classes)
                b.insert((tone - lower + 12) % 12);
            if ((tones->root - lower + 12) % 12 == said.root && kinds(a, b))
                return true;
        }
        return false;
    }
    // "C" may be said of C7 and the other way round where only what they share sounds: not told
    // apart here; the same tones are the same chord.
    static bool kinds(const std::set<int>& a, const std::set<int>& b) { return a == b; }
    // All that sounds belongs to it, its root too, and its third or fifth.
    bool madeOf(const ChordTones& said, const std::set<int>& sounding) const {
        constexpr std::size_t kEnough = 2;
        return sounding.size() >= kEnough && sounding.contains(said.root) &&
               std::ranges::all_of(
                   sounding, [&](int tone) { return std::ranges::count(said.classes, tone) > 0; });
    }

    void noBarre() {
        const auto& barres = m_facts.sheet().barres;
        CheckedClaim one = make(ClaimField::Finger, "no barre", 0);
        one.verdict = barres.empty() ? ClaimVerdict::Right : ClaimVerdict::Wrong;
        if (!barres.empty()) {
            one.bar = m_facts.placeAt(barres.front().from).bar;
            one.is = "a barre at fret " + std::to_string(barres.front().fret);
            one.hear_s = m_facts.map().timeAt(barres.front().from.toDouble());
        }
        m_found.push_back(std::move(one));
    }

    static std::string stringsText(const SpokenClaim& claim) {
        std::string text;
        for (const int string : claim.strings)
            text += (text.empty() ? "" : " or ") + std::to_string(string);
        return text;
    }
    static std::string fingerText(Finger finger) {
        switch (finger) {
        case Finger::Thumb:
            return "T";
        case Finger::Open:
            return "none";
        case Finger::Unknown:
            return {};
        default:
            return std::to_string(static_cast<int>(finger) - static_cast<int>(Finger::Index) + 1);
        }
    }
    static std::string strokeText(Stroke stroke) {
        constexpr std::array kNames = {"", "down", "up", "p", "i", "m", "a", "c", "ghost", "none"};
        return kNames[static_cast<std::size_t>(stroke)];
    }
    static std::string beatText(Rational beat) {
        char text[32];
        std::snprintf(text, sizeof text, "%g", beat.toDouble());
        return text;
    }

    const LessonFacts& m_facts;
    const Piece& m_piece;
    const Speaker& m_speaker;
    std::vector<Candidate> m_notes; // one for each of Piece::notes
    std::vector<CheckedClaim> m_found;
    std::size_t m_cue = 0;
    const Cue* m_span = nullptr;
};

} // namespace

std::vector<CheckedClaim>
checkClaims(const LessonFacts& facts, const std::vector<Cue>& cues, const Speaker& speaker) {
    Checker checker(facts, speaker);
    for (std::size_t i = 0; i < cues.size(); ++i)
        for (const SpokenClaim& claim : claimsIn(cues[i].text, speaker))
            checker.check(i, cues[i], claim);
    return std::move(checker).found();
}

std::string_view wordFor(ClaimField field) {
    constexpr std::array<std::string_view, 7> kWords = {
        "string", "fret", "finger", "stroke", "beat", "chord", "note"};
    return kWords[static_cast<std::size_t>(field)];
}

std::string_view wordFor(ClaimVerdict verdict) {
    constexpr std::array<std::string_view, 3> kWords = {"right", "wrong", "unclear"};
    return kWords[static_cast<std::size_t>(verdict)];
}

} // namespace wirenote
