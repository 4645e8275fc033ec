#include "formats/notes_json.h"

#include "base/json_fields.h"
#include "formats/film_fields.h"
#include "formats/instrument_fields.h"
#include "formats/words.h"
#include "piece/exactness.h"

#include <algorithm>
#include <cmath>

namespace wirenote {
namespace {

using json_fields::Fields;
using json_fields::Json;

using json_fields::kLongest_s;

constexpr double kTimeSteps = 1e4; // of a second
constexpr double kMostBend_semitones = kMostBend_cents / 100.0;

double rounded(double x, double steps) {
    return std::round(x * steps) / steps;
}

Json noteToJson(const Note& note, const NotePlan& plan) {
    const double onset_s =
        std::min(rounded(note.onset_s(), kTimeSteps), kLongest_s - 1 / kTimeSteps);
    Json json = {
        {"onset_s", onset_s},
        // the shortest of notes still ends after it starts
        {"offset_s", std::max(rounded(note.offset_s(), kTimeSteps), onset_s + 1 / kTimeSteps)},
        {"midi", rounded(note.pitch.value, 1e3)},
        {"velocity", rounded(note.velocity, 1e3)}};
    Json techniques = Json::array();
    for (const Technique t : note.techniques)
        techniques.push_back(wordFor(t));
    json["techniques"] = techniques;
    if (const double bend = note.bendSemitones(); bend > 0.0)
        json["bend_semitones"] = bend;
    if (const SeenFacts* seen = note.seen(); seen && !seen->tips.empty()) {
        // The index finger, where it is known, is not always the first from the nut; it lies some
        // way behind its wire.
        constexpr double kBehindWire = 0.3;
        const auto index = std::ranges::find(seen->tips, 1, &SeenTip::finger);
        const SeenTip& tip = index == seen->tips.end() ? seen->tips.front() : *index;
        json["hand_position"] = std::round(tip.fret + kBehindWire);
    }
    Json confidence = {{"pitch", rounded(note.pitch.probability, 1e3)}};
    if (plan.placed()) {
        json["string"] = plan.position.value.string;
        json["fret"] = plan.position.value.fret;
        confidence["position"] = rounded(plan.position.probability, 1e3);
        Json alternatives = Json::array();
        for (const auto& other : plan.position.runners_up)
            if (other.value.string > 0)
                alternatives.push_back({{"string", other.value.string},
                                        {"fret", other.value.fret},
                                        {"probability", rounded(other.probability, 1e3)}});
        if (!alternatives.empty())
            json["alternatives"] = alternatives;
    }
    if (plan.finger.value != Finger::Unknown) {
        json["finger"] = wordFor(plan.finger.value);
        confidence["finger"] = rounded(plan.finger.probability, 1e3);
    }
    if (plan.stroke.value != Stroke::Unknown) {
        json["stroke"] = wordFor(plan.stroke.value);
        confidence["stroke"] = rounded(plan.stroke.probability, 1e3);
    }
    json["confidence"] = confidence;
    return json;
}

// What the takes of the piece show, where that was looked for.
Json demonstrationsToJson(const std::vector<Take>& takes) {
    Json all = Json::array();
    for (std::size_t take = 0; take < takes.size(); ++take)
        for (const Demonstration& one : takes[take].demonstrations) {
            Json json = {{"take", take},
                         {"start_s", rounded(one.span.start_s, kTimeSteps)},
                         {"end_s", rounded(one.span.end_s, kTimeSteps)},
                         {"kind", wordFor(one.kind)},
                         {"learn", one.learn.value},
                         {"probability", rounded(one.probability, 1e3)}};
            if (one.inPiece()) {
                json["piece_start_s"] = rounded(one.ofPiece().start_s, kTimeSteps);
                json["piece_end_s"] = rounded(one.ofPiece().end_s, kTimeSteps);
                json["tempo_ratio"] = rounded(one.tempoRatio(), 1e3);
                if (one.semitones != 0)
                    json["semitones"] = one.semitones;
            }
            all.push_back(json);
        }
    return all;
}

// What nearly was a note: a reader may offer it.
Json nearMissesToJson(const std::vector<NearMiss>& misses) {
    Json all = Json::array();
    for (const NearMiss& miss : misses)
        all.push_back({{"onset_s", rounded(miss.time.start_s, kTimeSteps)},
                       {"offset_s", rounded(miss.time.end_s, kTimeSteps)},
                       {"midi", miss.midi},
                       {"probability", rounded(miss.probability, 1e3)}});
    return all;
}

// A plain bend over the second quarter of a note, and back over the last when it is released.
std::vector<PitchPoint> bendCurve(const Note& note, double semitones) {
    const double length_s = note.time.value.length_s();
    const auto at = [&](double part, double cents) {
        return PitchPoint{note.onset_s() + part * length_s, cents};
    };
    std::vector<PitchPoint> curve{
        at(0.0, 0.0), at(0.25, 0.0), at(0.5, 100.0 * semitones), at(0.75, 100.0 * semitones)};
    curve.push_back(at(1.0, note.has(Technique::Release) ? 0.0 : 100.0 * semitones));
    return curve;
}

template <class T>
void decide(Decision<T>& decision,
            T value,
            const Json& note,
            const char* what,
            Fields& fields,
            const std::string& where) {
    const Json* confidence = Fields::find(note, "confidence");
    decision.value = value;
    decision.probability =
        confidence ? fields.number(*confidence, what, 1.0, 0.0, 1.0, where + ".confidence") : 1.0;
    decision.basis = decision.probability < 1.0 ? Basis::Reasoned : Basis::Set;
}

void readPlan(const Json& json,
              const Instrument& instrument,
              NotePlan& plan,
              Fields& fields,
              const std::string& where) {
    const int string = fields.integer(json, "string", 0, 0, kMaxStrings, where);
    const int fret = fields.integer(json, "fret", 0, 0, kMaxFrets, where);
    plan.position.value = {0, 0};
    // A place that does not give the pitch (a bend, a harmonic, a dead note) is kept; one off the
    // neck is not.
    if (string > 0) {
        if (!instrument.hasString(string) || fret > instrument.highestFret())
            fields.fail(where,
                        "is placed off the neck (string " + std::to_string(string) + ", fret " +
                            std::to_string(fret) + ")");
        else
            decide(plan.position, Position{string, fret}, json, "position", fields, where);
    }
    if (const std::string word = fields.text(json, "finger", where); !word.empty())
        decide(plan.finger,
               fields.known(fingerFrom(word), Finger::Unknown, where + ".finger"),
               json,
               "finger",
               fields,
               where);
    // The file does not say where the hand is; one finger a fret does.
    if (const Finger finger = plan.finger.value;
        fret > 0 && finger >= Finger::Index && finger <= Finger::Little)
        plan.hand_fret =
            std::max(1, fret - static_cast<int>(finger) + static_cast<int>(Finger::Index));
    if (const std::string word = fields.text(json, "stroke", where); !word.empty())
        decide(plan.stroke,
               fields.known(strokeFrom(word), Stroke::Unknown, where + ".stroke"),
               json,
               "stroke",
               fields,
               where);
    for (const Json& other : fields.array(json, "alternatives", where, 100)) {
        const Position place{fields.integer(other, "string", 1, 1, kMaxStrings, where),
                             fields.integer(other, "fret", 0, 0, kMaxFrets, where)};
        plan.position.runners_up.push_back(
            {place, fields.number(other, "probability", 0.0, 0.0, 1.0, where)});
    }
}

void readTimeline(const Json& json, Timeline& timeline, Fields& fields) {
    timeline.tempo_bpm = fields.number(json, "tempo_bpm", 0.0, 0.0, kFastestTempo_bpm, "the file");
    if (const std::string word = fields.text(json, "meter", "the file"); !word.empty()) {
        const auto metre = parseMetre(word);
        if (metre)
            timeline.metre = *metre;
        else
            fields.fail("meter", "cannot be counted");
    }
    const auto times = [&fields, &json](const char* key) {
        std::vector<double> values;
        for (const Json& value : fields.array(json, key, "the file", kMaxBeats)) {
            if (!value.is_number() || !std::isfinite(value.get<double>())) {
                fields.fail(key, "holds something that is not a time");
                break;
            }
            values.push_back(value.get<double>());
        }
        std::sort(values.begin(), values.end());
        return values;
    };
    timeline.beats_s = times("beats_s");
    const auto downbeats = times("downbeats_s");
    if (!downbeats.empty() && !timeline.beats_s.empty()) {
        const auto first = std::min_element(
            timeline.beats_s.begin(), timeline.beats_s.end(), [&](double a, double b) {
                return std::abs(a - downbeats[0]) < std::abs(b - downbeats[0]);
            });
        timeline.first_downbeat = static_cast<int>(first - timeline.beats_s.begin());
    }
    for (const Json& section : fields.array(json, "sections", "the file", kMaxSections))
        timeline.sections.push_back(
            {fields.text(section, "label", "sections"),
             {fields.number(section, "start_s", 0, 0, kLongest_s, "sections"),
              fields.number(section, "end_s", 0, 0, kLongest_s, "sections")}});
}

struct Both {
    Note note;
    NotePlan plan;
};

Both readNote(const Json& json,
              const Instrument& instrument,
              Fields& fields,
              const std::string& where) {
    Both both;
    for (const char* needed : {"onset_s", "offset_s", "midi"})
        if (!Fields::find(json, needed))
            fields.fail(where, std::string("has no ") + needed);
    both.note.time.value = {fields.number(json, "onset_s", 0, 0, kLongest_s, where),
                            fields.number(json, "offset_s", 0, 0, kLongest_s, where)};
    both.note.time.probability = 1.0;
    decide(both.note.pitch,
           fields.number(json, "midi", 60, 0, 127, where),
           json,
           "pitch",
           fields,
           where);
    both.note.velocity = fields.number(json, "velocity", 0.6, 0, 1, where);
    for (const Json& word : fields.array(json, "techniques", where, 32))
        both.note.techniques.push_back(
            fields.known(word.is_string() ? techniqueFrom(word.get<std::string>()) : std::nullopt,
                         Technique::Accent,
                         where + ".techniques"));
    const double bend =
        fields.number(json, "bend_semitones", 0, -kMostBend_semitones, kMostBend_semitones, where);
    if (bend > 0.0 && both.note.has(Technique::Bend))
        both.note.curve = bendCurve(both.note, bend);
    if (both.note.time.value.empty())
        fields.fail(where, "does not end after it starts");
    readPlan(json, instrument, both.plan, fields, where);
    return both;
}

} // namespace

std::string writeNotesJson(const Piece& piece, const std::vector<TempoAlternative>& alternatives) {
    Json json = {{"format", "wirenote-notes/1"},
                 {"instrument", json_fields::instrumentToJson(piece.instrument)}};
    json["instrument"]["a4_hz"] =
        rounded(piece.takes.empty() ? kStandardA4Hz : piece.takes.front().reference.a4_hz, 1e3);
    if (piece.timeline.tempo_bpm > 0.0)
        json["tempo_bpm"] = rounded(piece.timeline.tempo_bpm, 1e3);
    for (const TempoAlternative& other : alternatives)
        json["tempo_alternatives"].push_back(
            {{"bpm", rounded(other.bpm, 1e3)}, {"probability", rounded(other.probability, 1e3)}});
    json["exactness"] = exactnessLine(piece);
    json["meter"] = piece.timeline.metre.text();
    const auto times = [](const std::vector<double>& values) {
        Json list = Json::array();
        for (const double v : values)
            list.push_back(rounded(v, kTimeSteps));
        return list;
    };
    json["beats_s"] = times(piece.timeline.beats_s);
    json["downbeats_s"] = times(piece.timeline.downbeats_s());
    Json sections = Json::array();
    for (const Section& s : piece.timeline.sections)
        sections.push_back(
            {{"label", s.label}, {"start_s", s.span.start_s}, {"end_s", s.span.end_s}});
    json["sections"] = sections;
    if (piece.lead() && !piece.lead()->sound_spans.empty()) {
        Json spans = Json::array();
        for (const SoundSpan& s : piece.lead()->sound_spans)
            spans.push_back({{"start_s", rounded(s.span.start_s, kTimeSteps)},
                             {"end_s", rounded(s.span.end_s, kTimeSteps)},
                             {"kind", wordFor(s.kind)}});
        json["spans"] = spans;
    }
    if (const Json shown = demonstrationsToJson(piece.takes); !shown.empty())
        json["demonstrations"] = shown;
    if (!piece.misses.empty())
        json["near_misses"] = nearMissesToJson(piece.misses);
    if (piece.lead())
        for (const KindGuess& one : piece.lead()->sounds_like)
            json["sounds_like"].push_back({{"kind", instrumentName(one.kind)},
                                           {"probability", rounded(one.probability, 1e3)}});
    if (piece.lead() && piece.lead()->film.told())
        json["video"] = json_fields::videoToJson(piece.lead()->film);
    Json notes = Json::array();
    for (std::size_t i = 0; i < piece.notes.size(); ++i)
        notes.push_back(noteToJson(piece.notes[i], piece.asPlayed().plans[i]));
    json["notes"] = notes;
    return json_fields::written(json);
}

Result<Piece> readNotesJson(const std::string& text) {
    const auto parsed = json_fields::parse(text);
    if (!parsed)
        return parsed.error();
    const Json& json = *parsed;
    Fields fields;
    if (const std::string format = fields.text(json, "format", "the file");
        format != "wirenote-notes/1")
        return badInput(
            {},
            "is not a notes file (its \"format\" is not wirenote-notes/1); choose a file that "
            "transcribe, finger or convert wrote");
    Piece piece;
    if (const Json* instrument = Fields::find(json, "instrument")) {
        piece.instrument = json_fields::instrumentFrom(*instrument, fields);
        const double a4 = fields.number(
            *instrument, "a4_hz", kStandardA4Hz, kLowestA4Hz, kHighestA4Hz, "instrument");
        if (a4 != kStandardA4Hz) {
            piece.takes = {Take{}};
            piece.lead()->reference = {a4, 0.0, Basis::Set};
        }
    }
    if (!fields.ok())
        return badInput({}, *fields.problem() + json_fields::kMendJson);
    readTimeline(json, piece.timeline, fields);
    std::vector<Both> all;
    const Json& notes = fields.array(json, "notes", "the file", kMaxNotes);
    for (std::size_t i = 0; i < notes.size() && fields.ok(); ++i) {
        const std::string where = "notes[" + std::to_string(i) + "]";
        Both both = readNote(notes[i], piece.instrument, fields, where);
        both.note.id = both.plan.note = piece.next_id++;
        all.push_back(std::move(both));
    }
    if (!fields.ok())
        return badInput({}, *fields.problem() + json_fields::kMendJson);
    std::stable_sort(all.begin(), all.end(), [](const Both& a, const Both& b) {
        return a.note.onset_s() < b.note.onset_s();
    });
    for (Both& both : all) {
        piece.notes.push_back(std::move(both.note));
        piece.asPlayed().plans.push_back(std::move(both.plan));
    }
    piece.key = guessKey(piece.notes);
    if (const Status sound = checkPiece(piece); !sound)
        return badInput({}, sound.error().message + json_fields::kMendJson);
    return piece;
}

} // namespace wirenote
