#include "formats/sheet_style_fields.h"

#include <algorithm>
#include <array>
#include <utility>

namespace wirenote {
namespace json_fields {
namespace {

// What stands on a sheet, by name.
const std::array<std::pair<const char*, bool SheetStyle::*>, 13> kOnSheet = {
    {{"fingers", &SheetStyle::fingers},
     {"holds", &SheetStyle::holds},
     {"positions", &SheetStyle::positions},
     {"strokes", &SheetStyle::strokes},
     {"count", &SheetStyle::count},
     {"chords", &SheetStyle::chords},
     {"grips", &SheetStyle::grips},
     {"techniques", &SheetStyle::techniques},
     {"voices", &SheetStyle::voices},
     {"doubts", &SheetStyle::doubts},
     {"basis", &SheetStyle::basis},
     {"key_to_signs", &SheetStyle::key_to_signs},
     {"exactness", &SheetStyle::exactness}}};
constexpr std::array kSheetStaves = {"tab", "tab-and-staff"};
constexpr std::array kSheetSizes = {"hand-out", "stand", "screen"};
constexpr std::array kSheetRepeats = {"written-out", "signs", "by-number", "cells"};

// One of the words, or what is usual where none is given.
template <class Kind, std::size_t N>
Kind kindFrom(const Json& json,
              const char* field,
              const std::array<const char*, N>& words,
              Kind usual,
              Fields& fields) {
    if (!Fields::find(json, field))
        return usual;
    const std::string said = fields.text(json, field, "sheet");
    const auto at = std::ranges::find(words, said);
    const std::optional<Kind> kind =
        at == words.end() ? std::nullopt : std::optional(static_cast<Kind>(at - words.begin()));
    return fields.known(kind, usual, std::string("sheet.") + field);
}

} // namespace

Json sheetToJson(const SheetStyle& sheet) {
    Json json = {{"staves", kSheetStaves[static_cast<std::size_t>(sheet.staves)]},
                 {"size", kSheetSizes[static_cast<std::size_t>(sheet.size)]},
                 {"repeats", kSheetRepeats[static_cast<std::size_t>(sheet.repeats)]}};
    for (const auto& [name, of] : kOnSheet)
        json[name] = sheet.*of;
    return json;
}

SheetStyle sheetFrom(const Json& json, Fields& fields) {
    SheetStyle sheet;
    sheet.staves = kindFrom(json, "staves", kSheetStaves, sheet.staves, fields);
    sheet.size = kindFrom(json, "size", kSheetSizes, sheet.size, fields);
    sheet.repeats = kindFrom(json, "repeats", kSheetRepeats, sheet.repeats, fields);
    for (const auto& [name, of] : kOnSheet)
        if (const Json* said = Fields::find(json, name))
            sheet.*of = said->is_boolean() && said->get<bool>();
    return sheet;
}

} // namespace json_fields

std::string writeSheetStyle(const SheetStyle& sheet) {
    return json_fields::sheetToJson(sheet).dump();
}

std::optional<SheetStyle> readSheetStyle(const std::string& text) {
    const auto json = json_fields::parse(text);
    if (!json || !json->is_object())
        return std::nullopt;
    json_fields::Fields fields;
    const SheetStyle sheet = json_fields::sheetFrom(*json, fields);
    return fields.ok() ? std::optional(sheet) : std::nullopt;
}

} // namespace wirenote
