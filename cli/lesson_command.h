// The pack of a lesson, and what captions say against the tab.
#pragma once

#include "base/result.h"
#include "lesson/claims.h"
#include "piece/piece.h"

#include <CLI/CLI.hpp>
#include <string>
#include <vector>

namespace wirenote {

// Changes how a lesson speaks, as options of a command say.
class MannerArguments {
  public:
    void addTo(CLI::App& command);
    // A language: one that is shipped, or a file.
    Result<Vocabulary> apply(Piece& piece) const;

  private:
    std::string m_language, m_strings, m_fingers, m_strokes, m_order;
    std::vector<double> m_tempi;
};

class LessonCommand {
  public:
    explicit LessonCommand(CLI::App& app);
    bool chosen() const { return m_command->parsed(); }
    Status run() const; // needs a QGuiApplication

  private:
    Status bars(Piece& piece) const;

    CLI::App* m_command;
    std::string m_piece, m_out, m_bars, m_reading;
    std::string m_sound = "ogg";
    bool m_all = false;
    MannerArguments m_manner;
};

class ClaimsCommand {
  public:
    explicit ClaimsCommand(CLI::App& app);
    bool chosen() const { return m_command->parsed(); }
    Status run() const;

  private:
    CLI::App* m_command;
    std::string m_piece, m_captions, m_out, m_reading;
    bool m_shown = false;
    MannerArguments m_manner;
};

} // namespace wirenote
