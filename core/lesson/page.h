// The page of a lesson: one HTML file that needs no network.
#pragma once

#include "lesson/pictures.h"
#include "lesson/wording.h"

#include <string>
#include <vector>

namespace wirenote {

// A play-along beside the page.
struct PageSound {
    double tempo = 1.0;
    std::string file; // relative to the page
};
struct PagePhrase {
    std::string tab_svg;           // an <svg> element; empty: none
    std::vector<PageSound> sounds; // the slowest first
};
// The performance made slower, with the moments at which phrases begin.
struct PageFilm {
    double tempo = 1.0;
    std::string file; // relative to the page
    bool has_picture = false;
    struct Place {
        std::size_t phrase = 0; // of the breakdown
        double at_s = 0.0;      // in the file
    };
    std::vector<Place> places;
};
struct PageFile {
    std::string file, what;
};
// What a page says beside the steps.
struct PageContent {
    std::string title, subtitle;
    std::string exactness; // one line
    int version = 1;
    std::vector<PagePhrase> phrases; // by phrase of the breakdown
    std::vector<PageSound> whole;
    std::vector<PageFilm> films; // empty: no recording goes with it
    std::vector<PageFile> files; // what else is in the pack
    bool only_free = false;      // leaves out what is not free
};

// Works from disk, by keyboard, with a screen reader and on paper: headings, names and labels
// everywhere, no script or style from elsewhere (its content policy forbids them), native players.
// Stumbles are told at the phrase in which they lie, the likeliest three of each.
std::string lessonPage(const LessonWriter& writer,
                       const std::vector<Stumble>& stumbles,
                       const PageContent& content);

} // namespace wirenote
