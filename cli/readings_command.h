// The readings of a piece: which there are, others on demand, and what differs between two.
#pragma once

#include "base/result.h"
#include "instrument_arguments.h"
#include "piece/piece.h"
#include "session/recipe.h"

#include <CLI/CLI.hpp>
#include <string>
#include <vector>

namespace wirenote {

class ReadingsCommand {
  public:
    explicit ReadingsCommand(CLI::App& app);
    bool chosen() const { return m_command->parsed(); }
    // Prints what there is, adds one reading to the piece, writes one as a piece of its own, or
    // says what differs between two; says where a wish cannot be had.
    Status run() const;

  private:
    Status compare(const Piece& piece) const;
    Status arrangeTo(const Piece& piece, const ReadingRecipe& recipe) const;
    Status keep(Piece& piece, const ReadingRecipe& recipe) const;
    Result<ReadingRecipe> recipe(const Piece& piece) const;
    bool elsewhere() const { return m_instrument.given() || m_semitones != 0; }

    CLI::App* m_command;
    std::string m_piece;
    std::string m_make;
    std::string m_from;
    bool m_in_full = false; // the list
    std::vector<std::string> m_compare;
    std::string m_out;
    InstrumentArguments m_instrument;
    int m_semitones = 0;
};

} // namespace wirenote
