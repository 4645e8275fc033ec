#include "base/text.h"

#include <array>

namespace wirenote {
namespace {

unsigned byteAt(std::string_view text, std::size_t at) {
    return static_cast<unsigned char>(text[at]);
}

// What a sequence with this first byte must look like: its length and the range of its second byte.
struct Form {
    std::size_t length = 0;
    unsigned low = 0x80;
    unsigned high = 0xBF;
};

Form formOf(unsigned first) {
    if (first < 0x80)
        return {1};
    if (first >= 0xC2 && first <= 0xDF)
        return {2};
    if (first >= 0xE0 && first <= 0xEF)
        return {3, first == 0xE0 ? 0xA0U : 0x80U, first == 0xED ? 0x9FU : 0xBFU};
    if (first >= 0xF0 && first <= 0xF4)
        return {4, first == 0xF0 ? 0x90U : 0x80U, first == 0xF4 ? 0x8FU : 0xBFU};
    return {};
}

bool writableInXml(std::string_view character) {
    if (character.size() == 1) {
        const unsigned c = byteAt(character, 0);
        return c >= 0x20 || c == '\t' || c == '\n' || c == '\r';
    }
    return character != "\xEF\xBF\xBE" && character != "\xEF\xBF\xBF";
}

int hexDigit(char c) {
    if (c >= '0' && c <= '9')
        return c - '0';
    if (c >= 'A' && c <= 'F')
        return c - 'A' + 10;
    return c >= 'a' && c <= 'f' ? c - 'a' + 10 : -1;
}

} // namespace

std::size_t utf8Length(std::string_view text, std::size_t at) {
    if (at >= text.size())
        return 0;
    const Form form = formOf(byteAt(text, at));
    if (form.length == 0 || at + form.length > text.size())
        return 0;
    for (std::size_t i = 1; i < form.length; ++i) {
        const unsigned c = byteAt(text, at + i);
        if (c < (i == 1 ? form.low : 0x80U) || c > (i == 1 ? form.high : 0xBFU))
            return 0;
    }
    return form.length;
}

bool isUtf8(std::string_view text) {
    for (std::size_t at = 0; at < text.size();) {
        const std::size_t length = utf8Length(text, at);
        if (length == 0)
            return false;
        at += length;
    }
    return true;
}

std::string cleanText(std::string_view text, std::size_t longest) {
    constexpr std::string_view kUnknown = "\xEF\xBF\xBD"; // U+FFFD
    std::string clean;
    for (std::size_t at = 0; at < text.size();) {
        const std::size_t length = utf8Length(text, at);
        const std::string_view character = length > 0 ? text.substr(at, length) : kUnknown;
        at += length > 0 ? length : 1;
        if (!writableInXml(character))
            continue;
        if (clean.size() + character.size() > longest)
            break;
        clean += character;
    }
    return clean;
}

bool isPlain(std::string_view text, std::size_t longest) {
    return text.size() <= longest && cleanText(text, longest) == text;
}

std::string percentEncoded(std::string_view bytes) {
    constexpr std::array<char, 17> kDigits{"0123456789ABCDEF"};
    std::string text;
    for (std::size_t i = 0; i < bytes.size(); ++i) {
        const unsigned c = byteAt(bytes, i);
        if (c > 0x20 && c < 0x7F && c != '%') {
            text += static_cast<char>(c);
            continue;
        }
        text += '%';
        text += kDigits[c >> 4U];
        text += kDigits[c & 15U];
    }
    return text;
}

std::string percentDecoded(std::string_view text) {
    std::string bytes;
    for (std::size_t i = 0; i < text.size(); ++i) {
        const bool coded = text[i] == '%' && i + 2 < text.size() && hexDigit(text[i + 1]) >= 0 &&
                           hexDigit(text[i + 2]) >= 0;
        if (!coded) {
            bytes += text[i];
            continue;
        }
        bytes += static_cast<char>(hexDigit(text[i + 1]) * 16 + hexDigit(text[i + 2]));
        i += 2;
    }
    return bytes;
}

} // namespace wirenote
