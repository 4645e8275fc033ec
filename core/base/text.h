// Text from outside: names, titles, words of a person.
#pragma once

#include <cstddef>
#include <string>
#include <string_view>

namespace wirenote {

// Names, titles and labels are at most this long, in bytes of UTF-8.
constexpr std::size_t kLongestName = 1000;
// Remarks and the like.
constexpr std::size_t kLongestRemark = 10000;

// The length of the UTF-8 sequence that begins at `at`, 0 when none does (Unicode 15, table 3-7:
// no overlong forms, no surrogates, nothing above U+10FFFF).
std::size_t utf8Length(std::string_view text, std::size_t at);

bool isUtf8(std::string_view text);

// The same text as every format of ours can hold it: what is not UTF-8 becomes U+FFFD, characters
// that XML 1.0 cannot write (control characters but tab and line ends, U+FFFE, U+FFFF) are left
// out, and it ends before `longest` bytes, never inside a character.
std::string cleanText(std::string_view text, std::size_t longest = kLongestName);

// Whether every format of ours holds this text as it is, in so many bytes.
bool isPlain(std::string_view text, std::size_t longest = kLongestName);

// Bytes that need not be UTF-8 (a path), as ASCII: what is not a printable ASCII character, and the
// per cent sign, becomes %XX (RFC 3986, 2.1).
std::string percentEncoded(std::string_view bytes);
// The reverse; a per cent sign that is followed by no two hexadecimal digits stays as it is.
std::string percentDecoded(std::string_view text);

} // namespace wirenote
