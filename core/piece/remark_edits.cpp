// Edits that say something of what stands there, and of what belongs to the piece beside its notes:
// why it was set, what may be left out, what stays open, its score on paper.
#include "base/text.h"
#include "piece/edits.h"

#include <algorithm>
#include <string_view>

namespace wirenote {
namespace {

std::string_view wordOf(SetWhy why) {
    switch (why) {
    case SetWhy::Misheard:
        return "it was misheard";
    case SetWhy::Score:
        return "a score has it so";
    case SetWhy::Memory:
        return "from memory";
    case SetWhy::Taste:
        return "a matter of taste";
    case SetWhy::Asked:
        return "somebody was asked";
    case SetWhy::Unsaid:
        break;
    }
    return "nobody says why";
}

} // namespace

Status PieceEditor::sayWhy(const std::vector<NoteId>& notes, SetWhy why) {
    bool any = false;
    for (const NoteId id : notes) {
        std::size_t i = 0;
        if (const Status found = located(id, i); !found)
            return found;
        const auto say = [&](auto& decision) {
            if (!decision.isSet())
                return;
            decision.set(decision.value, why);
            any = true;
        };
        Note& note = m_piece.notes[i];
        say(note.existence);
        say(note.time);
        say(note.pitch);
        say(plan(i).position);
        say(plan(i).finger);
        say(plan(i).stroke);
        log("set, and why: " + std::string(wordOf(why)), id);
    }
    if (!any)
        return badCall("nothing of this was set by a person: decide or accept it first");
    return {};
}

Status PieceEditor::setNeed(NoteId id, const Need& need) {
    std::size_t i = 0;
    if (const Status found = located(id, i); !found)
        return found;
    if (!(need.above_bpm >= 0.0 && need.above_bpm <= kFastestTempo_bpm))
        return badCall("a tempo is a number of beats a minute");
    m_piece.notes[i].need = need.kind == Necessity::Ordinary ? Need{} : need;
    m_piece.notes[i].need.when = cleanText(need.when);
    log(need.kind == Necessity::MayGo      ? "may be left out"
        : need.kind == Necessity::MustLand ? "must land"
                                           : "neither left out nor a landing",
        id);
    return {};
}

Status PieceEditor::leaveOpen(NoteId id, DoubtKind kind, std::string word) {
    std::size_t i = 0;
    if (const Status found = located(id, i); !found)
        return found;
    auto& left = m_piece.notes[i].left_open;
    std::erase_if(left, [kind](const LeftOpen& one) { return one.kind == kind; });
    left.push_back({kind, cleanText(word)});
    log("left open on purpose", id);
    return {};
}

Status PieceEditor::askAgain(NoteId id) {
    std::size_t i = 0;
    if (const Status found = located(id, i); !found)
        return found;
    m_piece.notes[i].left_open.clear();
    log("to be asked again", id);
    return {};
}

Status PieceEditor::setLesson(LessonPlan plan, const std::string& what) {
    if (const Status sound = checkLesson(plan); !sound)
        return badCall(sound.error().message);
    m_piece.lesson = std::move(plan);
    log(what, 0);
    return {};
}

Status PieceEditor::addPaper(PaperScore paper) {
    if (m_piece.papers.size() >= kMaxPapers)
        return badCall("a piece holds at most " + std::to_string(kMaxPapers) + " scores on paper");
    m_piece.papers.push_back(std::move(paper));
    log("score on paper added", 0);
    return {};
}

Status PieceEditor::removePaper(std::size_t index) {
    if (index >= m_piece.papers.size())
        return badCall("there is no such score");
    m_piece.papers.erase(m_piece.papers.begin() + static_cast<std::ptrdiff_t>(index));
    log("score on paper removed", 0);
    return {};
}

Status PieceEditor::pin(std::size_t paper, const PagePin& pin) {
    if (paper >= m_piece.papers.size())
        return badCall("there is no such score");
    if (pin.page < 0 || pin.page >= kMaxPages || !(pin.x >= 0.0 && pin.x <= 1.0) ||
        !(pin.y >= 0.0 && pin.y <= 1.0) || pin.bar < 0 || pin.bar > kMostBars)
        return badCall("a bar is pinned to a place on a page");
    auto& pins = m_piece.papers[paper].pins;
    std::erase_if(pins, [&](const PagePin& one) { return one.bar == pin.bar; });
    if (pins.size() >= kMaxPins)
        return badCall("this score has " + std::to_string(kMaxPins) + " pins already");
    pins.insert(std::ranges::upper_bound(pins, pin.bar, {}, &PagePin::bar), pin);
    log("bar " + std::to_string(pin.bar) + " pinned to a score", 0);
    return {};
}

Status PieceEditor::unpin(std::size_t paper, int bar) {
    if (paper >= m_piece.papers.size() ||
        std::erase_if(m_piece.papers[paper].pins,
                      [bar](const PagePin& one) { return one.bar == bar; }) == 0)
        return badCall("that bar is not pinned");
    log("bar " + std::to_string(bar) + " unpinned", 0);
    return {};
}

} // namespace wirenote
