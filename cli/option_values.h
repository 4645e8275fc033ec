// The words and numbers that options take, as the parser checks and turns them.
#pragma once

#include "formats/words.h"
#include "piece/reading.h"

#include <CLI/CLI.hpp>
#include <map>
#include <optional>
#include <string>

namespace wirenote {

inline const std::map<std::string, PluckingTool> kTools = {{"auto", PluckingTool::Unknown},
                                                           {"pick", PluckingTool::Pick},
                                                           {"fingers", PluckingTool::Fingers},
                                                           {"hybrid", PluckingTool::Both}};
inline const std::map<std::string, PluckingSchool> kPluckingSchoolWords = [] {
    std::map<std::string, PluckingSchool> words = {{"auto", PluckingSchool::Unknown}};
    for (std::size_t s = 1; s <= kPluckingSchools; ++s)
        words.emplace(wordFor(static_cast<PluckingSchool>(s)), static_cast<PluckingSchool>(s));
    return words;
}();

// A school of the fretting hand, perhaps with rules, or what is wrong in one sentence.
inline CLI::Validator isFrettingManner() {
    return CLI::Validator(
        [](std::string& given) -> std::string {
            if (frettingMannerFrom(given))
                return {};
            std::string all;
            for (int s = 0; s < kFrettingSchools; ++s)
                all += (s > 0 ? ", " : "") + std::string(wordFor(static_cast<FrettingSchool>(s)));
            all += "; with +";
            for (int r = 0; r < kFrettingRules; ++r)
                all += (r > 0 ? ", +" : "") + std::string(wordFor(static_cast<FrettingRule>(r)));
            return "\"" + given + "\" is none of: " + all;
        },
        "SCHOOL[+RULE…]");
}

// One of the words, or what is wrong, in one sentence.
template <class T> CLI::Validator oneOf(const std::map<std::string, T>& words) {
    return CLI::Validator(
        [&words](std::string& given) -> std::string {
            const auto known = words.find(given);
            if (known != words.end()) {
                given = std::to_string(static_cast<int>(known->second));
                return {};
            }
            std::string all;
            for (const auto& [word, value] : words)
                all += (all.empty() ? "" : ", ") + word;
            return "\"" + given + "\" is none of: " + all;
        },
        "");
}

// "auto", or a number within bounds.
inline CLI::Validator autoOrNumber(double low, double high) {
    return CLI::Validator(
        [low, high](std::string& given) -> std::string {
            double value = 0.0;
            if (given == "auto" ||
                (CLI::detail::lexical_cast(given, value) && value >= low && value <= high))
                return {};
            return "must be auto or a number from " + std::to_string(static_cast<int>(low)) +
                   " to " + std::to_string(static_cast<int>(high));
        },
        "");
}

// What such a value means, once the parser has let it pass; nothing: it is to be found.
inline std::optional<double> numberOf(const std::string& checked) {
    return checked == "auto" ? std::optional<double>{} : std::stod(checked);
}

} // namespace wirenote
