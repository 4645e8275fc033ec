#include "session/pack_contents.h"

#include "base/json_fields.h"
#include "base/text.h"

#include <filesystem>

namespace wirenote {
namespace {

using json_fields::Fields;
using json_fields::Json;

constexpr const char* kFormat = "wirenote-lesson/1";
constexpr std::size_t kMaxEntries = 20000;
constexpr std::size_t kMaxChanges = 2000;
constexpr int kMaxVersion = 1000000;

// Plain names, and never out of the folder: an old file is removed by its name.
bool within(const std::string& file) {
    const std::filesystem::path path(file);
    if (file.empty() || path.is_absolute())
        return false;
    for (const auto& part : path)
        if (part == ".." || part == "." || part.empty())
            return false;
    return true;
}

std::vector<std::string> texts(const Json& json, const char* key, Fields& fields) {
    std::vector<std::string> all;
    for (const Json& one : fields.array(json, key, "the file", kMaxEntries))
        if (one.is_string())
            all.push_back(cleanText(one.get<std::string>()));
    return all;
}

} // namespace

std::string writePackContents(const PackContents& contents) {
    Json json = {{"format", kFormat},
                 {"version", contents.version},
                 {"title", contents.title},
                 {"exactness", contents.exactness},
                 {"files", Json::array()},
                 {"left_out", contents.left_out},
                 {"changes", Json::array()}};
    for (const PackContents::Entry& entry : contents.entries)
        json["files"].push_back(
            {{"file", entry.file}, {"what", entry.what}, {"made_of", entry.key}});
    for (const PackContents::Change& change : contents.changes)
        json["changes"].push_back(
            {{"version", change.version}, {"when", change.when}, {"files", change.files}});
    return json_fields::written(json);
}

Result<PackContents> readPackContents(const std::string& text) {
    const auto json = json_fields::parse(text);
    if (!json)
        return json.error();
    Fields fields;
    if (fields.text(*json, "format", "the file") != kFormat)
        return badInput({}, "is no list of a lesson pack; choose an empty folder or another pack");
    PackContents contents;
    contents.version = fields.integer(*json, "version", 1, 1, kMaxVersion, "the file");
    contents.title = fields.text(*json, "title", "the file");
    contents.exactness = fields.text(*json, "exactness", "the file", kLongestRemark);
    for (const Json& one : fields.array(*json, "files", "the file", kMaxEntries)) {
        contents.entries.push_back({fields.text(one, "file", "files"),
                                    fields.text(one, "what", "files"),
                                    fields.text(one, "made_of", "files")});
        if (!within(contents.entries.back().file))
            fields.fail("files.file", "lies outside the folder");
    }
    contents.left_out = texts(*json, "left_out", fields);
    for (const Json& one : fields.array(*json, "changes", "the file", kMaxChanges))
        contents.changes.push_back({fields.integer(one, "version", 1, 1, kMaxVersion, "changes"),
                                    fields.text(one, "when", "changes"),
                                    texts(one, "files", fields)});
    if (!fields.ok())
        return badInput(
            {}, "is damaged: " + *fields.problem() + "; make the pack in a new folder instead");
    return contents;
}

} // namespace wirenote
