#include "fuzzing.h"

#include "base/text.h"
#include "formats/ascii_tab.h"
#include "formats/jams.h"
#include "formats/midi_file.h"
#include "formats/musicxml.h"
#include "formats/notes_json.h"
#include "formats/piece_json.h"

#include <cstdio>
#include <cstdlib>
#include <ctime>

// Memory is limited by the sanitizer: one allocation, and all of them.
extern "C" const char* __asan_default_options() {
    return "hard_rss_limit_mb=1500:max_allocation_size_mb=600:allocator_may_return_null=1";
}

namespace wirenote::fuzzing {
namespace {

double processor_s() {
    timespec now{};
    clock_gettime(CLOCK_PROCESS_CPUTIME_ID, &now);
    return static_cast<double>(now.tv_sec) + 1e-9 * static_cast<double>(now.tv_nsec);
}

} // namespace

Watch::Watch() : m_start_s(processor_s()) {}

Watch::~Watch() {
    if (processor_s() - m_start_s > kMost_s)
        found("took too long", std::to_string(processor_s() - m_start_s) + " s");
}

void found(const char* what, const std::string& detail) {
    std::fprintf(stderr, "FOUND: %s: %s\n", what, detail.c_str());
    std::abort();
}

void checkRefusal(const Error& error) {
    const std::string& message = error.message;
    if (message.empty() || message.size() > 2000 || message.find('\n') != std::string::npos)
        found("a refusal that is no sentence", message);
    if (message.find(';') == std::string::npos)
        found("a refusal that does not say what to do", message);
    if (!isUtf8(message))
        found("a refusal that is not UTF-8", percentEncoded(message));
}

void checkPieceLetThrough(const Piece& piece) {
    if (const Status sound = checkPiece(piece); !sound)
        found("an unsound piece", sound.error().message);
    const std::string stored = writePieceJson(piece);
    const auto again = readPieceJson(stored);
    if (!again)
        found("a piece that does not open again", again.error().message);
    if (writePieceJson(*again) != stored)
        found("a piece that changes when it is stored", {});
    if (const auto notes = readNotesJson(writeNotesJson(piece)); !notes)
        found("notes that do not open again", notes.error().message);
    if (const auto midi = readMidi(writeMidi(piece)); !midi && !piece.notes.empty())
        found("MIDI that does not open again", midi.error().message);
    if (const auto xml = readMusicXml(writeMusicXml(piece)); !xml && !piece.notes.empty())
        found("MusicXML that does not open again", xml.error().message);
    static_cast<void>(writeAsciiTab(piece));
    static_cast<void>(writeJams(piece));
}

} // namespace wirenote::fuzzing
