#include "lesson_command.h"

#include "base/atomic_file.h"
#include "lesson/claims_json.h"
#include "lesson/shown_claims.h"
#include "painting/write_sheet.h"
#include "piece/lesson_words.h"
#include "piece/timeline_map.h"
#include "session/files.h"
#include "session/lesson_pack.h"
#include "session/other_readings.h"

#include <algorithm>
#include <array>
#include <filesystem>
#include <iostream>

namespace wirenote {
namespace {

using namespace lesson_words;

template <std::size_t N> std::vector<std::string> asList(const std::array<const char*, N>& words) {
    return {words.begin(), words.end()};
}

template <class E, std::size_t N>
void take(const std::string& word, const std::array<const char*, N>& words, E& value) {
    const auto at = std::ranges::find(words, word);
    if (at != words.end())
        value = static_cast<E>(at - words.begin());
}

Result<Piece> readReading(const std::string& file, const std::string& reading) {
    auto piece = readAny(file);
    if (!piece || reading.empty())
        return piece;
    const auto chosen = std::ranges::find_if(
        piece->readings, [&](const Reading& r) { return r.head.name == reading; });
    if (chosen == piece->readings.end())
        return badCall("there is no reading \"" + reading + "\" in " + file +
                       ": wirenote-cli readings lists them");
    return asReading(*piece, static_cast<std::size_t>(chosen - piece->readings.begin()));
}

} // namespace

void MannerArguments::addTo(CLI::App& command) {
    command.add_option(
        "--language", m_language, "what the lesson is written in: en, es, or a language file");
    command.add_option("--strings", m_strings, "how strings are called")
        ->check(CLI::IsMember(asList(kStrings)));
    command.add_option("--fingers", m_fingers, "how fretting fingers are called")
        ->check(CLI::IsMember(asList(kFingers)));
    command.add_option("--strokes", m_strokes, "how plucking fingers are called")
        ->check(CLI::IsMember(asList(kStrokes)));
    command.add_option("--order", m_order, "the way of teaching")
        ->check(CLI::IsMember(asList(kOrders)));
    command.add_option("--tempi", m_tempi, "of the play-alongs, as shares of the tempo: 0.6,0.8,1")
        ->delimiter(',')
        ->check(CLI::Range(kSlowestLesson, kFastestLesson));
}

Result<Vocabulary> MannerArguments::apply(Piece& piece) const {
    TeachingManner& manner = piece.lesson.manner;
    take(m_strings, kStrings, manner.strings);
    take(m_fingers, kFingers, manner.fingers);
    take(m_strokes, kStrokes, manner.strokes);
    take(m_order, kOrders, manner.order);
    if (m_tempi.size() > kMostLessonTempi)
        return badCall("--tempi takes at most " + std::to_string(kMostLessonTempi));
    if (!m_tempi.empty())
        manner.tempi = m_tempi;
    const std::string language = m_language.empty() ? manner.language : m_language;
    std::error_code none;
    if (!std::filesystem::exists(language, none))
        return Vocabulary::shipped(language);
    constexpr std::size_t kMost = 1U << 20U;
    const auto bytes = readWholeFile(language, kMost);
    if (!bytes)
        return bytes.error();
    auto words = Vocabulary::read(*bytes);
    if (!words)
        return badInput(language, words.error().message);
    return words;
}

LessonCommand::LessonCommand(CLI::App& app)
    : m_command(app.add_subcommand("lesson",
                                   "the lesson pack: a page, sheets, play-alongs, captions; again "
                                   "in the same folder: what has changed")) {
    m_command->add_option("PIECE", m_piece, "piece, or notes in any format that can be read")
        ->required();
    m_command->add_option("--out", m_out, "folder of the pack")->required();
    m_command->add_option("--bars", m_bars, "only these are taught: 1-8");
    m_command->add_option("--reading", m_reading, "of this reading, by name");
    m_command->add_option("--sound", m_sound, "format of the play-alongs")
        ->check(CLI::IsMember({"ogg", "flac", "mp3", "wav"}));
    m_command->add_flag("--all", m_all, "write again what has not changed, too");
    m_manner.addTo(*m_command);
}

Status LessonCommand::bars(Piece& piece) const {
    if (m_bars.empty())
        return {};
    int first = 0, last = 0;
    char end = 0;
    const int read = std::sscanf(m_bars.c_str(), "%d-%d%c", &first, &last, &end);
    if (read == 1)
        last = first;
    if (read < 1 || read > 2 || last < first || first < 0 || last > kMostBars)
        return badCall("--bars " + m_bars + " is no range of bars; write --bars 1-8");
    const TimelineMap map(piece.timeline);
    piece.lesson.taught = {map.timeAt(map.grid().bar(first).start.toDouble()),
                           map.timeAt(map.grid().bar(last + 1).start.toDouble())};
    return {};
}

Status LessonCommand::run() const {
    auto piece = readReading(m_piece, m_reading);
    if (!piece)
        return piece.error();
    if (const Status ranged = bars(*piece); !ranged)
        return ranged;
    auto words = m_manner.apply(*piece);
    if (!words)
        return words.error();
    PackOptions options;
    options.language = std::move(*words);
    options.sound = soundFormatOf(m_sound).value_or(SoundFormat::Ogg);
    options.piece_file = m_piece;
    options.all = m_all;
    const auto made =
        makeLessonPack(*piece, m_out, options, {pdfOfPages, pdfOfHandout, svgElement}, {});
    if (!made)
        return Error{made.error().kind,
                     made.error().file.empty() ? m_piece : made.error().file,
                     made.error().message};
    std::cerr << m_out << ": version " << made->version << ", " << made->written.size()
              << " files written, " << made->kept.size() << " unchanged\n";
    for (const std::string& what : made->left_out)
        std::cerr << "left out: " << what << "\n";
    return {};
}

ClaimsCommand::ClaimsCommand(CLI::App& app)
    : m_command(app.add_subcommand(
          "claims",
          "what captions say of strings, frets, fingers, strokes, beats, chords and "
          "notes, against the tab")) {
    m_command->add_option("PIECE", m_piece, "piece, or notes in any format that can be read")
        ->required();
    m_command->add_option("CAPTIONS", m_captions, "SubRip, WebVTT, or a text, a sentence a line")
        ->required();
    m_command->add_option("--out", m_out, "CLAIMS.json")->required();
    m_command->add_option("--reading", m_reading, "against this reading, by name");
    m_command->add_flag(
        "--shown", m_shown, "also what the takes of the piece play otherwise than the tab has it");
    m_manner.addTo(*m_command);
}

Status ClaimsCommand::run() const {
    if (const Status apart = checkOutputs({m_piece, m_captions}, {m_out}); !apart)
        return apart;
    auto piece = readReading(m_piece, m_reading);
    if (!piece)
        return piece.error();
    const auto words = m_manner.apply(*piece);
    if (!words)
        return words.error();
    const auto bytes = readWholeFile(m_captions, kMaxCaptionsBytes);
    if (!bytes)
        return bytes.error();
    const auto cues = readCaptions(*bytes);
    if (!cues)
        return badInput(m_captions, cues.error().message);
    const LessonFacts facts(*piece);
    const Speaker speaker(*words, piece->lesson.manner, piece->instrument, piece->key);
    std::vector<CheckedClaim> claims = checkClaims(facts, *cues, speaker);
    if (m_shown)
        std::ranges::copy(checkDemonstrations(facts, speaker), std::back_inserter(claims));
    if (const Status written = writeFileAtomically(m_out, writeClaimsJson(claims)); !written)
        return written;
    const auto wrong = std::ranges::count(claims, ClaimVerdict::Wrong, &CheckedClaim::verdict);
    std::cerr << m_out << ": " << claims.size() << " claims, " << wrong << " of them wrong\n";
    return {};
}

} // namespace wirenote
