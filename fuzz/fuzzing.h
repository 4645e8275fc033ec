// What every target shares: limits, and what must hold of whatever a reader lets through.
#pragma once

#include "base/result.h"
#include "piece/piece.h"

#include <cstddef>
#include <cstdint>
#include <string>

namespace wirenote::fuzzing {

// Processor time one input may take; more is a find. Sanitizers make everything some ten times
// slower.
constexpr double kMost_s = 10.0;

// Stops the program when the scope took longer than kMost_s.
class Watch {
  public:
    Watch();
    ~Watch();
    Watch(const Watch&) = delete;
    Watch& operator=(const Watch&) = delete;

  private:
    double m_start_s;
};

// Stops the program with a sentence: a find.
[[noreturn]] void found(const char* what, const std::string& detail);

// A refusal says what is wrong and what to do, in one line.
void checkRefusal(const Error& error);

// A piece that was let through is sound, can be written in every format, and what can be read again
// is sound again.
void checkPieceLetThrough(const Piece& piece);

inline std::string text(const std::uint8_t* data, std::size_t size) {
    return {reinterpret_cast<const char*>(data), size};
}

} // namespace wirenote::fuzzing
