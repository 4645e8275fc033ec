// The readings of a piece: which there are, and others on demand.
#pragma once

#include "base/result.h"
#include "instrument_arguments.h"
#include "piece/piece.h"

#include <CLI/CLI.hpp>
#include <string>

namespace wirenote {

class ReadingsCommand {
  public:
    explicit ReadingsCommand(CLI::App& app);
    bool chosen() const { return m_command->parsed(); }
    // Prints what there is, adds one reading to the piece, or writes the piece for another
    // instrument, tuning, capo or key; says where it cannot be had.
    Status run() const;

  private:
    Status arrangeTo(const Piece& piece, const ReadingWish& wish) const;
    bool elsewhere() const { return m_instrument.given() || m_semitones != 0; }

    CLI::App* m_command;
    std::string m_piece;
    std::string m_make;
    std::string m_out;
    InstrumentArguments m_instrument;
    int m_semitones = 0;
};

} // namespace wirenote
