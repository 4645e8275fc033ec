#include "session/lesson_pack.h"

#include "base/atomic_file.h"
#include "base/json_fields.h"
#include "base/parallel.h"
#include "formats/journal.h"
#include "lesson/filming.h"
#include "lesson/page.h"
#include "lesson/play_along.h"
#include "media/slow_film.h"
#include "media/time_stretch.h"
#include "piece/exactness.h"
#include "session/exporting.h"
#include "session/files.h"
#include "session/pack_contents.h"
#include "session/sheet.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdio>
#include <span>

namespace wirenote {
namespace {

namespace fs = std::filesystem;

constexpr double kPerCent = 100.0;

std::string sumOf(const std::string& text) {
    std::array<char, 48> sum{};
    std::snprintf(sum.data(), sum.size(), "%08x-%zu", crc32(text), text.size());
    return sum.data();
}

std::string percentText(double tempo) {
    return std::to_string(std::lround(kPerCent * tempo));
}

// One file of the pack: what it says in words, what it is made of, and how it is made.
struct Part {
    std::string file;
    std::string what;
    std::string key; // changes when what it is made of does
    std::function<Result<std::string>()> make;
    bool beside_others = false; // may be made while others are
};

class Packer {
  public:
    Packer(const Piece& piece,
           const Vocabulary& words,
           const PackOptions& options,
           const PackDrawer* drawer,
           const JobControl& job)
        : m_piece(piece), m_words(words), m_options(options), m_drawer(drawer), m_job(job),
          m_facts(piece), m_breakdown(breakdownOf(m_facts)),
          m_speaker(words, piece.lesson.manner, piece.instrument, piece.key),
          m_writer(m_facts, m_breakdown, m_speaker), m_stumbles(stumblesOf(m_facts)),
          m_content(contentOf(piece, 0) + exactnessLine(piece)) {}

    std::vector<Part> parts(int version) {
        std::vector<Part> parts;
        m_page = {};
        sheets(parts);
        sounds(parts);
        film(parts);
        performance(parts);
        data(parts);
        pages(parts, version);
        return parts;
    }
    std::vector<std::string> leftOut() const {
        std::vector<std::string> out;
        if (!m_piece.takes.empty())
            out.push_back(m_words.say(m_take == TakeIn::Whole  ? "pack.no_other_recordings"
                                      : m_take == TakeIn::Gone ? "pack.recording_gone"
                                      : m_take == TakeIn::Long ? "pack.recording_long"
                                                               : "pack.no_recordings"));
        if (!m_piece.papers.empty())
            out.push_back(m_words.say("pack.no_scores"));
        for (const std::size_t p : m_breakdown.left_out())
            out.push_back(m_words.say("page.left_out") + ": " +
                          m_writer.barsOf(m_breakdown.phrases[p]));
        return out;
    }
    const Vocabulary& words() const { return m_words; }

  private:
    // Whether the leading take goes with the pack.
    enum class TakeIn { NotAllowed, Gone, Long, Whole };

    std::string title() const { return m_piece.title; }

    void sheets(std::vector<Part>& parts) {
        parts.push_back({"sheet.pdf", m_words.say("pack.sheet"), m_content, [this] {
                             return Result<std::string>(m_drawer->pdf(pagesOf(m_piece), title()));
                         }});
        const std::string html = handoutHtml(m_writer, m_stumbles, title());
        parts.push_back(
            {"hand-out.pdf", m_words.say("pack.handout"), m_content + sumOf(html), [this, html] {
                 return Result<std::string>(m_drawer->handout(pagesOf(m_piece), html, title()));
             }});
    }

    // What a stretch sounds like is made of.
    std::string soundKey(Rational from, Rational to, double tempo) const {
        std::string text = m_piece.timeline.metre.text() + " " +
                           std::to_string(m_piece.timeline.tempo_bpm * tempo) + " " +
                           std::to_string(m_piece.timeline.swing) + tuningText(m_piece.instrument) +
                           std::to_string(m_piece.instrument.capo) +
                           std::string(endingOf(m_options.sound));
        for (std::size_t i = 0; i < m_piece.notes.size(); ++i) {
            const ScoreNote& written = m_facts.scoreNote(i);
            if (written.start < from || written.start >= to)
                continue;
            const NotePlan& plan = m_facts.plan(i);
            text += " " + (written.start - from).toString() + "+" + written.sounds.toString() +
                    ":" + std::to_string(plan.position.value.string) + "/" +
                    std::to_string(plan.position.value.fret) + "/" +
                    std::to_string(static_cast<int>(plan.stroke.value)) + "/" +
                    std::to_string(m_piece.notes[i].velocity);
            for (const Technique technique : m_piece.notes[i].techniques)
                text += "t" + std::to_string(static_cast<int>(technique));
        }
        for (const ChordSpan& chord : m_facts.chords())
            text += " " + m_facts.chordName(chord);
        return sumOf(text);
    }

    Part sound(std::string file, std::string what, Rational from, Rational to, double tempo) const {
        return {std::move(file),
                std::move(what),
                soundKey(from, to, tempo),
                [this, from, to, tempo]() -> Result<std::string> {
                    PlayAlongOptions play;
                    play.from = from;
                    play.to = to;
                    play.tempo = tempo;
                    play.drums = play.bass = !m_facts.chords().empty();
                    const auto made = playAlong(m_facts, play, m_job);
                    if (!made)
                        return made.error();
                    return encodeSound(made->sound.view(), m_options.sound);
                },
                true};
    }

    std::string soundFile(const std::string& of, double tempo) const {
        return "sound/" + of + "-" + percentText(tempo) + "." +
               std::string(endingOf(m_options.sound));
    }

    void sounds(std::vector<Part>& parts) {
        m_page.phrases.resize(m_breakdown.phrases.size());
        std::vector<double> tempi = m_piece.lesson.manner.tempi;
        std::ranges::sort(tempi);
        for (const double tempo : tempi) {
            const std::string said = m_words.say("words.percent", {{"n", percentText(tempo)}});
            for (std::size_t p = 0; p < m_breakdown.phrases.size(); ++p) {
                const TeachPhrase& phrase = m_breakdown.phrases[p];
                if (phrase.left_out)
                    continue;
                // What is the same sounds the same.
                const TeachPhrase& of =
                    phrase.taught() ? phrase : m_breakdown.phrases[*phrase.same_as];
                const std::string file = soundFile("phrase-" + of.letter, tempo);
                m_page.phrases[p].sounds.push_back({tempo, file});
                if (phrase.taught())
                    parts.push_back(
                        sound(file,
                              m_words.say("pack.sound_phrase",
                                          {{"bars", m_writer.barsOf(phrase)}, {"tempo", said}}),
                              phrase.from,
                              phrase.to,
                              tempo));
            }
            const std::string file = soundFile("whole", tempo);
            m_page.whole.push_back({tempo, file});
            parts.push_back(sound(file,
                                  m_words.say("pack.sound_whole", {{"tempo", said}}),
                                  m_breakdown.phrases.front().from,
                                  m_breakdown.phrases.back().to,
                                  tempo));
        }
    }

    static Part text(std::string file, std::string what, std::string bytes) {
        std::string key = sumOf(bytes);
        return {std::move(file), std::move(what), std::move(key), [bytes = std::move(bytes)] {
                    return Result<std::string>(bytes);
                }};
    }

    void film(std::vector<Part>& parts) {
        parts.push_back(text("film/captions.vtt",
                             m_words.say("pack.captions"),
                             writeWebVtt(filmCaptions(m_writer))));
        parts.push_back(text("film/chapters.vtt",
                             m_words.say("pack.chapters"),
                             writeWebVtt(filmChapters(m_writer))));
        std::string shots;
        for (const std::string& shot : shotList(m_writer))
            shots += "[ ] " + shot + "\n";
        parts.push_back(text("film/shot-list.txt", m_words.say("pack.shots"), shots));
        std::string prompt;
        for (const PromptPage& page : promptOf(m_writer)) {
            prompt += page.title + "\n\n" + page.text + "\n\n";
            if (!page.next.empty())
                prompt += "→ " + m_words.say("pack.next", {{"what", page.next}}) + "\n\n";
        }
        parts.push_back(text("film/prompt.txt", m_words.say("pack.prompt"), prompt));
    }

    // The leading take at every slower tempo, its phrases as chapters.
    void performance(std::vector<Part>& parts) {
        if (!m_piece.lead())
            return;
        const Take& take = *m_piece.lead();
        if (take.rights != TakeRights::OwnRecording && take.rights != TakeRights::Permitted)
            return;
        const fs::path recording = mediaPathOf(take, m_options.piece_file);
        m_take = mediaStateOf(take, m_options.piece_file) == MediaState::Found ? TakeIn::Whole
                                                                               : TakeIn::Gone;
        if (m_take == TakeIn::Gone)
            return;
        const TimeRange span = taughtOf(take);
        for (const double tempo : m_piece.lesson.manner.tempi)
            if (tempo >= kSlowest && tempo < 1.0 && !span.empty()) {
                if (span.length_s() / tempo > kLongestSlowFilm_s) {
                    m_take = TakeIn::Long;
                    continue;
                }
                slower(parts, take, recording, tempo);
            }
    }

    // What of a take is taught, with a little around it.
    TimeRange taughtOf(const Take& take) const {
        constexpr double kAround_s = 0.5;
        TimeRange span;
        for (const TeachPhrase& phrase : m_breakdown.phrases)
            if (!phrase.left_out)
                span = span.empty() ? phrase.span : TimeRange{span.start_s, phrase.span.end_s};
        if (span.empty())
            return span;
        span = {std::max(0.0, span.start_s - kAround_s), span.end_s + kAround_s};
        if (take.length_s > 0.0)
            span.end_s = std::min(take.length_s, span.end_s);
        return span;
    }

    void
    slower(std::vector<Part>& parts, const Take& take, const fs::path& recording, double tempo) {
        SlowFilm film;
        film.span = taughtOf(take);
        film.speed = tempo;
        film.offset_s = take.film.offset_s;
        film.sound_stream = take.sound_stream;
        film.title = title();
        PageFilm shown{
            tempo, "film/performance-" + percentText(tempo) + ".webm", take.has_picture, {}};
        std::string key = take.sha256 + std::to_string(take.length_s) + percentText(tempo) +
                          std::to_string(film.offset_s) + std::to_string(film.span.start_s) + "+" +
                          std::to_string(film.span.end_s);
        for (std::size_t p = 0; p < m_breakdown.phrases.size(); ++p) {
            const TeachPhrase& phrase = m_breakdown.phrases[p];
            if (phrase.left_out)
                continue;
            film.chapters.push_back({phrase.span, m_writer.phraseTitle(p)});
            shown.places.push_back({p, (phrase.span.start_s - film.span.start_s) / tempo});
            key += m_writer.phraseTitle(p) + std::to_string(phrase.span.start_s);
        }
        const std::string said = m_words.say("words.percent", {{"n", percentText(tempo)}});
        parts.push_back({shown.file,
                         m_words.say("pack.performance", {{"tempo", said}}),
                         sumOf(key),
                         [this, film, recording] {
                             return encodeSlowFilm(recording, film, {{}, m_job.cancel});
                         },
                         true});
        m_page.films.push_back(std::move(shown));
    }

    void data(std::vector<Part>& parts) {
        const auto file = [&](const char* name, const char* what, FileFormat format) {
            parts.push_back({name, m_words.say(what), m_content, [this, format] {
                                 return encode(withoutSources(), format);
                             }});
        };
        file("piece.musicxml", "pack.musicxml", FileFormat::MusicXml);
        file("piece.mid", "pack.midi", FileFormat::Midi);
        file("decisions.csv", "pack.decisions", FileFormat::Csv);
    }
    // Nothing of recordings and scores that belong to others goes with it.
    Piece withoutSources() const {
        Piece piece = m_piece;
        piece.takes.clear();
        piece.papers.clear();
        piece.exported.clear();
        return piece;
    }

    void pages(std::vector<Part>& parts, int version) {
        m_page.title = title();
        m_page.subtitle = m_piece.about.subtitle;
        m_page.exactness = exactnessLine(m_piece);
        m_page.version = version;
        for (const Part& part : parts)
            if (!part.file.starts_with("sound/") && !part.file.starts_with("film/"))
                m_page.files.push_back({part.file, part.what});
        const bool some_free = std::ranges::any_of(m_breakdown.phrases, &TeachPhrase::free);
        for (const bool free : {false, true}) {
            if (free && !some_free)
                continue;
            PageContent content = m_page;
            content.only_free = free;
            // The tabs are drawn where the page is written; what they show is of the content.
            const std::string key = m_content + sumOf(lessonPage(m_writer, m_stumbles, content));
            parts.push_back({free ? "free.html" : "index.html",
                             m_words.say(free ? "pack.free" : "pack.page"),
                             key,
                             [this, content]() mutable -> Result<std::string> {
                                 if (const Status drawn = drawTabs(content); !drawn)
                                     return drawn.error();
                                 return lessonPage(m_writer, m_stumbles, content);
                             }});
        }
    }
    Status drawTabs(PageContent& content) const {
        std::vector<std::pair<int, int>> bars;
        for (const TeachPhrase& phrase : m_breakdown.phrases)
            bars.emplace_back(phrase.first_bar, phrase.last_bar);
        const std::vector<SheetPage> tabs = excerptPages(m_piece, bars);
        for (std::size_t p = 0; p < m_breakdown.phrases.size(); ++p) {
            if (m_job.cancelRequested())
                return cancelled();
            if (!m_breakdown.phrases[p].left_out)
                content.phrases[p].tab_svg = m_drawer->svg(tabs[p]);
        }
        return {};
    }

    const Piece& m_piece;
    const Vocabulary& m_words;
    const PackOptions& m_options;
    const PackDrawer* m_drawer;
    const JobControl& m_job;
    LessonFacts m_facts;
    Breakdown m_breakdown;
    Speaker m_speaker;
    LessonWriter m_writer;
    std::vector<Stumble> m_stumbles;
    std::string m_content;
    PageContent m_page;
    TakeIn m_take = TakeIn::NotAllowed;
};

Result<Vocabulary> languageOf(const Piece& piece, const PackOptions& options) {
    if (options.language)
        return *options.language;
    return Vocabulary::shipped(piece.lesson.manner.language);
}

Status nothingToTeach(const Piece& piece) {
    const bool placed = std::ranges::any_of(piece.asPlayed().plans, &NotePlan::placed);
    if (placed)
        return {};
    return badInput({}, "has no notes to teach; transcribe a take or open a tab first");
}

// Folders that a pack stopped half way has left are nothing.
bool holdsFiles(const fs::path& folder) {
    std::error_code none;
    return std::any_of(fs::recursive_directory_iterator(folder, none),
                       fs::recursive_directory_iterator(),
                       [&none](const fs::directory_entry& entry) {
                           return !entry.is_directory(none) || entry.is_symlink(none);
                       });
}

// What the folder holds already. Nothing yet: an empty one, or none.
Result<std::optional<PackContents>> contentsIn(const fs::path& folder) {
    constexpr std::size_t kMost = 4U << 20U;
    std::error_code none;
    if (!fs::exists(folder, none))
        return std::optional<PackContents>{};
    if (!fs::is_directory(folder, none))
        return badInput(folder.string(), "is a file; choose a folder for the pack");
    const fs::path list = folder / "contents.json";
    if (fs::exists(list, none)) {
        const auto bytes = readWholeFile(list, kMost);
        if (!bytes)
            return bytes.error();
        auto contents = readPackContents(*bytes);
        if (!contents)
            return badInput(list.string(), contents.error().message);
        return std::optional(std::move(*contents));
    }
    if (holdsFiles(folder))
        return badInput(folder.string(),
                        "holds other things than a lesson pack; choose an empty or a new folder");
    return std::optional<PackContents>{};
}

bool sameFile(const fs::path& folder, const PackContents::Entry& before, const Part& part) {
    std::error_code none;
    return before.key == part.key && fs::exists(folder / part.file, none);
}

const PackContents::Entry* entryOf(const std::optional<PackContents>& contents,
                                   const std::string& file) {
    if (!contents)
        return nullptr;
    const auto at = std::ranges::find(contents->entries, file, &PackContents::Entry::file);
    return at == contents->entries.end() ? nullptr : &*at;
}

// Index pages name the version, so whether anything changed is asked before it is counted on.
bool anyChanged(const std::vector<Part>& parts,
                const std::optional<PackContents>& before,
                const fs::path& folder) {
    return std::ranges::any_of(parts, [&](const Part& part) {
        const auto* entry = entryOf(before, part.file);
        return !entry || !sameFile(folder, *entry, part);
    });
}

Status makeFolders(const fs::path& folder) {
    for (const fs::path& one : {folder, folder / "sound", folder / "film"}) {
        std::error_code failed;
        fs::create_directories(one, failed);
        if (failed)
            return badInput(one.string(),
                            "cannot be made (" + failed.message() + "); choose another folder");
    }
    return {};
}

std::string listText(const Packer& packer, const PackContents& contents) {
    std::string text = packer.words().say("pack.contains") + "\n\n";
    for (const PackContents::Entry& entry : contents.entries)
        text += entry.file + ": " + entry.what + "\n";
    if (!contents.left_out.empty())
        text += "\n" + packer.words().say("pack.left_out") + "\n\n";
    for (const std::string& what : contents.left_out)
        text += what + "\n";
    return text;
}

// Makes some parts, on all cores where they may be made side by side.
std::vector<Result<std::string>> makeParts(std::span<const Part* const> parts) {
    std::vector<Result<std::string>> made(parts.size(), Result<std::string>(std::string()));
    inParallel(parts.size(), workerCount(), [&](std::size_t, std::size_t first, std::size_t end) {
        for (std::size_t p = first; p < end; ++p)
            made[p] = parts[p]->make();
    });
    return made;
}

// Of what has to be made: the next parts that can be made at once.
std::span<const Part* const> nextOf(std::span<const Part* const> left) {
    std::size_t count = 1;
    while (count < std::min(left.size(), workerCount()) && left[0]->beside_others &&
           left[count]->beside_others)
        ++count;
    return left.first(count);
}

// Makes what has changed and has it ready to be put in place.
Status makeReady(const std::vector<Part>& parts,
                 const fs::path& folder,
                 const PackOptions& options,
                 const std::optional<PackContents>& before,
                 const JobControl& job,
                 OutputFiles& files,
                 PackContents& contents,
                 PackReport& report) {
    std::vector<const Part*> changed;
    for (const Part& part : parts) {
        contents.entries.push_back({part.file, part.what, part.key});
        const auto* entry = entryOf(before, part.file);
        if (!options.all && entry && sameFile(folder, *entry, part)) {
            report.kept.push_back(part.file);
            continue;
        }
        changed.push_back(&part);
    }
    for (std::span<const Part* const> left = changed; !left.empty();) {
        job.report(static_cast<double>(changed.size() - left.size()),
                   static_cast<double>(changed.size()));
        if (job.cancelRequested())
            return cancelled();
        const auto now = nextOf(left);
        const auto made = makeParts(now);
        for (std::size_t p = 0; p < now.size(); ++p) {
            if (!made[p])
                return made[p].error();
            if (const Status ready = files.add(folder / now[p]->file, *made[p]); !ready)
                return ready;
            report.written.push_back(now[p]->file);
        }
        left = left.subspan(now.size());
    }
    return {};
}

// Files of an earlier pack that this one does not have.
std::vector<std::string> removeOld(const std::optional<PackContents>& before,
                                   const std::vector<Part>& parts,
                                   const fs::path& folder) {
    std::vector<std::string> removed;
    if (!before)
        return removed;
    for (const PackContents::Entry& old : before->entries) {
        std::error_code none;
        if (std::ranges::find(parts, old.file, &Part::file) == parts.end() &&
            fs::remove(folder / old.file, none))
            removed.push_back(old.file);
    }
    return removed;
}

} // namespace

Result<std::vector<std::string>>
outOfDatePack(const Piece& piece, const fs::path& folder, const PackOptions& options) {
    const auto before = contentsIn(folder);
    if (!before)
        return before.error();
    if (!*before)
        return badInput(folder.string(), "holds no lesson pack; make one there first");
    if (const Status empty = nothingToTeach(piece); !empty)
        return empty.error();
    const auto words = languageOf(piece, options);
    if (!words)
        return words.error();
    const JobControl job;
    Packer packer(piece, *words, options, nullptr, job);
    std::vector<std::string> old;
    for (const Part& part : packer.parts((*before)->version)) {
        const auto* entry = entryOf(*before, part.file);
        if (!entry || !sameFile(folder, *entry, part))
            old.push_back(part.file);
    }
    return old;
}

Result<PackReport> makeLessonPack(const Piece& piece,
                                  const fs::path& folder,
                                  const PackOptions& options,
                                  const PackDrawer& drawer,
                                  const JobControl& job) {
    if (const Status empty = nothingToTeach(piece); !empty)
        return empty.error();
    const auto words = languageOf(piece, options);
    if (!words)
        return words.error();
    const auto before = contentsIn(folder);
    if (!before)
        return before.error();
    Packer packer(piece, *words, options, &drawer, job);
    PackReport report;
    report.version = *before ? (*before)->version : 1;
    std::vector<Part> parts = packer.parts(report.version);
    if (*before && anyChanged(parts, *before, folder))
        parts = packer.parts(++report.version);
    PackContents contents;
    contents.version = report.version;
    contents.title = piece.title;
    contents.exactness = exactnessLine(piece);
    contents.left_out = report.left_out = packer.leftOut();
    contents.changes = *before ? (*before)->changes : std::vector<PackContents::Change>{};
    if (const Status made = makeFolders(folder); !made)
        return made.error();
    OutputFiles files;
    if (const Status ready =
            makeReady(parts, folder, options, *before, job, files, contents, report);
        !ready)
        return ready.error();
    if (!report.written.empty())
        contents.changes.push_back({report.version, nowIso8601(), report.written});
    for (const auto& [name, bytes] :
         {std::pair<const char*, std::string>{"contents.json", writePackContents(contents)},
          {"CONTENTS.txt", listText(packer, contents)}})
        if (const Status ready = files.add(folder / name, bytes); !ready)
            return ready.error();
    if (const Status placed = files.putInPlace(); !placed)
        return placed.error();
    report.removed = removeOld(*before, parts, folder);
    job.report(1.0, 1.0);
    return report;
}

} // namespace wirenote
