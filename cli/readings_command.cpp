#include "readings_command.h"

#include "session/files.h"
#include "session/other_readings.h"

#include <iostream>

namespace wirenote {
namespace {

void print(const Piece& piece) {
    for (const Reading& reading : piece.readings) {
        std::cout << reading.head.name;
        if (!reading.head.purpose.empty())
            std::cout << ": " << reading.head.purpose;
        std::cout << "\n";
    }
}

void printUnmet(const Piece& piece, const MadeReading& made, const ReadingWish& wish) {
    for (const NoteId& note : made.unmet) {
        const auto& place = piece.readings[made.index].plans[*piece.indexOf(note)].position.value;
        std::cout << wishName(wish) << " cannot be had at " << whereText(piece, note) << ": "
                  << (place.string == 0 ? std::string("it has no place on this neck then")
                                        : "the nearest is string " + std::to_string(place.string) +
                                              ", fret " + std::to_string(place.fret))
                  << "\n";
    }
    if (made.unmet.empty())
        std::cout << "all of it can be had\n";
}

} // namespace

ReadingsCommand::ReadingsCommand(CLI::App& app)
    : m_command(app.add_subcommand("readings", "the readings of a piece, and others on demand")) {
    m_command->add_option("PIECE", m_piece, "piece")->required();
    m_command->add_option("--make",
                          m_make,
                          "adds one to the piece: easiest, one-position[:FRET], no-open, no-barre, "
                          "stretch:FRETS, small-hand or tempo:TIMES");
}

Status ReadingsCommand::run() const {
    const auto format = formatOf(m_piece);
    if (!format)
        return format.error();
    auto piece = readAny(m_piece);
    if (!piece)
        return piece.error();
    if (m_make.empty()) {
        print(*piece);
        return {};
    }
    if (*format != FileFormat::Piece)
        return badCall("readings are kept in a piece: convert " + m_piece + " to .wirenote first");
    const auto wish = parseWish(m_make);
    if (!wish)
        return wish.error();
    const auto made = makeReading(*piece, *wish, nowIso8601());
    if (!made)
        return made.error();
    for (Take& take : piece->takes)
        if (const auto media = mediaPathOf(take, m_piece); !media.empty())
            take.path = media.string();
    if (const Status written = writeAny(*piece, m_piece); !written)
        return written;
    printUnmet(*piece, *made, *wish);
    return {};
}

} // namespace wirenote
