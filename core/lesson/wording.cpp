#include "lesson/wording.h"

#include "music/chord_names.h"
#include "piece/lesson_words.h"

#include <algorithm>
#include <cmath>
#include <set>

namespace wirenote {
namespace {

std::string keyOf(const char* group, const char* key) {
    return std::string(group) + "." + key;
}

} // namespace

LessonWriter::LessonWriter(const LessonFacts& facts,
                           const Breakdown& breakdown,
                           const Speaker& speaker)
    : m_facts(facts), m_breakdown(breakdown), m_speaker(speaker) {}

std::string LessonWriter::whenOf(const LessonMoment& moment) const {
    return m_speaker.barBeat(moment.metre, moment.place);
}

std::string LessonWriter::barsOf(const TeachPhrase& phrase) const {
    return m_speaker.bars(phrase.first_bar, phrase.last_bar);
}

std::string LessonWriter::barsOf(const std::vector<std::size_t>& phrases) const {
    int first = m_breakdown.phrases[phrases.front()].first_bar;
    int last = first;
    for (const std::size_t p : phrases) {
        first = std::min(first, m_breakdown.phrases[p].first_bar);
        last = std::max(last, m_breakdown.phrases[p].last_bar);
    }
    return m_speaker.bars(first, last);
}

std::string LessonWriter::phraseTitle(std::size_t phrase) const {
    const TeachPhrase& of = m_breakdown.phrases[phrase];
    return m_speaker.words().say("page.phrase", {{"letter", of.letter}, {"bars", barsOf(of)}}) +
           (of.title.empty() ? "" : ": " + of.title);
}

std::string LessonWriter::kindTitle(const TeachStep& step) const {
    std::string kind = m_speaker.words().say(
        keyOf("steps", lesson_words::kSteps[static_cast<std::size_t>(step.kind)]));
    if (step.kind == StepKind::Slow || step.kind == StepKind::Fast)
        kind += ", " + percentText(step.tempo);
    return kind;
}

std::string LessonWriter::stepTitle(const TeachStep& step) const {
    return step.phrases.size() == 1 ? phraseTitle(step.phrases[0]) + ": " + kindTitle(step)
                                    : kindTitle(step) + ": " + barsOf(step.phrases);
}

std::vector<std::string> LessonWriter::chordsIn(const TeachPhrase& phrase) const {
    std::vector<std::string> names;
    for (const ChordSpan& chord : m_facts.chords())
        if (chord.span.start_s < phrase.span.end_s - 0.05 &&
            chord.span.end_s > phrase.span.start_s + 0.05)
            if (const std::string name = m_facts.chordName(chord);
                !name.empty() && (names.empty() || names.back() != name))
                names.push_back(name);
    return names;
}

std::vector<std::size_t> momentsToSay(const LessonFacts& facts, const TeachPhrase& phrase) {
    const auto [first, last] = facts.momentsIn(phrase.from, phrase.to);
    std::set<std::size_t> changed;
    for (const Difference& one : phrase.differences)
        if (one.kind != DifferenceKind::Missing)
            changed.insert(one.note_b);
    const bool all = !phrase.same_as || phrase.transposed != 0;
    std::vector<std::size_t> moments;
    for (std::size_t m = first; m < last; ++m)
        if (all || std::ranges::any_of(facts.moments()[m].notes,
                                       [&](std::size_t note) { return changed.contains(note); }))
            moments.push_back(m);
    return moments;
}

std::vector<Sentence> sameWords(const LessonWriter& writer, const TeachPhrase& phrase) {
    if (!phrase.same_as || phrase.transposed != 0)
        return {};
    const Speaker& speaker = writer.speaker();
    const Vocabulary& words = speaker.words();
    const LessonFacts& facts = writer.facts();
    const TeachPhrase& other = writer.breakdown().phrases[*phrase.same_as];
    const bool one = phrase.first_bar == phrase.last_bar;
    std::string key = "sentences.same";
    if (!phrase.differences.empty())
        key += "_but";
    if (one)
        key += "_one";
    std::vector<Sentence> said = {{capital(
        words.say(key, {{"bars", writer.barsOf(phrase)}, {"other", writer.barsOf(other)}}))}};
    for (const Difference& difference : phrase.differences) {
        const bool gone = difference.kind == DifferenceKind::Missing;
        const auto noteName = [&](std::size_t note) {
            return speaker.note(facts.piece().notes[note].midi());
        };
        const Rational at = phrase.from + difference.at;
        const std::string beat = speaker.barBeat(facts.metreAt(at), facts.placeAt(at));
        std::string text;
        switch (difference.kind) {
        case DifferenceKind::Missing:
            text = words.say("sentences.without",
                             {{"note", noteName(difference.note_a)}, {"beat", beat}});
            break;
        case DifferenceKind::Added:
            text = words.say("sentences.with",
                             {{"note", noteName(difference.note_b)}, {"beat", beat}});
            break;
        case DifferenceKind::Pitch:
            text = words.say("sentences.instead",
                             {{"note", noteName(difference.note_b)},
                              {"other", noteName(difference.note_a)},
                              {"beat", beat}});
            break;
        case DifferenceKind::Moved: {
            const Rational now = at + difference.later;
            text = words.say("sentences.later",
                             {{"note", noteName(difference.note_b)},
                              {"beat", speaker.barBeat(facts.metreAt(now), facts.placeAt(now))},
                              {"other", beat}});
            break;
        }
        }
        said.push_back({capital(text) + ".",
                        gone ? std::vector<NoteId>{}
                             : std::vector<NoteId>{facts.piece().notes[difference.note_b].id}});
    }
    return said;
}

std::vector<Sentence> LessonWriter::introduction() const {
    const Vocabulary& words = m_speaker.words();
    const Piece& piece = m_facts.piece();
    std::vector<Sentence> said;
    std::vector<std::string> strings;
    for (int s = piece.instrument.stringCount(); s >= 1; --s)
        strings.push_back(m_speaker.note(piece.instrument.string(s).open_midi));
    said.push_back(
        {capital(words.say("sentences.tuning", {{"strings", m_speaker.list(strings)}}))});
    if (piece.instrument.capo > 0)
        said.push_back({capital(words.say(
            "sentences.capo",
            {{"fret", words.say("words.fret", {{"n", std::to_string(piece.instrument.capo)}})}}))});
    const int fifths = piece.key.fifths;
    const std::string n = std::to_string(std::abs(fifths));
    std::string signs = words.say("sentences.key_none");
    if (fifths != 0) {
        std::string key = fifths > 0 ? "sentences.key_sharps" : "sentences.key_flats";
        if (std::abs(fifths) == 1)
            key += "_one";
        signs = words.say(key, {{"n", n}});
    }
    said.push_back({capital(words.say("sentences.key", {{"signs", signs}}))});
    for (const std::size_t p : m_breakdown.left_out())
        said.push_back(
            {capital(words.say("sentences.left_out", {{"bars", barsOf(m_breakdown.phrases[p])}}))});
    said.push_back({words.say("sentences.caution")});
    return said;
}

std::vector<Sentence> LessonWriter::context(std::size_t phrase) const {
    const Vocabulary& words = m_speaker.words();
    const TeachPhrase& of = m_breakdown.phrases[phrase];
    std::vector<Sentence> said;
    said.push_back({capital(words.say(
        "sentences.length",
        {{"phrase", words.say("words.phrase", {{"letter", of.letter}})}, {"bars", barsOf(of)}}))});
    if (of.same_as && of.transposed != 0) {
        const TeachPhrase& other = m_breakdown.phrases[*of.same_as];
        said.push_back({capital(words.say("sentences.same_but_one",
                                          {{"bars", barsOf(of)}, {"other", barsOf(other)}}))});
        said.push_back(
            {capital(words.say(of.transposed > 0 ? "sentences.higher" : "sentences.lower",
                               {{"frets", std::to_string(std::abs(of.transposed))}}))});
    }
    std::vector<std::string> chords;
    for (const std::string& name : chordsIn(of))
        chords.push_back(words.say("words.chord", {{"name", name}}));
    said.push_back({chords.empty() ? words.say("sentences.no_chords")
                                   : capital(words.say("sentences.chords",
                                                       {{"chords", m_speaker.list(chords)}}))});
    if (m_speaker.manner().order == TeachingOrder::Licks)
        std::ranges::move(harmony(of), std::back_inserter(said));
    return said;
}

// Why a lick sounds as it does: what its longest note is of each chord.
std::vector<Sentence> LessonWriter::harmony(const TeachPhrase& phrase) const {
    constexpr int kOctave = 12; // semitones
    const Vocabulary& words = m_speaker.words();
    std::vector<Sentence> said;
    const auto [first, last] = m_facts.momentsIn(phrase.from, phrase.to);
    const std::vector<ChordSpan>& chords = m_facts.chords();
    for (std::size_t c = 0; c < chords.size(); ++c) {
        const std::string name = m_facts.chordName(chords[c]);
        // A chord lasts in the ear until another comes, however short it sounds.
        const TimeRange lasts = {chords[c].span.start_s,
                                 c + 1 < chords.size() ? chords[c + 1].span.start_s
                                                       : phrase.span.end_s};
        std::optional<std::size_t> longest;
        for (std::size_t m = first; m < last; ++m)
            for (const std::size_t note : m_facts.moments()[m].notes)
                if (lasts.contains(m_facts.moments()[m].time_s) &&
                    m_facts.piece().notes[note].pitched() &&
                    (!longest ||
                     m_facts.scoreNote(*longest).sounds < m_facts.scoreNote(note).sounds))
                    longest = note;
        const auto made_of = parseChord(name);
        if (!longest || !made_of)
            continue;
        const int midi = m_facts.piece().notes[*longest].midi();
        const int above = ((midi - made_of->root) % kOctave + kOctave) % kOctave;
        said.push_back(
            {capital(words.say("sentences.degree",
                               {{"chord", words.say("words.chord", {{"name", name}})},
                                {"note", m_speaker.note(midi)},
                                {"degree", words.say("words.degree_" + std::to_string(above))}})),
             {m_facts.piece().notes[*longest].id}});
    }
    return said;
}

std::string LessonWriter::percentText(double tempo) const {
    constexpr double kPerCent = 100.0;
    return m_speaker.words().say("words.percent",
                                 {{"n", std::to_string(std::lround(kPerCent * tempo))}});
}

Sentence LessonWriter::tempo(const TeachStep& step) const {
    const Vocabulary& words = m_speaker.words();
    const double bpm = m_facts.piece().timeline.tempo_bpm;
    return {capital(words.say(
        step.kind == StepKind::Slow ? "sentences.slow" : "sentences.fast",
        {{"bars", barsOf(step.phrases)},
         {"tempo",
          words.say("words.tempo", {{"n", std::to_string(std::lround(bpm * step.tempo))}})},
         {"percent", percentText(step.tempo)}}))};
}

Sentence LessonWriter::joined(const TeachStep& step) const {
    const Vocabulary& words = m_speaker.words();
    std::vector<std::string> letters;
    for (const std::size_t p : step.phrases)
        letters.push_back(words.say("words.phrase", {{"letter", m_breakdown.phrases[p].letter}}));
    return {capital(
        words.say("sentences.joined",
                  {{"phrases", m_speaker.list(letters)}, {"percent", percentText(step.tempo)}}))};
}

std::vector<Sentence> LessonWriter::layer(const TeachStep& step) const {
    const Vocabulary& words = m_speaker.words();
    const std::string bars = barsOf(step.phrases);
    const std::string n = std::to_string(step.layer);
    if (m_speaker.manner().order == TeachingOrder::VoiceByVoice)
        return {{capital(
            words.say(step.layer == 1 ? "sentences.tune" : "sentences.bass", {{"bars", bars}}))}};
    const auto& layers = m_breakdown.phrases[step.phrases.front()].layers;
    const auto at = static_cast<std::size_t>(step.layer - 1);
    if (at >= layers.size())
        return {{capital(words.say("sentences.layer_notes", {{"n", n}}))}};
    if (layers[at].on_beats)
        return {{capital(words.say("sentences.layer_beats", {{"n", n}, {"beats", bars}}))}};
    if (layers[at].strokes.empty())
        return {{capital(words.say("sentences.layer_all", {{"n", n}, {"bars", bars}}))}};
    std::vector<std::string> strokes;
    for (const Stroke stroke : layers[at].strokes)
        strokes.push_back(m_speaker.stroke(stroke));
    return {{capital(words.say("sentences.layer_only",
                               {{"n", n}, {"bars", bars}, {"strokes", m_speaker.list(strokes)}}))}};
}

std::vector<Sentence> LessonWriter::sentencesOf(std::size_t index) const {
    const TeachStep& step = m_breakdown.steps[index];
    const Vocabulary& words = m_speaker.words();
    const Vocabulary::Slots bars = {{"bars", barsOf(step.phrases)}};
    if (step.relief)
        return {{capital(words.say("sentences.relief", bars))}};
    switch (step.kind) {
    case StepKind::Whole:
        return {{capital(words.say(
            m_facts.piece().lead() ? "sentences.whole_heard" : "sentences.whole", bars))}};
    case StepKind::Context:
        return context(step.phrases[0]);
    case StepKind::Fretting: {
        std::vector<Sentence> said = frettingWords(*this, step.phrases[0]);
        std::ranges::move(easierWords(*this, step.phrases[0]), std::back_inserter(said));
        return said;
    }
    case StepKind::Plucking:
        return pluckingWords(*this, step.phrases[0]);
    case StepKind::Together:
        return {{capital(words.say("sentences.together", bars))}};
    case StepKind::Slow:
        return {tempo(step)};
    case StepKind::Fast: {
        std::vector<Sentence> said = {tempo(step)};
        const auto next = std::find_if(m_breakdown.phrases.begin() +
                                           static_cast<std::ptrdiff_t>(step.phrases.back()) + 1,
                                       m_breakdown.phrases.end(),
                                       [](const TeachPhrase& p) { return p.taught(); });
        if (next != m_breakdown.phrases.end())
            said.push_back({capital(words.say("sentences.next", {{"bars", barsOf(*next)}}))});
        return said;
    }
    case StepKind::Joined:
        return {joined(step)};
    case StepKind::Layer:
        return layer(step);
    }
    return {};
}

StepText LessonWriter::step(std::size_t index) const {
    constexpr double kSame_s = 0.02;
    const TeachStep& step = m_breakdown.steps[index];
    StepText text;
    text.sentences = sentencesOf(index);
    for (Sentence& sentence : text.sentences) {
        sentence.text = m_speaker.own(sentence.text);
        text.made += (text.made.empty() ? "" : "\n") + sentence.text;
    }
    text.text = text.made;
    if (step.phrases.size() != 1 || step.relief)
        return text;
    for (const OwnWords& own : m_facts.piece().lesson.words)
        if (own.step == step.kind && own.layer == step.layer &&
            std::abs(own.phrase_s - m_breakdown.phrases[step.phrases[0]].span.start_s) < kSame_s) {
            text.text = own.text;
            text.edited = true;
            text.made_anew = own.instead_of != text.made;
        }
    return text;
}

std::string LessonWriter::stumbleText(const Stumble& stumble) const {
    const Vocabulary& words = m_speaker.words();
    const auto note = m_facts.piece().indexOf(stumble.note);
    const std::string text = words.say(
        keyOf("stumbles", lesson_words::kStumbles[static_cast<std::size_t>(stumble.kind)]),
        {{"when", m_speaker.barBeat(m_facts.metreAt(stumble.at), m_facts.placeAt(stumble.at))},
         {"strings", stumble.place.string > 0 ? m_speaker.string(stumble.place.string) : ""},
         {"fret", words.say("words.fret", {{"n", std::to_string(stumble.place.fret)}})},
         {"finger", m_speaker.finger(stumble.finger)},
         {"place", stumble.place.string > 0 ? m_speaker.place(stumble.place) : ""},
         {"from", stumble.from.string > 0 ? m_speaker.string(stumble.from.string) : ""},
         {"to", stumble.place.string > 0 ? m_speaker.string(stumble.place.string) : ""},
         {"stroke", m_speaker.stroke(stumble.stroke)},
         {"note", note ? m_speaker.note(m_facts.piece().notes[*note].midi()) : ""},
         {"remark", stumble.remark}});
    return capital(m_speaker.own(text));
}

std::string LessonWriter::remedyText(const Stumble& stumble) const {
    return m_speaker.own(m_speaker.words().say(
        keyOf("remedies", lesson_words::kStumbles[static_cast<std::size_t>(stumble.kind)])));
}

} // namespace wirenote
