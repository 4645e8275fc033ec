#include "lesson/filming.h"

#include "lesson/pictures.h"

#include <algorithm>
#include <cmath>

namespace wirenote {
namespace {

bool toBeFilmedAgain(const LessonWriter& writer, const TeachStep& step) {
    constexpr double kSame_s = 0.02;
    return std::ranges::any_of(writer.facts().piece().lesson.retakes, [&](const Retake& retake) {
        return retake.step == step.kind &&
               std::abs(retake.phrase_s -
                        writer.breakdown().phrases[step.phrases.front()].span.start_s) < kSame_s;
    });
}

void shotsOf(const LessonWriter& writer, const TeachPhrase& phrase, std::vector<std::string>& all) {
    const Vocabulary& words = writer.speaker().words();
    const Sheet& sheet = writer.facts().sheet();
    const std::string bars = writer.barsOf(phrase);
    const auto add = [&](std::string_view key, Vocabulary::Slots slots) {
        slots.emplace_back("bars", bars);
        all.push_back(capital(writer.speaker().own(words.say(key, slots))));
    };
    add("shots.both", {});
    const auto barre = std::ranges::find_if(sheet.barres, [&](const BarreSign& one) {
        return one.from < phrase.to && one.to > phrase.from;
    });
    if (barre != sheet.barres.end())
        add("shots.fretting_barre",
            {{"fret", words.say("words.fret", {{"n", std::to_string(barre->fret)}})}});
    else
        add(writer.chordsIn(phrase).empty() ? "shots.fretting" : "shots.fretting_open", {});
    for (std::size_t i = 1; i < sheet.positions.size(); ++i) {
        const PositionSign &from = sheet.positions[i - 1], &to = sheet.positions[i];
        constexpr int kFar = 4; // frets
        if (to.at < phrase.from || to.at >= phrase.to || std::abs(to.fret - from.fret) < kFar)
            continue;
        const auto position = [&](int fret) {
            return words.say("words.position", {{"n", std::to_string(fret)}});
        };
        add("shots.shift", {{"from", position(from.fret)}, {"to", position(to.fret)}});
        break;
    }
    add("shots.plucking", {});
}

std::string join(const std::vector<Sentence>& sentences, std::size_t from, std::size_t to) {
    std::string text;
    for (std::size_t i = from; i < to; ++i)
        text += (text.empty() ? "" : " ") + sentences[i].text;
    return text;
}

} // namespace

std::vector<std::string> shotList(const LessonWriter& writer) {
    std::vector<std::string> all;
    const Vocabulary& words = writer.speaker().words();
    for (const TeachStep& step : writer.breakdown().steps)
        if (toBeFilmedAgain(writer, step))
            all.push_back(words.say("pack.retake", {{"what", writer.stepTitle(step)}}));
    for (const TeachPhrase& phrase : writer.breakdown().phrases)
        if (phrase.taught())
            shotsOf(writer, phrase, all);
    return all;
}

std::vector<PromptPage> promptOf(const LessonWriter& writer) {
    std::vector<PromptPage> pages;
    const auto& steps = writer.breakdown().steps;
    for (std::size_t s = 0; s < steps.size(); ++s) {
        PromptPage page;
        page.step = s;
        page.title = writer.stepTitle(steps[s]);
        page.text = writer.step(s).text;
        if (s + 1 < steps.size())
            page.next = writer.stepTitle(steps[s + 1]);
        page.retake = toBeFilmedAgain(writer, steps[s]);
        pages.push_back(std::move(page));
    }
    return pages;
}

std::vector<Cue> filmCaptions(const LessonWriter& writer) {
    constexpr double kTogether_s = 1.5;
    const LessonFacts& facts = writer.facts();
    std::vector<Cue> cues;
    for (std::size_t p = 0; p < writer.breakdown().phrases.size(); ++p) {
        const TeachPhrase& phrase = writer.breakdown().phrases[p];
        if (phrase.left_out)
            continue;
        const std::vector<Sentence> said = frettingWords(writer, p);
        std::size_t first = 0;
        double begins_s = phrase.span.start_s;
        for (std::size_t i = 0; i <= said.size(); ++i) {
            double at_s = phrase.span.end_s;
            if (i < said.size()) {
                const auto note =
                    said[i].notes.empty() ? std::nullopt : facts.piece().indexOf(said[i].notes[0]);
                at_s = note ? facts.piece().notes[*note].onset_s() : begins_s;
            }
            if (i < said.size() && at_s < begins_s + kTogether_s)
                continue;
            if (i > first && at_s > begins_s)
                cues.push_back({{begins_s, at_s}, writer.speaker().own(join(said, first, i))});
            first = i;
            begins_s = std::max(begins_s, at_s);
        }
    }
    std::erase_if(cues, [](const Cue& cue) { return cue.span.end_s <= 0.0; });
    return cues;
}

std::vector<Cue> filmChapters(const LessonWriter& writer) {
    std::vector<Cue> cues;
    for (std::size_t p = 0; p < writer.breakdown().phrases.size(); ++p)
        if (!writer.breakdown().phrases[p].left_out)
            cues.push_back({writer.breakdown().phrases[p].span, writer.phraseTitle(p)});
    return cues;
}

namespace {

// A text in paragraphs: what belongs to one bar on one line.
std::string inBars(const Speaker& speaker, const std::string& text) {
    std::string bar = capital(speaker.words().say("words.bar", {{"n", {}}}));
    std::string html;
    for (std::size_t from = 0; from <= text.size();) {
        const std::size_t end = std::min(text.find('\n', from), text.size());
        const std::string line = text.substr(from, end - from);
        if (from > 0)
            html += line.starts_with(bar) ? "<br>" : " ";
        html += escapedXml(line);
        from = end + 1;
    }
    return html;
}

} // namespace

std::string handoutHtml(const LessonWriter& writer,
                        const std::vector<Stumble>& stumbles,
                        const std::string& title) {
    std::string html = "<h1>" + escapedXml(title) + "</h1>\n<ul>";
    for (const Sentence& sentence : writer.introduction())
        html += "<li>" + escapedXml(sentence.text) + "</li>";
    html += "</ul>\n";
    const auto& steps = writer.breakdown().steps;
    std::size_t shown = writer.breakdown().phrases.size();
    for (std::size_t s = 0; s < steps.size(); ++s) {
        const bool of_one = steps[s].phrases.size() == 1 && !steps[s].relief;
        if (of_one && steps[s].phrases[0] != shown) {
            shown = steps[s].phrases[0];
            html += "<h3>" + escapedXml(writer.phraseTitle(shown)) + "</h3>\n";
        }
        html += "<p><b>" +
                escapedXml(of_one ? writer.kindTitle(steps[s]) : writer.stepTitle(steps[s])) +
                ":</b> " + inBars(writer.speaker(), writer.step(s).text) + "</p>\n";
    }
    constexpr std::size_t kMost = 12;
    if (!stumbles.empty())
        html += "<h3>" + escapedXml(writer.speaker().words().say("page.stumbles")) + "</h3>\n<ul>";
    for (std::size_t i = 0; i < std::min(kMost, stumbles.size()); ++i)
        html += "<li>" + escapedXml(writer.stumbleText(stumbles[i])) + " " +
                escapedXml(writer.remedyText(stumbles[i])) + "</li>";
    return html + (stumbles.empty() ? "" : "</ul>\n");
}

} // namespace wirenote
