// Edits that concern the takes, and what was heard in them.
#include "piece/edits.h"

#include <algorithm>
#include <cmath>
#include <iterator>
#include <span>

namespace wirenote {
namespace {

constexpr double kSameNote_s = 0.05;
constexpr double kSamePlaying_s = 0.09; // between two playings of a note, in the time of one
constexpr double kMostGain_db = 24.0;

bool anythingSet(const Note& note, const NotePlan& plan) {
    return note.existence.isSet() || note.time.isSet() || note.pitch.isSet() ||
           plan.position.isSet() || plan.finger.isSet() || plan.stroke.isSet();
}

Status checkTake(const Take& take) {
    if (take.trim.start_s < 0.0 || take.trim.end_s < take.trim.start_s ||
        take.trim.end_s > take.length_s + 1e-6)
        return badCall("the part to hear must lie within the take");
    if (!(std::abs(take.gain_db) <= kMostGain_db))
        return badCall("the level may be changed by at most 24 dB");
    if (!(take.reference.a4_hz >= kLowestA4Hz && take.reference.a4_hz <= kHighestA4Hz))
        return badCall("A4 must lie between 380 and 480 Hz");
    if (!take.alignment.valid())
        return badCall("the two moments must follow each other in both takes");
    return {};
}

} // namespace

Status PieceEditor::addTake(Take take) {
    if (m_piece.takes.size() >= kMaxTakes)
        return badCall("a piece holds at most " + std::to_string(kMaxTakes) + " takes");
    for (const Take& other : m_piece.takes)
        if (!take.path.empty() && other.path == take.path)
            return badCall("\"" + take.name + "\" is among the takes already");
    if (const Status fit = checkTake(take); !fit)
        return fit;
    m_piece.takes.push_back(std::move(take));
    log("take added", 0);
    return {};
}

Status PieceEditor::removeTake(std::size_t index) {
    if (index >= m_piece.takes.size())
        return badCall("there is no such take");
    if (index == 0 && m_piece.takes.size() > 1)
        return badCall("this take keeps the time of the piece; remove the others first");
    m_piece.takes.erase(m_piece.takes.begin() + static_cast<std::ptrdiff_t>(index));
    for (Note& note : m_piece.notes) { // what it told goes with it
        std::erase_if(note.facts, [index](const NoteFacts& f) { return f.take == index; });
        for (NoteFacts& from : note.facts)
            from.take -= from.take > index ? 1 : 0;
    }
    std::erase_if(m_piece.followed, [index](const FollowedTake& f) { return f.take == index; });
    for (FollowedTake& one : m_piece.followed)
        one.take -= one.take > index ? 1 : 0;
    log("take removed", 0);
    return {};
}

Status PieceEditor::changeTake(std::size_t index, const std::function<void(Take&)>& change) {
    if (index >= m_piece.takes.size())
        return badCall("there is no such take");
    Take changed = m_piece.takes[index];
    change(changed);
    if (index == 0 && !changed.alignment.sameClock())
        return badCall("this take keeps the time of the piece; move the others against it");
    if (const Status fit = checkTake(changed); !fit)
        return fit;
    if (changed == m_piece.takes[index])
        return {};
    m_piece.takes[index] = std::move(changed);
    log("take changed", 0);
    return {};
}

Status PieceEditor::adoptNotes(const Piece& heard, TimeRange span, std::size_t& kept) {
    const auto stays = [&](std::size_t i) {
        return !span.contains(m_piece.notes[i].onset_s()) ||
               std::ranges::any_of(m_piece.readings, [&](const Reading& each) {
                   return anythingSet(m_piece.notes[i], each.plans[i]);
               });
    };
    std::vector<Note> notes;
    std::vector<std::vector<NotePlan>> plans(m_piece.readings.size());
    for (std::size_t i = 0; i < m_piece.notes.size(); ++i)
        if (stays(i)) {
            notes.push_back(m_piece.notes[i]);
            for (std::size_t r = 0; r < plans.size(); ++r)
                plans[r].push_back(m_piece.readings[r].plans[i]);
        }
    kept = notes.size();
    for (std::size_t i = 0; i < heard.notes.size(); ++i) {
        const Note& note = heard.notes[i];
        const std::span before(notes.data(), kept); // by onset
        auto near = std::ranges::lower_bound(
            before, note.onset_s() - kSameNote_s, {}, [](const Note& n) { return n.onset_s(); });
        while (near != before.end() && near->onset_s() < note.onset_s() + kSameNote_s &&
               near->midi() != note.midi())
            ++near;
        if (near != before.end() && near->onset_s() < note.onset_s() + kSameNote_s)
            continue;
        notes.push_back(note);
        notes.back().id = m_piece.next_id++;
        for (auto& each : plans) {
            each.push_back(heard.asPlayed().plans[i]);
            each.back().note = notes.back().id;
        }
    }
    if (notes.size() > kMaxNotes)
        return badCall("a piece holds at most " + std::to_string(kMaxNotes) + " notes");
    m_piece.notes = std::move(notes);
    for (std::size_t r = 0; r < plans.size(); ++r)
        m_piece.readings[r].plans = std::move(plans[r]);
    keepOrder();
    return {};
}

namespace {

// What is going on in what was heard, in the place of what was said of it before; what a person
// said stays.
void adoptSpans(const std::vector<SoundSpan>& heard, Take& take) {
    std::vector<SoundSpan> said;
    std::ranges::copy_if(take.sound_spans, std::back_inserter(said), [](const SoundSpan& one) {
        return one.basis == Basis::Set;
    });
    for (const SoundSpan& one : heard)
        putSpan(take.sound_spans, one);
    for (const SoundSpan& one : said)
        putSpan(take.sound_spans, one);
}

// A short stretch says nothing of the pulse of the whole.
bool tellsThePulse(const Timeline& timeline, TimeRange stretch) {
    constexpr double kMostOfIt = 0.8;
    if (timeline.beats_s.size() < 2)
        return true;
    const double all_s = timeline.beats_s.back() - timeline.beats_s.front();
    const double of_it_s = std::min(stretch.end_s, timeline.beats_s.back()) -
                           std::max(stretch.start_s, timeline.beats_s.front());
    return of_it_s >= kMostOfIt * all_s;
}

} // namespace

Status PieceEditor::adoptHearing(const Piece& heard, TimeRange span) {
    if (heard.notes.size() != heard.asPlayed().plans.size())
        return Error{ErrorKind::Internal, {}, "what was heard is not complete"};
    std::size_t kept = 0;
    if (const Status adopted = adoptNotes(heard, span, kept); !adopted)
        return adopted;
    if (m_piece.string_traits.empty())
        m_piece.string_traits = heard.string_traits;
    std::erase_if(m_piece.misses,
                  [span](const NearMiss& m) { return span.contains(m.time.start_s); });
    m_piece.misses.insert(m_piece.misses.end(), heard.misses.begin(), heard.misses.end());
    std::ranges::stable_sort(m_piece.misses, {}, [](const NearMiss& m) { return m.time.start_s; });
    if (m_piece.misses.size() > kMaxMisses)
        m_piece.misses.resize(kMaxMisses);
    // A guess from the few notes that were there gives way; a part heard again turns nothing over.
    for (Reading& each : m_piece.readings)
        if (!each.head.tool.isSet() && heard.notes.size() > kept) {
            each.head.tool = heard.asPlayed().head.tool;
            each.head.plucking_school = heard.asPlayed().head.plucking_school;
            each.head.motion = heard.asPlayed().head.motion;
        }
    if (m_piece.timeline.basis != Basis::Set && tellsThePulse(m_piece.timeline, span))
        m_piece.timeline = heard.timeline;
    m_piece.key = guessKey(m_piece.notes);
    if (m_piece.lead() && heard.lead()) {
        Take& lead = *m_piece.lead();
        if (lead.reference.basis != Basis::Set)
            lead.reference = heard.lead()->reference;
        lead.cautions = heard.lead()->cautions;
        lead.quality = heard.lead()->quality;
        adoptSpans(heard.lead()->sound_spans, lead);
        if (heard.lead()->film.told())
            lead.film = heard.lead()->film;
        if (!heard.lead()->sounds_like.empty())
            lead.sounds_like = heard.lead()->sounds_like;
        lead.sha256 = heard.lead()->sha256;
    }
    log("heard", 0);
    return {};
}

Status PieceEditor::setLearn(std::size_t index, std::size_t demonstration, bool learn) {
    if (index >= m_piece.takes.size() ||
        demonstration >= m_piece.takes[index].demonstrations.size())
        return badCall("there is no such playing");
    Demonstration& one = m_piece.takes[index].demonstrations[demonstration];
    if (index == 0 && one.isItself() && !learn)
        return badCall("this is what is written down; choose another playing of it");
    one.learn.set(learn);
    if (!learn) // what it told of strings goes too
        for (Note& note : m_piece.notes)
            std::erase_if(note.facts, [&](const NoteFacts& f) {
                return index > 0 && f.take == index && one.span.contains(f.span.start_s);
            });
    log(learn ? "a playing counts" : "a playing does not count", 0);
    return {};
}

void PieceEditor::forgetFollowed(TimeRange span) {
    std::vector<FollowedTake> left;
    for (const FollowedTake& one : m_piece.followed)
        for (const TimeRange part :
             {TimeRange{one.span.start_s, std::min(one.span.end_s, span.start_s)},
              TimeRange{std::max(one.span.start_s, span.end_s), one.span.end_s}})
            if (!part.empty())
                left.push_back({part, one.take});
    m_piece.followed = std::move(left);
}

void PieceEditor::addPlayed(const TakeNote& played) {
    Note note;
    note.id = m_piece.next_id++;
    note.time.set(played.time);
    note.pitch.set(played.midi);
    note.existence.set(true);
    note.techniques = played.techniques;
    NotePlan open;
    open.position.value = {0, 0};
    const std::vector<NotePlan> plans(m_piece.readings.size(), open);
    insertNote(m_piece.notes.size(), std::move(note), plans);
}

Status PieceEditor::follow(TimeRange span,
                           std::optional<std::size_t> take,
                           const std::vector<TakeNote>& played) {
    if ((take && *take >= m_piece.takes.size()) || span.empty())
        return badCall("choose bars, and a playing of them in another take");
    if (m_piece.followed.size() + 2 > kMaxFollowed ||
        m_piece.notes.size() + played.size() > kMaxNotes)
        return badCall("the piece is full");
    forgetFollowed(span);
    if (!take) {
        log("a stretch follows the leading take", 0);
        return {};
    }
    log("a stretch follows take " + std::to_string(*take + 1), 0);
    m_piece.followed.push_back({span, *take});
    std::ranges::sort(m_piece.followed, {}, [](const FollowedTake& f) { return f.span.start_s; });
    std::vector<bool> there(played.size(), false);
    for (std::size_t i = m_piece.notes.size(); i-- > 0;) {
        Note& note = m_piece.notes[i];
        if (!span.contains(note.onset_s()))
            continue;
        const auto same = std::ranges::find_if(played, [&](const TakeNote& p) {
            return !there[static_cast<std::size_t>(&p - played.data())] && p.midi == note.midi() &&
                   std::abs(p.time.start_s - note.onset_s()) <= kSamePlaying_s;
        });
        if (same != played.end()) {
            there[static_cast<std::size_t>(same - played.begin())] = true;
            note.existence.set(true);
            note.pitch.set(note.midi());
        } else if (std::ranges::none_of(m_piece.readings, [&](const Reading& each) {
                       return anythingSet(note, each.plans[i]);
                   })) {
            eraseNote(i);
        }
    }
    for (std::size_t k = 0; k < played.size(); ++k)
        if (!there[k] && span.contains(played[k].time.start_s) && played[k].time.start_s >= 0.0 &&
            !played[k].time.empty())
            addPlayed(played[k]);
    keepOrder();
    return {};
}

Status PieceEditor::adoptShown(const std::vector<Take>& takes) {
    for (const Take& heard : takes)
        for (Take& take : m_piece.takes) {
            if (take.path != heard.path)
                continue;
            take.notes = heard.notes;
            take.demonstrations = heard.demonstrations;
            take.sound_spans = heard.sound_spans;
            take.cautions = heard.cautions;
            if (take.reference.basis != Basis::Set)
                take.reference = heard.reference;
            if (take.alignment.basis != Basis::Set)
                take.alignment = heard.alignment;
        }
    log("what the takes show", 0);
    return {};
}

Status
PieceEditor::adoptFilm(std::size_t take, const FilmFacts& film, const std::vector<Note>& seen) {
    if (take >= m_piece.takes.size())
        return badCall("there is no such take");
    m_piece.takes[take].film = film;
    for (const Note& other : seen) {
        std::size_t i = 0;
        const NoteFacts* from = other.factsOf(take);
        if (!from || !located(other.id, i))
            continue; // gone meanwhile
        SeenFacts& facts = m_piece.notes[i].seenIn(take, from->span);
        const auto shown = facts.shown;
        facts = from->seen;
        facts.shown = shown;
    }
    m_missed = false;
    log("looked at the film", 0);
    return {};
}

Status PieceEditor::giveNeck(std::size_t take, const NeckFrame& frame) {
    if (take >= m_piece.takes.size())
        return badCall("there is no such take");
    FilmFacts& film = m_piece.takes[take].film;
    film = {Basis::Set, film.offset_s, film.offset, 0.0, 0.0, 1.0, -1.0, {frame}, {}};
    log("gave the neck of the film", 0);
    return {};
}

Status PieceEditor::setSoundKind(std::size_t index, TimeRange span, SoundKind kind) {
    if (index >= m_piece.takes.size())
        return badCall("there is no such take");
    if (span.empty() || span.start_s < 0.0)
        return badCall("mark a stretch of the take first");
    putSpan(m_piece.takes[index].sound_spans, {span, kind, 1.0, Basis::Set});
    if (index == 0 && !isPlayed(kind)) // nothing that was only heard there is a note
        for (std::size_t i = m_piece.notes.size(); i-- > 0;)
            if (span.contains(m_piece.notes[i].onset_s()) &&
                std::ranges::none_of(m_piece.readings, [&](const Reading& each) {
                    return anythingSet(m_piece.notes[i], each.plans[i]);
                }))
                eraseNote(i);
    log("a stretch of a take named", 0);
    return {};
}

} // namespace wirenote
