#include "lesson/breakdown.h"

#include "fretting/hand_load.h"
#include "lesson/teaching_order.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <set>

namespace wirenote {
namespace {

std::string letterOf(std::size_t n) {
    constexpr std::size_t kLetters = 26;
    std::string text;
    for (++n; n > 0; n = (n - 1) / kLetters)
        text.insert(text.begin(), static_cast<char>('A' + (n - 1) % kLetters));
    return text;
}

// A place where a phrase may begin, and what speaks against it.
struct Cut {
    Rational at;
    double time_s = 0.0;
    double cost = 0.0;
    int bar = 1; // in which it lies
};

// What sounds on over a place of the score.
bool heldOver(const LessonFacts& facts, std::size_t first_after, Rational at) {
    constexpr std::size_t kBack = 12; // notes
    const auto& moments = facts.moments();
    for (std::size_t back = 1; back <= kBack && back <= first_after; ++back)
        for (const std::size_t note : moments[first_after - back].notes)
            if (const ScoreNote& written = facts.scoreNote(note);
                written.start + written.sounds > at + Rational(1, 4))
                return true;
    return false;
}

// Where something begins anyway: repeats, sections, positions.
std::set<Rational> beginnings(const LessonFacts& facts) {
    std::set<Rational> all;
    const BarGrid& grid = facts.map().grid();
    for (const Phrase& phrase : phrasesOf(facts.bars()))
        for (const Occurrence& one : phrase.occurrences) {
            all.insert(grid.bar(one.first_bar).start);
            all.insert(grid.bar(one.first_bar + phrase.bars).start);
        }
    return all;
}

Rational nearestBeat(const LessonFacts& facts, double time_s) {
    constexpr int kParts = 4;
    return {std::lround(kParts * facts.map().quartersAt(time_s)), kParts};
}

std::vector<Cut> possibleCuts(const LessonFacts& facts, Rational from, Rational to) {
    constexpr double kWithinBar = 3.0, kHeld = 1.5, kRest = -0.8, kBegins = -2.0, kSection = -4.0,
                     kPosition = -0.6;
    const std::set<Rational> begins = beginnings(facts);
    std::set<Rational> sections, positions;
    for (const Section& section : facts.piece().timeline.sections)
        sections.insert(facts.map().grid().barAt(nearestBeat(facts, section.span.start_s)).start);
    for (const PositionSign& sign : facts.sheet().positions)
        positions.insert(sign.at);
    std::vector<Cut> cuts;
    const auto add = [&](Rational at, bool bar_line) {
        Cut cut{at,
                facts.map().timeAt(at.toDouble()),
                bar_line ? 0.0 : kWithinBar,
                facts.placeAt(at).bar};
        const std::size_t after = facts.momentsIn(at, at).first;
        cut.cost += heldOver(facts, after, at) ? kHeld : 0.0;
        cut.cost += begins.contains(at) ? kBegins : 0.0;
        cut.cost += sections.contains(at) ? kSection : 0.0;
        if (after < facts.moments().size()) {
            cut.cost += facts.moments()[after].start > at ? kRest : 0.0;
            cut.cost += positions.contains(facts.moments()[after].start) ? kPosition : 0.0;
        }
        cuts.push_back(cut);
    };
    cuts.push_back({from, facts.map().timeAt(from.toDouble()), 0.0, facts.placeAt(from).bar});
    const BarGrid& grid = facts.map().grid();
    for (int number = grid.barAt(from).number; grid.bar(number).start < to; ++number) {
        const GridBar bar = grid.bar(number);
        for (int beat = 0; beat < bar.metre.feltBeats(); ++beat)
            if (const Rational at = bar.start + bar.metre.beatLength() * Rational(beat);
                at > from && at < to)
                add(at, beat == 0);
    }
    cuts.push_back({to, facts.map().timeAt(to.toDouble()), 0.0, facts.placeAt(to).bar});
    return cuts;
}

// Music goes in twos, fours and eights of bars (common practice).
double unusualBars(const Cut& from, const Cut& to) {
    constexpr double kUnusual = 1.2, kOffTwos = 0.6;
    const int bars = to.bar - from.bar;
    const bool usual = bars == 1 || bars == 2 || bars == 4 || bars == 8;
    return (usual ? 0.0 : kUnusual) + (to.bar % 2 == 0 ? kOffTwos : 0.0);
}

// The cheapest way from the first cut to the last.
std::vector<Rational> cheapest(const std::vector<Cut>& cuts, const BreakdownParameters& p) {
    constexpr double kNever = std::numeric_limits<double>::infinity();
    constexpr std::size_t kReach = 160; // beats that a phrase may have
    std::vector<double> cost(cuts.size(), kNever);
    std::vector<std::size_t> before(cuts.size(), 0);
    cost[0] = 0.0;
    for (std::size_t i = 1; i < cuts.size(); ++i)
        for (std::size_t j = i > kReach ? i - kReach : 0; j < i; ++j) {
            const double length_s = cuts[i].time_s - cuts[j].time_s;
            double off = std::abs(std::log2(std::max(length_s, 0.05) / p.usual_s));
            if (length_s > p.longest_s || length_s < p.shortest_s)
                off += 3.0;
            const double here =
                cost[j] + 2.5 * off * off + cuts[i].cost + unusualBars(cuts[j], cuts[i]) + 1.0;
            if (here < cost[i]) {
                cost[i] = here;
                before[i] = j;
            }
        }
    std::vector<Rational> chosen;
    for (std::size_t i = cuts.size() - 1;; i = before[i]) {
        chosen.push_back(cuts[i].at);
        if (i == 0)
            break;
    }
    std::ranges::reverse(chosen);
    return chosen;
}

// From the first note to the end of the bar in which the last one begins; or what is taught.
std::pair<Rational, Rational> taughtRange(const LessonFacts& facts) {
    const auto& moments = facts.moments();
    const BarGrid& grid = facts.map().grid();
    const auto barStart = [&](Rational at) { return grid.barAt(at).start; };
    Rational from = std::min(moments.front().start, barStart(moments.front().start));
    if (grid.barAt(moments.front().start).number <= 0)
        from = moments.front().start;
    Rational to = grid.bar(grid.barAt(moments.back().start).number + 1).start;
    const TimeRange taught = facts.piece().lesson.taught;
    if (!taught.empty()) {
        from = std::max(from, nearestBeat(facts, taught.start_s));
        to = std::min(to, nearestBeat(facts, taught.end_s));
    }
    return {from, to};
}

TeachPhrase phraseOf(const LessonFacts& facts, Rational from, Rational to) {
    TeachPhrase phrase;
    phrase.from = from;
    phrase.to = to;
    phrase.span = {facts.map().timeAt(from.toDouble()), facts.map().timeAt(to.toDouble())};
    phrase.first_bar = facts.placeAt(from).bar;
    const auto moments = facts.momentsIn(from, to);
    const Rational last =
        moments.second > moments.first ? facts.moments()[moments.second - 1].start : from;
    // A bar line at its end is not of the phrase.
    phrase.last_bar = std::max(facts.placeAt(last).bar, facts.placeAt(to - Rational(1, 64)).bar);
    for (const Section& section : facts.piece().timeline.sections)
        if (std::abs(section.span.start_s - phrase.span.start_s) < 0.3)
            phrase.title = section.label;
    return phrase;
}

// What a stretch plays, as a bar of its own that begins where it does.
BarContent contentOfPhrase(const LessonFacts& facts, const TeachPhrase& phrase) {
    BarContent content;
    content.metre = facts.metreAt(phrase.from);
    const auto [first, last] = facts.momentsIn(phrase.from, phrase.to);
    for (std::size_t m = first; m < last; ++m)
        for (const std::size_t note : facts.moments()[m].notes)
            content.events.push_back({facts.moments()[m].start - phrase.from,
                                      facts.scoreNote(note).length,
                                      facts.piece().notes[note].midi(),
                                      note});
    std::ranges::sort(
        content.events, {}, [](const BarContent::Event& e) { return std::pair(e.at, e.midi); });
    return content;
}

// Whether notes that are the same are played alike: what is taught once must hold again. Of a
// transposed stretch: on the same strings, all frets as far up.
bool sameHands(const LessonFacts& facts, const BarContent& a, const BarContent& b, int transposed) {
    for (const BarContent::Event& one : a.events)
        for (const BarContent::Event& other : b.events) {
            if (one.at != other.at || one.midi + transposed != other.midi)
                continue;
            const NotePlan& p = facts.plan(one.note);
            const NotePlan& q = facts.plan(other.note);
            if (p.position.value.string != q.position.value.string ||
                p.position.value.fret + transposed != q.position.value.fret ||
                p.finger.value != q.finger.value || p.stroke.value != q.stroke.value)
                return false;
        }
    return true;
}

void findRepeats(const LessonFacts& facts, std::vector<TeachPhrase>& phrases) {
    constexpr double kAlike = 0.7;
    constexpr std::size_t kMostDifferences = 3; // else it is quicker taught anew
    std::vector<BarContent> contents;
    for (const TeachPhrase& phrase : phrases)
        contents.push_back(contentOfPhrase(facts, phrase));
    for (std::size_t i = 1; i < phrases.size(); ++i)
        for (std::size_t j = 0; j < i; ++j) {
            if (phrases[j].same_as || phrases[j].left_out || contents[i].events.empty() ||
                phrases[i].to - phrases[i].from != phrases[j].to - phrases[j].from)
                continue;
            const BarLikeness like = likenessOf(contents[j], contents[i]);
            if (like.likeness < kAlike)
                continue;
            std::vector<Difference> differences =
                differencesOf(contents[j], contents[i], like.transposed);
            if (differences.size() > kMostDifferences ||
                !sameHands(facts, contents[j], contents[i], like.transposed) ||
                (phrases[i].same_as && differences.size() >= phrases[i].differences.size()))
                continue;
            phrases[i].same_as = j;
            phrases[i].transposed = like.transposed;
            phrases[i].differences = std::move(differences);
        }
}

double hardnessOf(const std::vector<HandTransition>& transitions, const TeachPhrase& phrase) {
    double most = 0.0;
    for (const HandTransition& step : transitions)
        if (step.onset_s >= phrase.span.start_s && step.onset_s < phrase.span.end_s &&
            step.gap_s > 0.0)
            most = std::max(most, step.needs_s / step.gap_s);
    return most;
}

std::vector<TeachPhrase> cutPhrases(const LessonFacts& facts, const BreakdownParameters& p) {
    std::vector<TeachPhrase> phrases;
    const auto& set = facts.piece().lesson.phrases;
    for (const TaughtPhrase& one : set) {
        const Rational from = nearestBeat(facts, one.span.start_s);
        const Rational to = nearestBeat(facts, one.span.end_s);
        if (to <= from)
            continue;
        TeachPhrase phrase = phraseOf(facts, from, to);
        phrase.title = one.title.empty() ? phrase.title : one.title;
        phrase.left_out = one.left_out;
        phrase.free = one.free;
        phrase.set = true;
        phrases.push_back(std::move(phrase));
    }
    if (!set.empty())
        return phrases;
    const auto [from, to] = taughtRange(facts);
    if (to <= from)
        return phrases;
    const std::vector<Rational> cuts = cheapest(possibleCuts(facts, from, to), p);
    for (std::size_t i = 0; i + 1 < cuts.size(); ++i) {
        const auto [first, last] = facts.momentsIn(cuts[i], cuts[i + 1]);
        if (last > first) // a rest is no phrase
            phrases.push_back(phraseOf(facts, cuts[i], cuts[i + 1]));
    }
    return phrases;
}

} // namespace

std::vector<std::size_t> Breakdown::left_out() const {
    std::vector<std::size_t> out;
    for (std::size_t i = 0; i < phrases.size(); ++i)
        if (phrases[i].left_out)
            out.push_back(i);
    return out;
}

Breakdown breakdownOf(const LessonFacts& facts, const BreakdownParameters& parameters) {
    Breakdown breakdown;
    if (facts.moments().empty())
        return breakdown;
    breakdown.phrases = cutPhrases(facts, parameters);
    const auto transitions = handTransitions(facts.piece().instrument, facts.piece().rows());
    for (std::size_t i = 0; i < breakdown.phrases.size(); ++i) {
        breakdown.phrases[i].letter = letterOf(i);
        breakdown.phrases[i].layers =
            layersOf(facts, breakdown.phrases[i].from, breakdown.phrases[i].to);
        breakdown.phrases[i].hardness = hardnessOf(transitions, breakdown.phrases[i]);
    }
    findRepeats(facts, breakdown.phrases);
    const bool one_voice = std::ranges::none_of(facts.sheet().score.bars,
                                                [](const Bar& bar) { return !bar.lower.empty(); });
    breakdown.steps = stepsOf(breakdown.phrases, facts.piece().lesson.manner, one_voice);
    return breakdown;
}

} // namespace wirenote
