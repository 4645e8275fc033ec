// The words of the open formats for the enumerations of a piece, both ways.
#pragma once

#include "piece/reading.h"
#include "piece/take.h"

#include <optional>
#include <string>
#include <string_view>

namespace wirenote {

std::string_view wordFor(Basis basis);
std::string_view wordFor(Technique technique);
std::string_view wordFor(Finger finger); // "" for unknown, "0" open, "1".."4", "T"
std::string_view wordFor(Stroke stroke); // "" for unknown
std::string_view wordFor(ReasonKind kind);
std::string_view wordFor(FrettingSchool school);
std::string_view wordFor(FrettingRule rule);
// The word of the school and those of the rules, joined by +: "box+roll+lift".
std::string wordsFor(const FrettingManner& manner);
std::string_view wordFor(WishKind kind);
std::string_view wordFor(PluckingTool tool);     // "" for unknown
std::string_view wordFor(PluckingSchool school); // "" for unknown
std::string_view wordFor(TakeKind kind);
std::string_view wordFor(ChannelChoice choice);
std::string_view wordFor(TakeRights rights);
std::string_view wordFor(SoundCaution caution);
std::string_view wordFor(DemonstrationKind kind);
std::string_view wordFor(Voice voice); // "upper", "lower"
std::string_view wordFor(SetWhy why);  // "" for unsaid
std::string_view wordFor(DoubtKind kind);
std::string_view wordFor(Necessity kind);
std::string_view wordFor(DepartureWhy why); // "" for none
std::string_view wordFor(Exactness exactness);
std::string_view wordFor(SoundKind kind); // "playing", "talk-over-playing" …

std::optional<Basis> basisFrom(std::string_view word);
std::optional<Technique> techniqueFrom(std::string_view word);
std::optional<Finger> fingerFrom(std::string_view word);
std::optional<Stroke> strokeFrom(std::string_view word);
std::optional<ReasonKind> reasonFrom(std::string_view word);
// Also the word that earlier files had for it.
std::optional<FrettingSchool> frettingSchoolFrom(std::string_view word);
std::optional<FrettingRule> frettingRuleFrom(std::string_view word);
std::optional<FrettingManner> frettingMannerFrom(std::string_view words);
std::optional<WishKind> wishKindFrom(std::string_view word);
std::optional<PluckingTool> toolFrom(std::string_view word);
std::optional<PluckingSchool> pluckingSchoolFrom(std::string_view word);
std::optional<TakeKind> takeKindFrom(std::string_view word);
std::optional<ChannelChoice> channelsFrom(std::string_view word);
std::optional<TakeRights> rightsFrom(std::string_view word);
std::optional<SoundKind> soundKindFrom(std::string_view word);
std::optional<DemonstrationKind> demonstrationKindFrom(std::string_view word);
std::optional<Voice> voiceFrom(std::string_view word);
std::optional<SetWhy> setWhyFrom(std::string_view word);
std::optional<DoubtKind> doubtKindFrom(std::string_view word);
std::optional<Necessity> necessityFrom(std::string_view word);
std::optional<DepartureWhy> departureWhyFrom(std::string_view word);
std::optional<Exactness> exactnessFrom(std::string_view word);
std::optional<SoundCaution> cautionFrom(std::string_view word);

} // namespace wirenote
