// Everything the core can say has words for players.
#include "app/text/wording.h"

#include <gtest/gtest.h>
#include <set>

namespace wirenote::app {
namespace {

TEST(Wording, EveryReasonHasWordsWithoutHoles) {
    std::set<QString> said;
    for (int kind = 0; kind <= static_cast<int>(ReasonKind::NothingFits); ++kind) {
        const QString text =
            reasonTitle({static_cast<ReasonKind>(kind), Basis::Reasoned, 3, 5, 0.5});
        EXPECT_FALSE(text.isEmpty()) << "kind " << kind;
        EXPECT_FALSE(text.contains('%')) << text.toStdString();
        EXPECT_TRUE(said.insert(text).second) << "said twice: " << text.toStdString();
    }
    EXPECT_EQ(reasonTitle({ReasonKind::DecayFits, Basis::Heard, 3, 5, 0.0}),
              "dies away as on string 3, unlike string 5");
    EXPECT_EQ(reasonTitle({ReasonKind::FingerPerFret, Basis::Reasoned, 3, 5, 0.0}),
              "one finger per fret from fret 5");
}

TEST(Wording, EveryToolInstrumentAndTechniqueHasWords) {
    std::set<QString> said;
    for (const PluckingTool tool :
         {PluckingTool::Unknown, PluckingTool::Pick, PluckingTool::Fingers})
        EXPECT_TRUE(said.insert(toolText(tool)).second);
    for (int kind = 0; kind <= static_cast<int>(InstrumentKind::Bass5); ++kind)
        EXPECT_TRUE(said.insert(instrumentText(static_cast<InstrumentKind>(kind))).second) << kind;
    const Note note;
    for (int technique = 0; technique < kTechniqueCount; ++technique)
        EXPECT_FALSE(techniqueText(note, static_cast<Technique>(technique)).isEmpty()) << technique;
    EXPECT_FALSE(said.contains(QString()));
}

} // namespace
} // namespace wirenote::app
