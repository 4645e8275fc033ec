#include "formats/mxl.h"

#include "base/text.h"

#include <memory>
#include <pugixml.hpp>
#include <zip.h>

namespace wirenote {
namespace {

constexpr const char* kContainer = "META-INF/container.xml";
constexpr const char* kScore = "score.musicxml";
constexpr zip_uint64_t kLargestScore = 64'000'000;
constexpr zip_uint64_t kLargestContainer = 100'000;
constexpr zip_int64_t kMostFiles = 1000;

struct CloseArchive {
    void operator()(zip_t* archive) const { zip_discard(archive); }
};
struct CloseFile {
    void operator()(zip_file_t* file) const { zip_fclose(file); }
};
using Archive = std::unique_ptr<zip_t, CloseArchive>;

Error damaged(const std::string& how) {
    return badInput({},
                    how + "; export it again from the program that made it, or as plain .musicxml");
}

// A file of the archive, or why not. What an archive says of sizes is not believed: reading stops
// at the limit.
Result<std::string> fileIn(zip_t* archive, const std::string& name, zip_uint64_t most) {
    const std::unique_ptr<zip_file_t, CloseFile> file(zip_fopen(archive, name.c_str(), 0));
    if (!file)
        return damaged("has no " + cleanText(name, 100) + " in its archive");
    std::string bytes;
    std::string block(65536, '\0');
    for (;;) {
        const zip_int64_t read = zip_fread(file.get(), block.data(), block.size());
        if (read < 0)
            return damaged("is a broken archive");
        if (read == 0)
            return bytes;
        bytes.append(block, 0, static_cast<std::size_t>(read));
        if (bytes.size() > most)
            return damaged("swells to more than " + std::to_string(most / 1'000'000) +
                           " MB when it is unpacked");
    }
}

Result<std::string> scoreNamed(const std::string& container) {
    pugi::xml_document document;
    if (!document.load_buffer(container.data(), container.size()))
        return damaged("has a container.xml that is not XML");
    for (const pugi::xml_node file :
         document.child("container").child("rootfiles").children("rootfile")) {
        const std::string type = file.attribute("media-type").as_string();
        const std::string path = file.attribute("full-path").as_string();
        if (!path.empty() && (type.empty() || type.find("musicxml") != std::string::npos))
            return path;
    }
    return damaged("names no score in its container.xml");
}

zip_source_t* textSource(zip_t* archive, const std::string& text) {
    return zip_source_buffer(archive, text.data(), text.size(), 0);
}

} // namespace

std::string compressMusicXml(const std::string& musicxml) {
    zip_error_t error;
    zip_error_init(&error);
    zip_source_t* target = zip_source_buffer_create(nullptr, 0, 0, &error);
    zip_source_keep(target);
    zip_t* archive = zip_open_from_source(target, ZIP_CREATE | ZIP_TRUNCATE, &error);
    const std::string container =
        "<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n<container><rootfiles><rootfile full-path=\"" +
        std::string(kScore) +
        "\" media-type=\"application/vnd.recordare.musicxml+xml\"/></rootfiles></container>\n";
    const auto add = [archive](const char* name, const std::string& text) {
        const zip_int64_t at =
            zip_file_add(archive, name, textSource(archive, text), ZIP_FL_ENC_UTF_8);
        // The same bytes whenever it is written.
        zip_file_set_dostime(archive, static_cast<zip_uint64_t>(at), 0, 0x21, 0);
    };
    add(kContainer, container);
    add(kScore, musicxml);
    zip_close(archive);
    zip_source_open(target);
    zip_source_seek(target, 0, SEEK_END);
    std::string bytes(static_cast<std::size_t>(zip_source_tell(target)), '\0');
    zip_source_seek(target, 0, SEEK_SET);
    zip_source_read(target, bytes.data(), bytes.size());
    zip_source_close(target);
    zip_source_free(target);
    zip_error_fini(&error);
    return bytes;
}

Result<std::string> uncompressMusicXml(const std::string& bytes) {
    if (bytes.empty())
        return damaged("is not an archive, but empty");
    zip_error_t error;
    zip_error_init(&error);
    zip_source_t* source = zip_source_buffer_create(bytes.data(), bytes.size(), 0, &error);
    const Archive archive(source ? zip_open_from_source(source, ZIP_RDONLY, &error) : nullptr);
    zip_error_fini(&error);
    if (!archive) {
        if (source)
            zip_source_free(source);
        return damaged("is not an archive");
    }
    if (zip_get_num_entries(archive.get(), 0) > kMostFiles)
        return damaged("holds more than " + std::to_string(kMostFiles) + " files");
    const auto container = fileIn(archive.get(), kContainer, kLargestContainer);
    if (!container)
        return container.error();
    const auto name = scoreNamed(*container);
    if (!name)
        return name.error();
    return fileIn(archive.get(), *name, kLargestScore);
}

} // namespace wirenote
