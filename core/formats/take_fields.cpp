#include "formats/take_fields.h"

#include "base/text.h"
#include "formats/film_fields.h"
#include "formats/words.h"
#include "piece/piece.h"

namespace wirenote::json_fields {
namespace {

// What a word of the file means; `usual` where there is none.
template <class E, class From>
E wordOr(const Json& json,
         const char* key,
         E usual,
         From from,
         Fields& fields,
         const std::string& where) {
    return Fields::find(json, key)
               ? fields.known(from(fields.text(json, key, where)), usual, where + "." + key)
               : usual;
}

Json momentsToJson(const std::vector<SharedMoment>& moments) {
    Json json = Json::array();
    for (const SharedMoment& m : moments)
        json.push_back(Json::array({m.piece_s, m.take_s}));
    return json;
}

Json alignmentToJson(const TakeAlignment& alignment) {
    Json stretches = Json::array();
    for (const TakeAlignment::Stretch& stretch : alignment.stretches)
        stretches.push_back(momentsToJson(stretch));
    return {{"basis", wordFor(alignment.basis)},
            {"certainty", alignment.certainty},
            {"semitones", alignment.semitones},
            {"stretches", stretches}};
}

Json cautionsToJson(const std::vector<SoundCaution>& cautions) {
    Json words = Json::array();
    for (const SoundCaution caution : cautions)
        words.push_back(wordFor(caution));
    return words;
}

Json qualityToJson(const TakeQuality& q) {
    return {{"clipped_share", q.clipped_share},
            {"signal_to_noise_db", q.signal_to_noise_db},
            {"hum_db", q.hum_db},
            {"hum_hz", q.hum_hz},
            {"reverberation_s", q.reverberation_s},
            {"top_hz", q.top_hz},
            {"mono_loss_db", q.mono_loss_db},
            {"neck_seen", q.neck_seen},
            {"neck_share", q.neck_share},
            {"neck_frets", q.neck_frets}};
}

TakeAlignment::Stretch momentsFrom(const Json& json, Fields& fields, const std::string& at) {
    TakeAlignment::Stretch moments;
    for (const Json& m : json)
        moments.push_back({fields.item(m, 0, -kLongest_s, kLongest_s, at),
                           fields.item(m, 1, -kLongest_s, kLongest_s, at)});
    return moments;
}

TakeAlignment alignmentFrom(const Json& json, Fields& fields, const std::string& where) {
    TakeAlignment alignment;
    alignment.basis = fields.known(
        basisFrom(fields.text(json, "basis", where)), Basis::Reasoned, where + ".basis");
    alignment.certainty = fields.number(json, "certainty", 0, 0, 1, where);
    alignment.semitones = fields.integer(json, "semitones", 0, -48, 48, where);
    if (Fields::find(json, "moments")) { // earlier files had one stretch
        const std::string at = where + ".moments";
        if (auto moments =
                momentsFrom(fields.array(json, "moments", where, kMostItems), fields, at);
            !moments.empty())
            alignment.stretches.push_back(std::move(moments));
        if (!alignment.valid())
            fields.fail(at, "do not go forward in time");
        return alignment;
    }
    const std::string at = where + ".stretches";
    std::size_t moments = 0;
    for (const Json& stretch : fields.array(json, "stretches", where, kMostItems)) {
        if (!stretch.is_array() || (moments += stretch.size()) > kMostItems) {
            fields.fail(at, "are not lists of moments, or too many");
            break;
        }
        alignment.stretches.push_back(momentsFrom(stretch, fields, at));
    }
    if (!alignment.valid())
        fields.fail(at, "do not go forward in time");
    return alignment;
}

Json soundSpansToJson(const std::vector<SoundSpan>& spans) {
    Json all = Json::array();
    for (const SoundSpan& one : spans)
        all.push_back({{"start_s", one.span.start_s},
                       {"end_s", one.span.end_s},
                       {"kind", wordFor(one.kind)},
                       {"probability", one.probability},
                       {"basis", wordFor(one.basis)}});
    return all;
}

std::vector<SoundSpan> soundSpansFrom(const Json& json, Fields& fields, const std::string& where) {
    std::vector<SoundSpan> spans;
    const std::string at = where + ".sound_spans";
    for (const Json& one : fields.array(json, "sound_spans", where, kMaxSoundSpans)) {
        SoundSpan span;
        span.span = {fields.number(one, "start_s", 0, 0, kLongest_s, at),
                     fields.number(one, "end_s", 0, 0, kLongest_s, at)};
        span.kind = fields.known(
            soundKindFrom(fields.text(one, "kind", at)), SoundKind::Playing, at + ".kind");
        span.probability = fields.number(one, "probability", 0, 0, 1, at);
        span.basis =
            fields.known(basisFrom(fields.text(one, "basis", at)), Basis::Heard, at + ".basis");
        spans.push_back(span);
    }
    return spans;
}

Json kindsToJson(const std::vector<KindGuess>& guesses) {
    Json all = Json::array();
    for (const KindGuess& one : guesses)
        all.push_back({{"kind", instrumentName(one.kind)}, {"probability", one.probability}});
    return all;
}

std::vector<KindGuess> kindsFrom(const Json& json, Fields& fields, const std::string& where) {
    std::vector<KindGuess> guesses;
    const std::string at = where + ".sounds_like";
    for (const Json& one : fields.array(json, "sounds_like", where, kMaxKindGuesses))
        if (const auto kind = parseInstrumentName(fields.text(one, "kind", at)))
            guesses.push_back({*kind, fields.number(one, "probability", 0, 0, 1, at)});
    return guesses; // other kinds mean nothing to this version
}

Json demonstrationToJson(const Demonstration& one) {
    Json json = {{"start_s", one.span.start_s},
                 {"end_s", one.span.end_s},
                 {"kind", wordFor(one.kind)},
                 {"probability", one.probability},
                 {"learn", one.learn.value},
                 {"learn_basis", wordFor(one.learn.basis)},
                 {"learn_probability", one.learn.probability}};
    if (one.semitones != 0)
        json["semitones"] = one.semitones;
    if (!one.moments.empty())
        json["moments"] = momentsToJson(one.moments);
    return json;
}

Demonstration demonstrationFrom(const Json& json, Fields& fields, const std::string& where) {
    Demonstration one;
    one.span = {fields.number(json, "start_s", 0, 0, kLongest_s, where),
                fields.number(json, "end_s", 0, 0, kLongest_s, where)};
    one.kind = wordOr(json, "kind", DemonstrationKind::Other, demonstrationKindFrom, fields, where);
    one.probability = fields.number(json, "probability", 0, 0, 1, where);
    if (const Json* learn = Fields::find(json, "learn"))
        one.learn.value = !learn->is_boolean() || learn->get<bool>();
    one.learn.basis = wordOr(json, "learn_basis", Basis::Reasoned, basisFrom, fields, where);
    one.learn.probability = fields.number(json, "learn_probability", 1, 0, 1, where);
    one.semitones = fields.integer(json, "semitones", 0, -48, 48, where);
    if (Fields::find(json, "moments"))
        one.moments = momentsFrom(
            fields.array(json, "moments", where, kMostItems), fields, where + ".moments");
    return one;
}

// [start_s, end_s, midi, probability, techniques …]: there may be many.
Json takeNoteToJson(const TakeNote& note) {
    const auto short_s = [](double s) { return std::round(s * 1e4) / 1e4; };
    Json json = {short_s(note.time.start_s),
                 short_s(note.time.end_s),
                 note.midi,
                 std::round(note.probability * 1e3) / 1e3};
    for (const Technique technique : note.techniques)
        json.push_back(wordFor(technique));
    return json;
}

TakeNote takeNoteFrom(const Json& json, Fields& fields, const std::string& where) {
    TakeNote note;
    note.time = {fields.item(json, 0, 0, kLongest_s, where),
                 fields.item(json, 1, 0, kLongest_s, where)};
    note.midi = static_cast<int>(fields.item(json, 2, 0, 127, where));
    note.probability = fields.item(json, 3, 0, 1, where);
    if (json.is_array() && json.size() <= 4 + kTechniqueCount)
        for (std::size_t i = 4; i < json.size(); ++i)
            if (const auto technique = json[i].is_string()
                                           ? techniqueFrom(json[i].get_ref<const std::string&>())
                                           : std::nullopt)
                note.techniques.push_back(*technique); // others mean nothing to this version
    return note;
}

void readShown(const Json& json, Take& take, Fields& fields, const std::string& where) {
    const Json& shown = fields.array(json, "demonstrations", where, kMaxDemonstrations);
    for (std::size_t i = 0; i < shown.size() && fields.ok(); ++i)
        take.demonstrations.push_back(demonstrationFrom(
            shown[i], fields, where + ".demonstrations[" + std::to_string(i) + "]"));
    const Json& notes = fields.array(json, "notes", where, kMaxNotes);
    for (std::size_t i = 0; i < notes.size() && fields.ok(); ++i)
        take.notes.push_back(
            takeNoteFrom(notes[i], fields, where + ".notes[" + std::to_string(i) + "]"));
}

TakeQuality qualityFrom(const Json& json, Fields& fields, const std::string& where) {
    TakeQuality q;
    q.clipped_share = fields.number(json, "clipped_share", -1, -1, 1, where);
    q.signal_to_noise_db = fields.number(json, "signal_to_noise_db", -1, -1, 300, where);
    q.hum_db = fields.number(json, "hum_db", -1, -300, 300, where);
    q.hum_hz = fields.number(json, "hum_hz", 0, 0, 1000, where);
    q.reverberation_s = fields.number(json, "reverberation_s", -1, -1, 1000, where);
    q.top_hz = fields.number(json, "top_hz", -1, -1, 1e6, where);
    q.mono_loss_db = fields.number(json, "mono_loss_db", -1, -300, 300, where);
    q.neck_seen = fields.number(json, "neck_seen", -1, -1, 1, where);
    q.neck_share = fields.number(json, "neck_share", -1, -1, 2, where);
    q.neck_frets = fields.number(json, "neck_frets", -1, -1, 40, where);
    return q;
}

TuningReference referenceFrom(const Json& json, Fields& fields, const std::string& where) {
    TuningReference reference;
    reference.a4_hz = fields.number(json, "a4_hz", kStandardA4Hz, kLowestA4Hz, kHighestA4Hz, where);
    reference.spread_cents = fields.number(json, "spread_cents", 0, 0, 1e6, where);
    reference.basis =
        fields.known(basisFrom(fields.text(json, "basis", where)), Basis::Heard, where + ".basis");
    return reference;
}

// What a file of the first version does not say has its usual value.

} // namespace

std::pair<const char*, std::string> pathField(const std::string& path) {
    if (isUtf8(path))
        return {"path", path};
    return {"path_percent", percentEncoded(path)};
}

std::string pathFrom(const Json& json, Fields& fields, const std::string& where) {
    if (Fields::find(json, "path_percent"))
        return percentDecoded(fields.text(json, "path_percent", where, 3 * kLongestPath));
    return fields.text(json, "path", where, kLongestPath);
}

Json takeToJson(const Take& take) {
    const auto [path_field, path] = pathField(take.path);
    Json json = {{"name", take.name},
                 {path_field, path},
                 {"sha256", take.sha256},
                 {"length_s", take.length_s},
                 {"cautions", cautionsToJson(take.cautions)},
                 {"reference",
                  {{"a4_hz", take.reference.a4_hz},
                   {"spread_cents", take.reference.spread_cents},
                   {"basis", wordFor(take.reference.basis)}}},
                 {"kind", wordFor(take.kind)},
                 {"trim_s", Json::array({take.trim.start_s, take.trim.end_s})},
                 {"sound_stream", take.sound_stream},
                 {"channels", wordFor(take.channels)},
                 {"gain_db", take.gain_db},
                 {"has_picture", take.has_picture},
                 {"quality", qualityToJson(take.quality)},
                 {"remark", take.remark},
                 {"origin", take.origin},
                 {"rights", wordFor(take.rights)},
                 {"alignment", alignmentToJson(take.alignment)}};
    if (!take.sound_spans.empty())
        json["sound_spans"] = soundSpansToJson(take.sound_spans);
    if (take.film != FilmFacts{}) // also an offset that was set before any neck is known
        json["film"] = filmToJson(take.film);
    if (!take.sounds_like.empty())
        json["sounds_like"] = kindsToJson(take.sounds_like);
    for (const Demonstration& one : take.demonstrations)
        json["demonstrations"].push_back(demonstrationToJson(one));
    for (const TakeNote& note : take.notes)
        json["notes"].push_back(takeNoteToJson(note));
    return json;
}

Take takeFrom(const Json& json, Fields& fields, const std::string& where) {
    Take take;
    take.name = fields.text(json, "name", where);
    take.path = pathFrom(json, fields, where);
    take.sha256 = fields.text(json, "sha256", where, 64);
    take.length_s = fields.number(json, "length_s", 0, 0, kLongest_s, where);
    for (const Json& c : fields.array(json, "cautions", where, 100))
        if (const auto caution =
                c.is_string() ? cautionFrom(c.get_ref<const std::string&>()) : std::nullopt)
            take.cautions.push_back(*caution); // others mean nothing to this version
    if (const Json* reference = Fields::find(json, "reference"))
        take.reference = referenceFrom(*reference, fields, where + ".reference");
    take.kind = wordOr(json, "kind", take.kind, takeKindFrom, fields, where);
    if (const Json* trim = Fields::find(json, "trim_s"))
        take.trim = {fields.item(*trim, 0, 0, kLongest_s, where + ".trim_s"),
                     fields.item(*trim, 1, 0, kLongest_s, where + ".trim_s")};
    take.sound_stream = fields.integer(json, "sound_stream", -1, -1, 1000, where);
    take.channels = wordOr(json, "channels", take.channels, channelsFrom, fields, where);
    take.gain_db = fields.number(json, "gain_db", 0, -60, 40, where);
    if (const Json* picture = Fields::find(json, "has_picture"))
        take.has_picture = picture->is_boolean() && picture->get<bool>();
    if (const Json* quality = Fields::find(json, "quality"))
        take.quality = qualityFrom(*quality, fields, where + ".quality");
    if (const Json* film = Fields::find(json, "film"))
        take.film = filmFrom(*film, fields, where + ".film");
    take.sound_spans = soundSpansFrom(json, fields, where);
    take.sounds_like = kindsFrom(json, fields, where);
    readShown(json, take, fields, where);
    take.remark = fields.text(json, "remark", where, kLongestRemark);
    take.origin = fields.text(json, "origin", where, kLongestRemark);
    take.rights = wordOr(json, "rights", take.rights, rightsFrom, fields, where);
    if (const Json* alignment = Fields::find(json, "alignment"))
        take.alignment = alignmentFrom(*alignment, fields, where + ".alignment");
    return take;
}

} // namespace wirenote::json_fields
