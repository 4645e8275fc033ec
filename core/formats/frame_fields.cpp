#include "formats/frame_fields.h"

#include "formats/instrument_fields.h"
#include "formats/lesson_fields.h"
#include "formats/note_fields.h"
#include "formats/sheet_style_fields.h"
#include "formats/string_fields.h"
#include "formats/take_fields.h"
#include "formats/timeline_fields.h"
#include "formats/words.h"

#include <algorithm>
#include <array>
#include <utility>

namespace wirenote::json_fields {
namespace {

Json missesToJson(const std::vector<NearMiss>& misses) {
    Json all = Json::array();
    for (const NearMiss& m : misses)
        all.push_back({{"start_s", m.time.start_s},
                       {"end_s", m.time.end_s},
                       {"midi", m.midi},
                       {"probability", m.probability},
                       {"string", m.place.string},
                       {"fret", m.place.fret}});
    return all;
}

std::vector<NearMiss> missesFrom(const Json& json, Fields& fields) {
    std::vector<NearMiss> misses;
    const std::string where = "misses";
    for (const Json& m : fields.array(json, "misses", "the file", kMaxMisses))
        misses.push_back({{fields.number(m, "start_s", 0, 0, kLongest_s, where),
                           fields.number(m, "end_s", 0, 0, kLongest_s, where)},
                          fields.integer(m, "midi", 60, 0, 127, where),
                          fields.number(m, "probability", 0, 0, 1, where),
                          {fields.integer(m, "string", 0, 0, kMaxStrings, where),
                           fields.integer(m, "fret", 0, 0, kMaxFrets, where)}});
    return misses;
}

Json chordNamesToJson(const std::vector<NamedChord>& names) {
    Json all = Json::array();
    for (const NamedChord& chord : names)
        all.push_back({{"at_s", chord.at_s}, {"name", chord.name}});
    return all;
}

std::vector<NamedChord> chordNamesFrom(const Json& json, Fields& fields) {
    std::vector<NamedChord> names;
    const std::string where = "chord_names";
    for (const Json& chord : fields.array(json, "chord_names", "the file", kMaxNamedChords))
        names.push_back({fields.number(chord, "at_s", 0, 0, kLongest_s, where),
                         fields.text(chord, "name", where)});
    return names;
}

constexpr std::array kMarkKinds = {
    "dynamic", "louder", "softer", "fermata", "segno", "coda", "words"};

Json marksToJson(const std::vector<SheetMark>& marks) {
    Json all = Json::array();
    for (const SheetMark& mark : marks) {
        Json one = {{"kind", kMarkKinds[static_cast<std::size_t>(mark.kind)]}, {"at_s", mark.at_s}};
        if (goesOn(mark.kind))
            one["to_s"] = mark.to_s;
        if (!mark.text.empty())
            one["text"] = mark.text;
        all.push_back(std::move(one));
    }
    return all;
}

std::vector<SheetMark> marksFrom(const Json& json, Fields& fields) {
    std::vector<SheetMark> marks;
    const std::string where = "marks";
    for (const Json& mark : fields.array(json, "marks", "the file", kMaxSheetMarks)) {
        const std::string said = fields.text(mark, "kind", where);
        const auto at = std::ranges::find(kMarkKinds, said);
        const std::optional<MarkKind> kind =
            at == kMarkKinds.end() ? std::nullopt
                                   : std::optional(static_cast<MarkKind>(at - kMarkKinds.begin()));
        const double at_s = fields.number(mark, "at_s", 0, 0, kLongest_s, where);
        marks.push_back({fields.known(kind, MarkKind::Words, "marks.kind"),
                         at_s,
                         fields.number(mark, "to_s", at_s, 0, kLongest_s, where),
                         fields.text(mark, "text", where)});
    }
    return marks;
}

Json followedToJson(const std::vector<FollowedTake>& followed) {
    Json all = Json::array();
    for (const FollowedTake& one : followed)
        all.push_back(
            {{"start_s", one.span.start_s}, {"end_s", one.span.end_s}, {"take", one.take}});
    return all;
}

std::vector<FollowedTake> followedFrom(const Json& json, Fields& fields) {
    std::vector<FollowedTake> followed;
    const std::string where = "followed";
    constexpr auto kLast = static_cast<int>(kMaxTakes) - 1;
    for (const Json& one : fields.array(json, "followed", "the file", kMaxFollowed))
        followed.push_back(
            {{fields.number(one, "start_s", 0, -kLongest_s, kLongest_s, where),
              fields.number(one, "end_s", 0, -kLongest_s, kLongest_s, where)},
             static_cast<std::size_t>(fields.integer(one, "take", 0, 0, kLast, where))});
    return followed;
}

Json papersToJson(const std::vector<PaperScore>& papers) {
    Json all = Json::array();
    for (const PaperScore& paper : papers) {
        Json pins = Json::array();
        for (const PagePin& pin : paper.pins)
            pins.push_back({{"bar", pin.bar}, {"page", pin.page}, {"x", pin.x}, {"y", pin.y}});
        const auto [field, path] = pathField(paper.path);
        all.push_back({{"name", paper.name},
                       {field, path},
                       {"rights", wordFor(paper.rights)},
                       {"pins", std::move(pins)}});
    }
    return all;
}

std::vector<PaperScore> papersFrom(const Json& json, Fields& fields) {
    std::vector<PaperScore> papers;
    const std::string where = "papers";
    for (const Json& one : fields.array(json, "papers", "the file", kMaxPapers)) {
        PaperScore paper{
            fields.text(one, "name", where), pathFrom(one, fields, where), TakeRights::Unknown, {}};
        if (Fields::find(one, "rights"))
            paper.rights = fields.known(rightsFrom(fields.text(one, "rights", where)),
                                        TakeRights::Unknown,
                                        where + ".rights");
        for (const Json& pin : fields.array(one, "pins", where, kMaxPins))
            paper.pins.push_back({fields.integer(pin, "bar", 1, 0, kMostBars, where),
                                  fields.integer(pin, "page", 0, 0, kMaxPages - 1, where),
                                  fields.number(pin, "x", 0, 0, 1, where),
                                  fields.number(pin, "y", 0, 0, 1, where)});
        papers.push_back(std::move(paper));
    }
    return papers;
}

// The questions that a person answered, by name.
const std::array<std::pair<const char*, bool Settled::*>, 4> kSettled = {
    {{"instrument", &Settled::instrument},
     {"tempo", &Settled::tempo},
     {"metre", &Settled::metre},
     {"one", &Settled::one}}};

Json settledToJson(const Settled& settled) {
    Json names = Json::array();
    for (const auto& [name, of] : kSettled)
        if (settled.*of)
            names.push_back(name);
    return names;
}

Settled settledFrom(const Json& json, Fields& fields) {
    Settled settled;
    for (const Json& said : fields.array(json, "settled", "the file", kSettled.size()))
        for (const auto& [name, of] : kSettled)
            if (said == name)
                settled.*of = true;
    return settled;
}

} // namespace

void frameToJson(const PieceDelta::Frame& frame, Json& json) {
    json["title"] = frame.title;
    if (frame.title_guessed)
        json["title_guessed"] = true;
    for (const auto& [field, who] : {std::pair{"composer", &frame.about.composer},
                                     {"player", &frame.about.player},
                                     {"transcriber", &frame.about.transcriber},
                                     {"subtitle", &frame.about.subtitle},
                                     {"source", &frame.about.source},
                                     {"date", &frame.about.date}})
        if (!who->empty())
            json[field] = *who;
    if (frame.settled != Settled{})
        json["settled"] = settledToJson(frame.settled);
    json["instrument"] = instrumentToJson(frame.instrument);
    json["timeline"] = timelineToJson(frame.timeline);
    json["key_fifths"] = frame.key.fifths;
    if (frame.sheet != SheetStyle{})
        json["sheet"] = sheetToJson(frame.sheet);
    json["string_traits"] = traitsToJson(frame.string_traits);
    json["misses"] = missesToJson(frame.misses);
    if (!frame.chord_names.empty())
        json["chord_names"] = chordNamesToJson(frame.chord_names);
    if (!frame.marks.empty())
        json["marks"] = marksToJson(frame.marks);
    if (!frame.followed.empty())
        json["followed"] = followedToJson(frame.followed);
    if (!frame.papers.empty())
        json["papers"] = papersToJson(frame.papers);
    if (frame.lesson != LessonPlan{})
        json["lesson"] = lessonToJson(frame.lesson);
    json["readings"] = Json::array();
    for (const ReadingHead& head : frame.readings)
        json["readings"].push_back(readingHeadToJson(head));
    json["next_id"] = frame.next_id;
    json["takes"] = Json::array();
    for (const Take& take : frame.takes)
        json["takes"].push_back(takeToJson(take));
}

PieceDelta::Frame frameFrom(const Json& json, Fields& fields) {
    PieceDelta::Frame frame;
    frame.title = fields.text(json, "title", "the file");
    frame.title_guessed = Fields::isTrue(json, "title_guessed");
    frame.about = {fields.text(json, "composer", "the file"),
                   fields.text(json, "player", "the file"),
                   fields.text(json, "transcriber", "the file"),
                   fields.text(json, "subtitle", "the file"),
                   fields.text(json, "source", "the file"),
                   fields.text(json, "date", "the file")};
    if (const Json* sheet = Fields::find(json, "sheet"))
        frame.sheet = sheetFrom(*sheet, fields);
    frame.settled = settledFrom(json, fields);
    frame.instrument = standardInstrument(InstrumentKind::Guitar);
    if (const Json* instrument = Fields::find(json, "instrument"))
        frame.instrument = instrumentFrom(*instrument, fields);
    if (const Json* take = Fields::find(json, "take"))
        frame.takes.push_back(takeFrom(*take, fields, "take"));
    const Json& takes = fields.array(json, "takes", "the file", kMaxTakes);
    for (std::size_t i = 0; i < takes.size() && fields.ok(); ++i)
        frame.takes.push_back(takeFrom(takes[i], fields, "takes[" + std::to_string(i) + "]"));
    if (const Json* timeline = Fields::find(json, "timeline"))
        frame.timeline = timelineFrom(*timeline, fields);
    frame.string_traits = traitsFrom(json, fields);
    frame.misses = missesFrom(json, fields);
    frame.chord_names = chordNamesFrom(json, fields);
    frame.marks = marksFrom(json, fields);
    frame.followed = followedFrom(json, fields);
    frame.papers = papersFrom(json, fields);
    if (const Json* lesson = Fields::find(json, "lesson"))
        frame.lesson = lessonFrom(*lesson, fields);
    if (const Json* reading = Fields::find(json, "reading")) // earlier files had one
        frame.readings.push_back(readingHeadFrom(*reading, fields, "reading"));
    const Json& readings = fields.array(json, "readings", "the file", kMaxReadings);
    for (std::size_t i = 0; i < readings.size() && fields.ok(); ++i)
        frame.readings.push_back(
            readingHeadFrom(readings[i], fields, "readings[" + std::to_string(i) + "]"));
    frame.key.fifths = fields.integer(json, "key_fifths", 0, -7, 7, "the file");
    frame.next_id = static_cast<NoteId>(fields.number(json, "next_id", 1, 1, 1e15, "the file"));
    return frame;
}

} // namespace wirenote::json_fields
