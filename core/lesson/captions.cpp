#include "lesson/captions.h"

#include "base/text.h"

#include <algorithm>
#include <cctype>
#include <cmath>
#include <cstdio>
#include <optional>
#include <string_view>

namespace wirenote {
namespace {

constexpr double kLongest_s = 360000.0; // a hundred hours

std::vector<std::string> linesOf(const std::string& text) {
    std::vector<std::string> lines(1);
    for (std::size_t i = 0; i < text.size(); ++i) {
        if (text[i] == '\r') {
            if (i + 1 < text.size() && text[i + 1] == '\n')
                continue;
            lines.emplace_back();
        } else if (text[i] == '\n')
            lines.emplace_back();
        else
            lines.back() += text[i];
    }
    return lines;
}

std::string trimmed(const std::string& text) {
    const auto from = text.find_first_not_of(" \t");
    if (from == std::string::npos)
        return {};
    return text.substr(from, text.find_last_not_of(" \t") - from + 1);
}

// "01:02:03,450", "02:03.450".
std::optional<double> timeFrom(std::string text) {
    std::ranges::replace(text, ',', '.');
    double seconds = 0.0, part = 0.0;
    int parts = 0;
    std::size_t at = 0;
    while (at <= text.size() && parts < 3) {
        const std::size_t colon = text.find(':', at);
        const std::string figure = text.substr(at, colon == std::string::npos ? colon : colon - at);
        if (figure.empty() || figure.find_first_not_of("0123456789.") != std::string::npos ||
            figure.size() > 12 || std::ranges::count(figure, '.') > 1)
            return std::nullopt;
        part = std::strtod(figure.c_str(), nullptr);
        constexpr double kSixty = 60.0;
        seconds = seconds * kSixty + part;
        ++parts;
        if (colon == std::string::npos)
            return parts >= 2 && seconds <= kLongest_s ? std::optional(seconds) : std::nullopt;
        at = colon + 1;
    }
    return std::nullopt;
}

// "00:01.000 --> 00:02.500 align:start".
std::optional<TimeRange> spanFrom(const std::string& line) {
    const std::size_t arrow = line.find("-->");
    if (arrow == std::string::npos)
        return std::nullopt;
    const std::string rest = trimmed(line.substr(arrow + 3));
    const auto from = timeFrom(trimmed(line.substr(0, arrow)));
    const auto to = timeFrom(rest.substr(0, rest.find_first_of(" \t")));
    if (!from || !to || *to <= *from)
        return std::nullopt;
    return TimeRange{*from, *to};
}

// Without tags; with the five characters that WebVTT escapes.
std::string plain(const std::string& text) {
    std::string out;
    for (std::size_t i = 0; i < text.size(); ++i) {
        if (text[i] == '<') {
            const std::size_t end = text.find('>', i);
            if (end != std::string::npos) {
                i = end;
                continue;
            }
        }
        bool escaped = false;
        for (const auto& [name, sign] : {std::pair<std::string_view, const char*>{"&amp;", "&"},
                                         {"&lt;", "<"},
                                         {"&gt;", ">"},
                                         {"&nbsp;", " "},
                                         {"&lrm;", ""},
                                         {"&rlm;", ""}})
            if (!escaped && text.compare(i, name.size(), name) == 0) {
                out += sign;
                i += name.size() - 1;
                escaped = true;
            }
        if (!escaped)
            out += text[i];
    }
    return out;
}

std::vector<Cue> timedCues(const std::vector<std::string>& lines) {
    std::vector<Cue> cues;
    for (std::size_t i = 0; i < lines.size() && cues.size() < kMaxCues; ++i) {
        const auto span = spanFrom(lines[i]);
        if (!span)
            continue;
        Cue cue{*span, {}};
        for (++i; i < lines.size() && !trimmed(lines[i]).empty() &&
                  lines[i].find("-->") == std::string::npos;
             ++i)
            cue.text += (cue.text.empty() ? "" : " ") + trimmed(plain(lines[i]));
        if (i < lines.size() && lines[i].find("-->") != std::string::npos)
            --i; // a cue begins although no empty line has ended the last
        cue.text = cleanText(cue.text, kLongestRemark);
        if (!cue.text.empty())
            cues.push_back(std::move(cue));
    }
    return cues;
}

std::string stamp(double time_s) {
    char text[32];
    const auto ms = static_cast<long long>(std::llround(std::max(0.0, time_s) * 1000.0));
    std::snprintf(text,
                  sizeof text,
                  "%02lld:%02lld:%02lld.%03lld",
                  ms / 3600000,
                  ms / 60000 % 60,
                  ms / 1000 % 60,
                  ms % 1000);
    return text;
}

std::string escaped(const std::string& text) {
    std::string out;
    for (const char c : text) {
        if (c == '&')
            out += "&amp;";
        else if (c == '<')
            out += "&lt;";
        else if (c == '>')
            out += "&gt;";
        else
            out += c;
    }
    return out;
}

} // namespace

Result<std::vector<Cue>> readCaptions(const std::string& text) {
    std::string whole = text.substr(0, kMaxCaptionsBytes);
    if (whole.starts_with("\xEF\xBB\xBF"))
        whole.erase(0, 3);
    const std::vector<std::string> lines = linesOf(whole);
    const bool timed = whole.find("-->") != std::string::npos || whole.starts_with("WEBVTT");
    std::vector<Cue> cues;
    if (timed)
        cues = timedCues(lines);
    else
        for (const std::string& line : lines)
            if (std::string said = cleanText(trimmed(line), kLongestRemark);
                !said.empty() && cues.size() < kMaxCues)
                cues.push_back({{}, std::move(said)});
    if (cues.empty())
        return badInput({},
                        "holds no captions; choose SubRip (.srt), WebVTT (.vtt) or a text with a "
                        "sentence a line");
    return cues;
}

std::string writeWebVtt(const std::vector<Cue>& cues) {
    std::string out = "WEBVTT\n";
    for (const Cue& cue : cues) {
        if (cue.text.empty() || stamp(cue.span.end_s) <= stamp(cue.span.start_s))
            continue;
        std::string text = escaped(cue.text);
        // An empty line would end the cue.
        for (std::size_t at = text.find("\n\n"); at != std::string::npos; at = text.find("\n\n"))
            text.erase(at, 1);
        out +=
            "\n" + stamp(cue.span.start_s) + " --> " + stamp(cue.span.end_s) + "\n" + text + "\n";
    }
    return out;
}

} // namespace wirenote
