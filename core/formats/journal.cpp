#include "formats/journal.h"

#include "formats/frame_fields.h"
#include "formats/note_fields.h"
#include "formats/piece_json.h"

#include <array>
#include <charconv>
#include <optional>

namespace wirenote {
namespace {

using json_fields::Fields;
using json_fields::Json;

constexpr std::size_t kSumDigits = 8;

std::array<std::uint32_t, 256> crcTable() {
    std::array<std::uint32_t, 256> table{};
    for (std::uint32_t n = 0; n < table.size(); ++n) {
        std::uint32_t c = n;
        for (int k = 0; k < 8; ++k)
            c = (c & 1U) != 0 ? 0xEDB88320U ^ (c >> 1U) : c >> 1U;
        table[n] = c;
    }
    return table;
}

std::string hex(std::uint32_t value) {
    std::array<char, kSumDigits + 1> text{};
    std::snprintf(text.data(), text.size(), "%08x", value);
    return text.data();
}

std::string line(const Json& json) {
    const std::string text = json.dump(-1, ' ', false, Json::error_handler_t::replace);
    return hex(crc32(text)) + " " + text + "\n";
}

// The text of the line that begins at `at`, which moves past it; nothing when it is not whole.
std::optional<std::string_view> nextLine(std::string_view bytes, std::size_t& at) {
    const std::size_t end = bytes.find('\n', at);
    if (end == std::string_view::npos || end - at < kSumDigits + 1 || bytes[at + kSumDigits] != ' ')
        return {};
    std::uint32_t sum = 0;
    const char* first = bytes.data() + at;
    const auto [stop, code] = std::from_chars(first, first + kSumDigits, sum, 16);
    const std::string_view text = bytes.substr(at + kSumDigits + 1, end - at - kSumDigits - 1);
    if (code != std::errc() || stop != first + kSumDigits || crc32(text) != sum)
        return {};
    at = end + 1;
    return text;
}

Json stateToJson(const PieceDelta::NoteState& state) {
    Json plans = Json::array();
    for (const NotePlan& plan : state.plans)
        plans.push_back(json_fields::planToJson(plan));
    return {{"note", json_fields::noteToJson(state.note)}, {"plans", std::move(plans)}};
}

PieceDelta::NoteState stateFrom(const Json& json, Fields& fields) {
    PieceDelta::NoteState state;
    const Json* note = Fields::find(json, "note");
    const Json* plan = Fields::find(json, "plan"); // earlier journals had one
    if (!note || (!plan && !Fields::find(json, "plans"))) {
        fields.fail("step.come", "is not a note with its plan");
        return state;
    }
    state.note = json_fields::noteFrom(*note, fields, "step.come");
    if (plan)
        state.plans.push_back(json_fields::planFrom(*plan, fields, "step.come"));
    else
        for (const Json& each : fields.array(json, "plans", "step.come", kMaxReadings))
            state.plans.push_back(json_fields::planFrom(each, fields, "step.come"));
    return state;
}

// An edit as it stands in a line: what goes (by number), what comes, and what else changed.
Result<PieceDelta> stepFrom(const Json& json, std::size_t& unlogged) {
    Fields fields;
    PieceDelta delta;
    for (const Json& id : fields.array(json, "gone", "step", kMaxNotes)) {
        PieceDelta::NoteState state;
        if (id.is_number_integer())
            state.note.id = id.get<NoteId>();
        delta.gone.push_back(std::move(state));
    }
    for (const Json& come : fields.array(json, "come", "step", kMaxNotes))
        delta.come.push_back(stateFrom(come, fields));
    if (const Json* frame = Fields::find(json, "frame"))
        delta.after = delta.before = json_fields::frameFrom(*frame, fields);
    for (const Json& entry : fields.array(json, "log", "step", kMaxLogEntries))
        delta.logged.push_back(json_fields::logEntryFrom(entry, fields));
    unlogged = static_cast<std::size_t>(
        fields.integer(json, "unlog", 0, 0, static_cast<int>(kMaxLogEntries), "step"));
    if (!fields.ok())
        return badInput({}, *fields.problem());
    return delta;
}

Status applyStep(std::string_view text, Piece& piece) {
    const auto json = json_fields::parse(std::string(text));
    if (!json)
        return json.error();
    std::size_t unlogged = 0;
    const auto delta = stepFrom(*json, unlogged);
    if (!delta)
        return delta.error();
    piece.log.resize(piece.log.size() - std::min(piece.log.size(), unlogged));
    apply(*delta, piece);
    return {};
}

Error notWhole(const std::string& how) {
    return badInput({}, how + "; open the piece's own file instead");
}

} // namespace

std::uint32_t crc32(std::string_view bytes) {
    static const auto kTable = crcTable();
    std::uint32_t c = 0xFFFFFFFFU;
    for (const char byte : bytes)
        c = kTable[(c ^ static_cast<unsigned char>(byte)) & 0xFFU] ^ (c >> 8U);
    return c ^ 0xFFFFFFFFU;
}

std::string journalStart(const JournalHeader& header, const Piece& piece) {
    return line({{"format", kJournalFormat},
                 {"piece_file", percentEncoded(header.piece_file)},
                 {"fingerprint", header.fingerprint},
                 {"when", header.when},
                 {"unsaved", header.unsaved}}) +
           line({{"piece", writePieceJson(piece)}});
}

std::string journalStep(const PieceDelta& delta, bool forwards) {
    const auto& gone = forwards ? delta.gone : delta.come;
    const auto& come = forwards ? delta.come : delta.gone;
    const auto& frame = forwards ? delta.after : delta.before;
    Json json = {{"gone", Json::array()}, {"come", Json::array()}};
    for (const auto& state : gone)
        json["gone"].push_back(state.note.id);
    for (const auto& state : come)
        json["come"].push_back(stateToJson(state));
    if (frame) {
        json["frame"] = Json::object();
        json_fields::frameToJson(*frame, json["frame"]);
    }
    if (!forwards)
        json["unlog"] = delta.logged.size();
    else
        for (const LogEntry& entry : delta.logged)
            json["log"].push_back(json_fields::logEntryToJson(entry));
    return line(json);
}

Result<JournalHeader> readJournalHeader(std::string_view bytes) {
    std::size_t at = 0;
    const auto first = nextLine(bytes, at);
    if (!first)
        return notWhole("is not a journal, or breaks off in its first line");
    const auto json = json_fields::parse(std::string(*first));
    if (!json)
        return json.error();
    Fields fields;
    const std::string format = fields.text(*json, "format", "the journal");
    if (format != kJournalFormat)
        return notWhole(format.starts_with("wirenote-journal/")
                            ? "was written by a newer version; update to open it"
                            : "is not a journal");
    JournalHeader header;
    header.piece_file =
        percentDecoded(fields.text(*json, "piece_file", "the journal", 3 * kLongestPath));
    header.fingerprint = fields.text(*json, "fingerprint", "the journal", 64);
    header.when = fields.text(*json, "when", "the journal", 64);
    header.unsaved = Fields::isTrue(*json, "unsaved");
    if (!fields.ok())
        return notWhole("is damaged: " + *fields.problem());
    return header;
}

Result<JournalReading> readJournal(std::string_view bytes) {
    const auto header = readJournalHeader(bytes);
    if (!header)
        return header.error();
    JournalReading reading;
    reading.header = *header;
    std::size_t at = bytes.find('\n') + 1;
    const auto base = nextLine(bytes, at);
    if (!base)
        return notWhole("breaks off before it holds a piece");
    const auto json = json_fields::parse(std::string(*base));
    const Json* text = json ? Fields::find(*json, "piece") : nullptr;
    if (!text || !text->is_string())
        return notWhole("holds no piece");
    auto piece = readPieceJson(text->get_ref<const std::string&>());
    if (!piece)
        return piece.error();
    reading.piece = std::move(*piece);
    while (const auto step = nextLine(bytes, at)) {
        if (const Status applied = applyStep(*step, reading.piece); !applied)
            return notWhole("has a step that does not fit (" + applied.error().message + ")");
        ++reading.steps;
    }
    reading.cut = at < bytes.size();
    if (const Status sound = checkPiece(reading.piece); !sound)
        return notWhole("leads to a damaged piece: " + sound.error().message);
    return reading;
}

int countJournalSteps(std::string_view bytes) {
    int lines = 0;
    std::size_t at = 0;
    while (nextLine(bytes, at))
        ++lines;
    return std::max(0, lines - 2);
}

} // namespace wirenote
