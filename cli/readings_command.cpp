#include "readings_command.h"

#include "base/atomic_file.h"
#include "session/arrange.h"
#include "session/files.h"
#include "session/other_readings.h"

#include <cstdlib>
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

void printUnmet(const Piece& piece,
                std::size_t reading,
                const std::vector<NoteId>& unmet,
                const ReadingWish& wish) {
    for (const NoteId& note : unmet) {
        const auto& place = piece.readings[reading].plans[*piece.indexOf(note)].position.value;
        std::cout << wishName(wish) << " cannot be had at " << whereText(piece, note) << ": "
                  << (place.string == 0 ? std::string("it has no place on this neck then")
                                        : "the nearest is string " + std::to_string(place.string) +
                                              ", fret " + std::to_string(place.fret))
                  << "\n";
    }
    if (unmet.empty())
        std::cout << "all of it can be had\n";
}

void printMoved(const Piece& piece, const std::vector<OctaveMove>& moved) {
    constexpr int kOctave = 12;
    for (const OctaveMove& one : moved) {
        const int octaves = std::abs(one.semitones) / kOctave;
        std::cout << "outside this neck at " << whereText(piece, one.note) << ": taken "
                  << (octaves == 1 ? std::string("an octave")
                                   : std::to_string(octaves) + " octaves")
                  << (one.semitones > 0 ? " higher\n" : " lower\n");
    }
}

} // namespace

ReadingsCommand::ReadingsCommand(CLI::App& app)
    : m_command(app.add_subcommand("readings", "the readings of a piece, and others on demand")) {
    m_command->add_option("PIECE", m_piece, "piece")->required();
    m_command->add_option("--make",
                          m_make,
                          "adds one to the piece: easiest, one-position[:FRET], no-open, no-barre, "
                          "stretch:FRETS, small-hand or tempo:TIMES");
    m_instrument.addTo(*m_command);
    m_command
        ->add_option("--transpose",
                     m_semitones,
                     "another key: so many semitones up, below 0 down; a piece of its own, without "
                     "the takes")
        ->check(CLI::Range(-24, 24));
    m_command->add_option(
        "--out", m_out, "where the piece for another instrument, tuning, capo or key is written");
}

Status ReadingsCommand::run() const {
    const auto format = formatOf(m_piece);
    if (!format)
        return format.error();
    auto piece = readAny(m_piece);
    if (!piece)
        return piece.error();
    if (!m_out.empty() && !elsewhere())
        return badCall("--out is for another instrument, tuning, capo or key; another reading is "
                       "kept in its piece");
    if (m_make.empty() && !elsewhere()) {
        print(*piece);
        return {};
    }
    ReadingWish wish;
    if (!m_make.empty()) {
        const auto parsed = parseWish(m_make);
        if (!parsed)
            return parsed.error();
        wish = *parsed;
    }
    for (Take& take : piece->takes)
        if (const auto media = mediaPathOf(take, m_piece); !media.empty())
            take.path = media.string();
    if (elsewhere())
        return arrangeTo(*piece, wish);
    if (*format != FileFormat::Piece)
        return badCall("readings are kept in a piece: convert " + m_piece + " to .wirenote first");
    const auto made = makeReading(*piece, wish, nowIso8601());
    if (!made)
        return made.error();
    if (const Status written = writeAny(*piece, m_piece); !written)
        return written;
    printUnmet(*piece, made->index, made->unmet, wish);
    return {};
}

Status ReadingsCommand::arrangeTo(const Piece& piece, const ReadingWish& wish) const {
    if (m_out.empty())
        return badCall("another instrument, tuning, capo or key makes a piece of its own: say with "
                       "--out where it is to be written");
    auto inputs = m_instrument.inputs();
    inputs.emplace_back(m_piece);
    if (const Status apart = checkOutputs(inputs, {m_out}); !apart)
        return apart;
    const auto instrument = m_instrument.resolve(piece.instrument);
    if (!instrument)
        return instrument.error();
    const auto made = arrange(piece, *instrument, m_semitones, nowIso8601(), wish);
    if (!made)
        return made.error();
    if (const Status written = writeAny(made->piece, m_out); !written)
        return written;
    printMoved(made->piece, made->moved);
    printUnmet(made->piece, 0, made->unmet, wish);
    return {};
}

} // namespace wirenote
