#include "session/exporting.h"

#include "formats/journal.h"
#include "piece/in_reading.h"
#include "session/files.h"

#include <algorithm>
#include <array>
#include <cstdio>
#include <sstream>

namespace wirenote {
namespace {

void write(std::ostream& out, const Note& note, const NotePlan& plan) {
    out << note.onset_s() << ' ' << note.offset_s() << ' ' << note.pitch.value << ' '
        << plan.position.value.string << ' ' << plan.position.value.fret << ' '
        << static_cast<int>(plan.finger.value) << ' ' << static_cast<int>(plan.stroke.value) << ' '
        << (note.voice ? static_cast<int>(*note.voice) : -1) << ' '
        << static_cast<int>(note.need.kind) << ' ' << note.need.when << ' '
        << (note.slip ? note.slip->meant_midi : -1);
    for (const Technique t : note.techniques)
        out << ' ' << static_cast<int>(t);
    out << '\n';
}

void write(std::ostream& out, const Timeline& timeline) {
    out << timeline.metre.text() << ' ' << timeline.first_downbeat << ' ' << timeline.swing;
    for (const double beat_s : timeline.beats_s)
        out << ' ' << beat_s;
    for (const MetreChange& change : timeline.changes)
        out << " bar " << change.bar << ' ' << change.metre.text();
    for (const Section& section : timeline.sections)
        out << '\n' << section.label << ' ' << section.span.start_s << ' ' << section.span.end_s;
    out << '\n';
}

} // namespace

std::string contentOf(const Piece& piece, std::size_t reading) {
    const Piece view = bareReading(piece, reading);
    std::ostringstream out;
    out.precision(9);
    for (const std::string& line : {view.title,
                                    view.about.composer,
                                    view.about.player,
                                    view.about.transcriber,
                                    view.about.subtitle,
                                    view.about.source,
                                    view.about.date,
                                    tuningText(view.instrument)})
        out << line << '\n';
    out << view.instrument.capo << ' ' << view.key.fifths << '\n';
    write(out, view.timeline);
    for (const NamedChord& chord : view.chord_names)
        out << chord.at_s << ' ' << chord.name << '\n';
    for (const SheetMark& mark : view.marks)
        out << mark.at_s << ' ' << mark.to_s << ' ' << markText(mark) << '\n';
    for (std::size_t i = 0; i < view.notes.size(); ++i)
        write(out, view.notes[i], view.asPlayed().plans[i]);
    const std::string text = out.str();
    std::array<char, 48> sum{};
    std::snprintf(sum.data(), sum.size(), "%08x-%zu", crc32(text), text.size());
    return sum.data();
}

void noteExport(Piece& piece, std::size_t reading, const std::filesystem::path& path) {
    const std::string file = std::filesystem::absolute(path).string();
    std::erase_if(piece.exported, [&file](const Exported& one) { return one.path == file; });
    if (piece.exported.size() >= kMaxExported)
        piece.exported.erase(piece.exported.begin());
    piece.exported.push_back(
        {file, nowIso8601(), piece.readings[reading].head.name, contentOf(piece, reading)});
}

std::vector<Exported> outOfDate(const Piece& piece) {
    std::vector<Exported> old;
    for (const Exported& one : piece.exported) {
        const auto reading = std::ranges::find_if(
            piece.readings, [&](const Reading& r) { return r.head.name == one.reading; });
        if (reading == piece.readings.end() ||
            contentOf(piece, static_cast<std::size_t>(reading - piece.readings.begin())) !=
                one.content)
            old.push_back(one);
    }
    return old;
}

} // namespace wirenote
