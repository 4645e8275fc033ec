#include "lesson/page.h"

#include "lesson/page_parts.h"
#include "piece/lesson_words.h"

#include <algorithm>
#include <cmath>

namespace wirenote {
namespace {

class PageWriter {
  public:
    PageWriter(const LessonWriter& writer,
               const std::vector<Stumble>& stumbles,
               const PageContent& content)
        : m_writer(writer), m_words(writer.speaker().words()), m_stumbles(stumbles),
          m_content(content) {}

    std::string page() && {
        head();
        introduction();
        m_out += "<main id=\"phrases\">\n";
        whole();
        performance();
        for (std::size_t p = 0; p < m_writer.breakdown().phrases.size(); ++p)
            if (shown(p))
                phrase(p);
        m_out += "</main>\n";
        about();
        m_out += "<script>" + std::string(kPageScript) + "</script>\n</body>\n</html>\n";
        return std::move(m_out);
    }

  private:
    static std::string e(const std::string& text) { return escapedXml(text); }
    std::string say(std::string_view key, const Vocabulary::Slots& slots = {}) const {
        return m_writer.speaker().own(m_words.say(key, slots));
    }
    const TeachPhrase& phraseAt(std::size_t p) const { return m_writer.breakdown().phrases[p]; }
    bool shown(std::size_t p) const {
        return !phraseAt(p).left_out && (!m_content.only_free || phraseAt(p).free);
    }
    void head() {
        // Nothing from elsewhere: what is not of this file or its folder is refused.
        m_out += "<!DOCTYPE html>\n<html lang=\"" + e(m_words.code()) +
                 "\">\n<head>\n<meta charset=\"utf-8\">\n"
                 "<meta name=\"viewport\" content=\"width=device-width, initial-scale=1\">\n"
                 "<meta http-equiv=\"Content-Security-Policy\" content=\"default-src 'none'; "
                 "style-src 'unsafe-inline'; script-src 'unsafe-inline'; media-src 'self' file:; "
                 "img-src data:\">\n<title>" +
                 e(m_content.title) + "</title>\n<style>" + kPageStyle +
                 "</style>\n</head>\n<body data-stopped=\"" + e(say("page.stopped")) +
                 "\">\n<a class=\"skip\" href=\"#phrases\">" + e(say("page.skip")) +
                 "</a>\n<header>\n<h1>" + e(m_content.title) + "</h1>\n";
        if (!m_content.subtitle.empty())
            m_out += "<p class=\"quiet\">" + e(m_content.subtitle) + "</p>\n";
        const std::string& series = m_writer.facts().piece().lesson.series;
        if (!series.empty())
            m_out += "<p class=\"quiet\">" + e(series) + "</p>\n";
        m_out += "</header>\n<nav aria-label=\"" + e(say("page.contents")) + "\">\n<ol>\n";
        for (std::size_t p = 0; p < m_writer.breakdown().phrases.size(); ++p)
            if (shown(p))
                m_out += "<li><a href=\"#phrase-" + phraseAt(p).letter + "\">" +
                         e(m_writer.phraseTitle(p)) + "</a></li>\n";
        m_out += "</ol>\n</nav>\n<p class=\"keys quiet\">" + e(say("page.keys")) +
                 "</p>\n<p id=\"state\" role=\"status\" aria-live=\"polite\"></p>\n";
    }

    void introduction() {
        std::vector<Sentence> said = m_writer.introduction();
        const std::string caution = said.back().text; // the last is the caution
        said.pop_back();
        m_out += "<ul class=\"steps\">\n";
        for (const Sentence& sentence : said)
            m_out += "<li>" + e(sentence.text) + "</li>\n";
        m_out += "</ul>\n<aside class=\"caution\" aria-label=\"" + e(say("page.caution")) + "\">" +
                 e(caution) + "</aside>\n";
    }

    void player(const PageSound& sound, const std::string& label, bool loop) {
        m_out += "<div><label>" + e(m_writer.percentText(sound.tempo)) +
                 "<br><audio controls preload=\"none\"" + std::string(loop ? " loop" : "") +
                 " src=\"" + e(sound.file) + "\" aria-label=\"" + e(label) +
                 "\"></audio></label></div>\n";
    }

    void whole() {
        if (m_content.whole.empty())
            return;
        m_out += "<section aria-labelledby=\"whole\">\n<h2 id=\"whole\">" + e(say("page.whole")) +
                 "</h2>\n";
        for (std::size_t s = 0; s < m_writer.breakdown().steps.size(); ++s)
            if (m_writer.breakdown().steps[s].kind == StepKind::Whole &&
                m_writer.breakdown().steps[s].phrases.size() > 1)
                text(m_writer.step(s));
        m_out +=
            "<p class=\"quiet\">" + e(say("page.simulated")) + "</p>\n<div class=\"sounds\">\n";
        for (const PageSound& sound : m_content.whole)
            player(sound, say("page.whole") + ", " + m_writer.percentText(sound.tempo), false);
        m_out += "</div>\n</section>\n";
    }

    // The take itself, slower; of a page with the free phrases alone it stays out.
    void performance() {
        if (m_content.films.empty() || m_content.only_free)
            return;
        m_out += "<section aria-labelledby=\"performance\">\n<h2 id=\"performance\">" +
                 e(say("page.performance")) + "</h2>\n<div class=\"films\">\n";
        for (const PageFilm& film : m_content.films) {
            const std::string id = "film-" + std::to_string(&film - m_content.films.data());
            const std::string kind = film.has_picture ? "video" : "audio";
            const std::string tempo = m_writer.percentText(film.tempo);
            m_out += "<div><p class=\"quiet\">" + e(tempo) + "</p><" + kind + " id=\"" + id +
                     "\" controls preload=\"none\" src=\"" + e(film.file) + "\" aria-label=\"" +
                     e(say("page.performance") + ", " + tempo) + "\"></" + kind +
                     ">\n<p class=\"places\">";
            for (const PageFilm::Place& place : film.places)
                m_out += "<button type=\"button\" data-film=\"" + id + "\" data-at=\"" +
                         std::to_string(place.at_s) + "\" aria-label=\"" +
                         e(say("page.from_phrase",
                               {{"letter", phraseAt(place.phrase).letter}, {"percent", tempo}})) +
                         "\">" + e(phraseAt(place.phrase).letter) + "</button> ";
            m_out += "</p></div>\n";
        }
        m_out += "</div>\n</section>\n";
    }

    void text(const StepText& step) {
        m_out += "<ul class=\"steps\">\n";
        std::size_t from = 0;
        while (from <= step.text.size()) {
            const std::size_t end = std::min(step.text.find('\n', from), step.text.size());
            if (end > from)
                m_out += "<li>" + e(step.text.substr(from, end - from)) + "</li>\n";
            from = end + 1;
        }
        m_out += "</ul>\n";
    }

    void phrase(std::size_t p) {
        const TeachPhrase& of = phraseAt(p);
        const Vocabulary::Slots letter = {{"letter", of.letter}};
        m_out += "<section class=\"phrase\" id=\"phrase-" + of.letter +
                 "\" aria-labelledby=\"head-" + of.letter + "\" data-chosen=\"" +
                 e(say("page.chosen", letter)) + "\" data-playing=\"" +
                 e(say("page.playing", letter)) + "\">\n<h2 id=\"head-" + of.letter +
                 "\" tabindex=\"-1\">" + e(m_writer.phraseTitle(p)) + "</h2>\n";
        if (!m_content.only_free && anyFree())
            m_out += "<p class=\"quiet\">" + e(say(of.free ? "page.free" : "page.paid")) + "</p>\n";
        pictures(p);
        if (p < m_content.phrases.size() && !m_content.phrases[p].sounds.empty()) {
            m_out += "<div class=\"sounds\">\n";
            for (const PageSound& sound : m_content.phrases[p].sounds)
                player(sound,
                       say("page.play",
                           {{"letter", of.letter}, {"percent", m_writer.percentText(sound.tempo)}}),
                       true);
            m_out += "</div>\n";
        }
        steps(p);
        stumbles(of);
        m_out += "</section>\n";
    }
    bool anyFree() const {
        return std::ranges::any_of(m_writer.breakdown().phrases, &TeachPhrase::free);
    }

    void pictures(std::size_t p) {
        const TeachPhrase& of = phraseAt(p);
        const LessonFacts& facts = m_writer.facts();
        const Vocabulary::Slots bars = {{"bars", m_writer.barsOf(of)}};
        if (p < m_content.phrases.size() && !m_content.phrases[p].tab_svg.empty())
            m_out += "<div class=\"tab\" role=\"img\" aria-label=\"" + e(say("page.tab", bars)) +
                     "\">" + m_content.phrases[p].tab_svg + "</div>\n";
        if (!of.taught())
            return;
        m_out += "<div class=\"pictures\">\n";
        std::vector<std::string> drawn;
        for (const ChordSpan& chord : facts.chords()) {
            const std::string name = facts.chordName(chord);
            constexpr std::size_t kGrip = 3; // strings
            if (chord.span.start_s < of.span.start_s - 0.05 ||
                chord.span.start_s >= of.span.end_s - 0.05 || std::ranges::count(drawn, name) > 0)
                continue;
            const std::vector<PressedPlace> places = placesOf(facts, chord.span);
            if (places.size() < kGrip)
                continue;
            drawn.push_back(name);
            m_out += gripSvg(facts.piece().instrument, places, name, gripText(places, name)) + "\n";
        }
        m_out += neckSvg(facts.piece().instrument,
                         placesIn(facts, of.from, of.to),
                         say("page.neck", bars)) +
                 "\n" + strokesSvg(facts, of.from, of.to, say("page.strokes", bars)) + "\n</div>\n";
    }

    std::string gripText(const std::vector<PressedPlace>& places, const std::string& name) const {
        const int strings = m_writer.facts().piece().instrument.stringCount();
        Grip grip{std::vector<int>(static_cast<std::size_t>(strings), Grip::kSilent)};
        for (const PressedPlace& one : places)
            grip.frets[static_cast<std::size_t>(one.place.string - 1)] = one.place.fret;
        return say("page.grip",
                   {{"chord", m_words.say("words.chord", {{"name", name}})},
                    {"frets", wirenote::gripText(grip)}});
    }

    // The steps that teach this phrase alone, and those that join up to it.
    void steps(std::size_t p) {
        for (std::size_t s = 0; s < m_writer.breakdown().steps.size(); ++s) {
            const TeachStep& step = m_writer.breakdown().steps[s];
            const bool own = step.phrases.size() == 1
                                 ? step.phrases[0] == p && !step.relief
                                 : step.kind == StepKind::Joined && step.phrases.back() == p;
            if (!own)
                continue;
            m_out += "<h3>" + e(kindOf(step.kind)) + "</h3>\n";
            text(m_writer.step(s));
            layer(step);
        }
        const TeachPhrase& of = phraseAt(p);
        if (!of.taught()) {
            m_out += "<ul class=\"steps\">\n";
            for (const Sentence& sentence : sameWords(m_writer, of))
                m_out += "<li>" + e(m_writer.speaker().own(sentence.text)) + "</li>\n";
            m_out += "</ul>\n";
        }
    }
    // What the plucking hand plays of a layer.
    void layer(const TeachStep& step) {
        const TeachPhrase& of = phraseAt(step.phrases.front());
        if (step.kind != StepKind::Layer ||
            of.layers.size() < static_cast<std::size_t>(step.layer) ||
            m_writer.speaker().manner().order != TeachingOrder::Layers)
            return;
        m_out += "<div class=\"pictures\">" +
                 strokesSvg(m_writer.facts(),
                            of.from,
                            of.to,
                            say("page.layer",
                                {{"n", std::to_string(step.layer)}, {"bars", m_writer.barsOf(of)}}),
                            of.layers[static_cast<std::size_t>(step.layer - 1)]) +
                 "</div>\n";
    }
    std::string kindOf(StepKind kind) const {
        return say(std::string("steps.") + lesson_words::kSteps[static_cast<std::size_t>(kind)]);
    }

    void stumbles(const TeachPhrase& of) {
        constexpr int kMost = 3;
        int told = 0;
        for (const Stumble& stumble : m_stumbles) {
            if (told >= kMost || stumble.at < of.from || stumble.at >= of.to)
                continue;
            if (told++ == 0)
                m_out += "<h3>" + e(say("page.stumbles")) + "</h3>\n";
            m_out += "<p class=\"stumble\">" + e(m_writer.stumbleText(stumble)) + " " +
                     e(m_writer.remedyText(stumble)) + "</p>\n";
        }
    }

    // By the hardest move of a hand: a working figure.
    std::string reckonedLevel() const {
        constexpr double kEasy = 0.45, kMiddle = 0.8;
        double hardest = 0.0;
        for (const TeachPhrase& phrase : m_writer.breakdown().phrases)
            hardest = std::max(hardest, phrase.hardness);
        if (hardest < kEasy)
            return say("page.level_easy");
        return say(hardest < kMiddle ? "page.level_middle" : "page.level_hard");
    }

    void row(std::string_view key, const std::string& value) {
        if (!value.empty())
            m_out +=
                "<tr><th scope=\"row\">" + e(say(key)) + "</th><td>" + e(value) + "</td></tr>\n";
    }

    void about() {
        const LessonPlan& plan = m_writer.facts().piece().lesson;
        m_out += "<footer>\n<h2>" + e(say("page.about")) + "</h2>\n<table>\n";
        row("page.level", plan.level.empty() ? reckonedLevel() : plan.level);
        row("page.presupposes", plan.presupposes);
        row("page.background", plan.background);
        row("page.exactness", m_content.exactness);
        row("page.credits", plan.credits);
        row("page.version", std::to_string(m_content.version));
        m_out += "</table>\n";
        if (!plan.manner.glossary.empty()) {
            m_out += "<h3>" + e(say("page.glossary")) + "</h3>\n<table>\n";
            for (const GlossaryWord& word : plan.manner.glossary)
                m_out += "<tr><th scope=\"row\">" + e(word.own) + "</th><td>" + e(word.ours) +
                         "</td></tr>\n";
            m_out += "</table>\n";
        }
        if (!plan.versions.empty()) {
            m_out += "<h3>" + e(say("page.errata")) + "</h3>\n<table>\n";
            for (const PublishedVersion& version : plan.versions)
                m_out += "<tr><th scope=\"row\">" + std::to_string(version.number) + "</th><td>" +
                         e(version.what) + "</td></tr>\n";
            m_out += "</table>\n";
        }
        m_out += "<h3>" + e(say("page.files")) + "</h3>\n<ul>\n";
        for (const PageFile& file : m_content.files)
            m_out += "<li><a href=\"" + e(file.file) + "\">" + e(file.file) +
                     "</a>: " + e(file.what) + "</li>\n";
        m_out += "</ul>\n</footer>\n";
    }

    const LessonWriter& m_writer;
    const Vocabulary& m_words;
    const std::vector<Stumble>& m_stumbles;
    const PageContent& m_content;
    std::string m_out;
};

} // namespace

std::string lessonPage(const LessonWriter& writer,
                       const std::vector<Stumble>& stumbles,
                       const PageContent& content) {
    return PageWriter(writer, stumbles, content).page();
}

} // namespace wirenote
