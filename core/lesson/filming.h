// What belongs to filming a lesson: which pictures, what to say, and what goes with the film.
#pragma once

#include "lesson/captions.h"
#include "lesson/wording.h"

#include <string>
#include <vector>

namespace wirenote {

// Which picture is needed for which bars, so that what is said of them can be seen; phrase by
// phrase, steps marked to be filmed again first.
std::vector<std::string> shotList(const LessonWriter& writer);

// One page of the prompt: large text while filming.
struct PromptPage {
    std::size_t step = 0; // of the breakdown
    std::string title;
    std::string text;
    std::string next; // the title of what comes; empty at the end
    bool retake = false;
};
std::vector<PromptPage> promptOf(const LessonWriter& writer);

// What the fretting hand does, in the time of the leading take: each caption from its first note to
// the next caption. What begins within a second and a half is one caption.
std::vector<Cue> filmCaptions(const LessonWriter& writer);
// The phrases as chapters, in the time of the leading take.
std::vector<Cue> filmChapters(const LessonWriter& writer);

// The hand-out's text as simple HTML, without sounds and scripts: title, what to know before, each
// step, where people stumble.
std::string handoutHtml(const LessonWriter& writer,
                        const std::vector<Stumble>& stumbles,
                        const std::string& title);

} // namespace wirenote
