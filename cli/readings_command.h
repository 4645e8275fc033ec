// The readings of a piece: which there are, and others on demand.
#pragma once

#include "base/result.h"

#include <CLI/CLI.hpp>
#include <string>

namespace wirenote {

class ReadingsCommand {
  public:
    explicit ReadingsCommand(CLI::App& app);
    bool chosen() const { return m_command->parsed(); }
    // Prints what there is, or adds one reading to the piece and says where it cannot be had.
    Status run() const;

  private:
    CLI::App* m_command;
    std::string m_piece;
    std::string m_make;
};

} // namespace wirenote
