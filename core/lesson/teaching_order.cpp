#include "lesson/teaching_order.h"

#include <algorithm>
#include <optional>

namespace wirenote {
namespace {

constexpr std::size_t kMostJoined = 8; // phrases; more is a section of its own
constexpr double kHard = 0.8;          // hardness after which a hand wants a rest
constexpr double kMinutesForSteps = 60.0;

// How often something is played while it is taught: a working figure, common practice.
double repetitions(StepKind kind) {
    switch (kind) {
    case StepKind::Whole:
        return 1.5;
    case StepKind::Context:
        return 2.0;
    case StepKind::Fretting:
    case StepKind::Plucking:
        return 12.0;
    case StepKind::Together:
    case StepKind::Layer:
        return 8.0;
    case StepKind::Slow:
        return 6.0;
    case StepKind::Fast:
    case StepKind::Joined:
        return 4.0;
    }
    return 1.0;
}

class Plan {
  public:
    Plan(const std::vector<TeachPhrase>& phrases, const TeachingManner& manner)
        : m_phrases(phrases), m_manner(manner) {
        for (std::size_t i = 0; i < phrases.size(); ++i) {
            if (!phrases[i].left_out)
                m_all.push_back(i);
            if (phrases[i].taught())
                m_taught.push_back(i);
        }
    }

    const std::vector<std::size_t>& all() const { return m_all; }
    const std::vector<std::size_t>& taught() const { return m_taught; }
    std::vector<TeachStep> steps() && { return std::move(m_steps); }

    void add(StepKind kind, std::vector<std::size_t> of, double tempo, int layer = 0) {
        if (of.empty())
            return;
        TeachStep step{kind, std::move(of), tempo, layer, false, 0.0};
        for (const std::size_t p : step.phrases)
            step.minutes += repetitions(kind) * m_phrases[p].span.length_s() /
                            (tempo > 0.0 ? tempo : 0.5) / kMinutesForSteps;
        m_steps.push_back(std::move(step));
    }
    // Every tempo but the last as "slow", the last as "fast".
    void speeds(std::size_t phrase) {
        std::vector<double> tempi = m_manner.tempi;
        std::ranges::sort(tempi);
        for (std::size_t i = 0; i < tempi.size(); ++i)
            add(i + 1 < tempi.size() ? StepKind::Slow : StepKind::Fast, {phrase}, tempi[i]);
    }
    // What has been taught of this section so far, in one go; after something hard the easiest of
    // it first.
    void join(std::size_t phrase) {
        if (!m_joined.empty() && (m_joined.size() >= kMostJoined || beginsSection(phrase)))
            m_joined.clear();
        relieve(phrase);
        // What comes again between them is played too.
        const std::size_t from = m_joined.empty() ? phrase : m_joined.back() + 1;
        for (std::size_t p = from; p <= phrase; ++p)
            if (!m_phrases[p].left_out)
                m_joined.push_back(p);
        if (m_joined.size() > 1)
            add(StepKind::Joined, m_joined, slowest());
    }
    // What is known already and closes the piece.
    void close() {
        if (m_all.size() > 1)
            add(StepKind::Joined, m_all, 1.0);
    }
    double slowest() const {
        return m_manner.tempi.empty() ? 1.0 : *std::ranges::min_element(m_manner.tempi);
    }

  private:
    bool beginsSection(std::size_t phrase) const {
        return !m_phrases[phrase].title.empty() && !m_phrases[phrase].set;
    }
    void relieve(std::size_t phrase) {
        if (m_phrases[phrase].hardness < kHard)
            return;
        std::optional<std::size_t> easiest;
        for (const std::size_t p : m_joined)
            if (!easiest || m_phrases[p].hardness < m_phrases[*easiest].hardness)
                easiest = p;
        if (!easiest || m_phrases[*easiest].hardness >= kHard)
            return;
        add(StepKind::Together, {*easiest}, slowest());
        m_steps.back().relief = true;
    }

    const std::vector<TeachPhrase>& m_phrases;
    const TeachingManner& m_manner;
    std::vector<std::size_t> m_all, m_taught, m_joined;
    std::vector<TeachStep> m_steps;
};

void phraseByPhrase(Plan& plan, StepKind first, StepKind second) {
    for (const std::size_t p : plan.taught()) {
        plan.add(StepKind::Context, {p}, 0.0);
        plan.add(first, {p}, 0.0);
        plan.add(second, {p}, 0.0);
        plan.add(StepKind::Together, {p}, 0.0);
        plan.speeds(p);
        plan.join(p);
    }
}

void handByHand(Plan& plan) {
    for (const StepKind hand : {StepKind::Fretting, StepKind::Plucking})
        for (const std::size_t p : plan.taught())
            plan.add(hand, {p}, 0.0);
    for (const std::size_t p : plan.taught()) {
        plan.add(StepKind::Together, {p}, 0.0);
        plan.speeds(p);
        plan.join(p);
    }
}

// Layer 1: the tune; layer 2: the bass; layer 3: both.
void voiceByVoice(Plan& plan) {
    for (const std::size_t p : plan.taught()) {
        plan.add(StepKind::Context, {p}, 0.0);
        plan.add(StepKind::Layer, {p}, 0.0, 1);
        plan.add(StepKind::Layer, {p}, 0.0, 2);
        plan.add(StepKind::Fretting, {p}, 0.0);
        plan.add(StepKind::Plucking, {p}, 0.0);
        plan.add(StepKind::Together, {p}, 0.0);
        plan.speeds(p);
        plan.join(p);
    }
}

void lickByLick(Plan& plan) {
    for (const std::size_t p : plan.taught()) {
        plan.add(StepKind::Whole, {p}, 1.0);
        plan.add(StepKind::Context, {p}, 0.0);
        plan.add(StepKind::Fretting, {p}, 0.0);
        plan.add(StepKind::Plucking, {p}, 0.0);
        plan.speeds(p);
    }
}

// The plucking hand layer by layer, then what the other hand holds.
void inLayers(Plan& plan, const std::vector<TeachPhrase>& phrases) {
    for (const std::size_t p : plan.taught()) {
        plan.add(StepKind::Context, {p}, 0.0);
        const int layers = static_cast<int>(phrases[p].layers.size());
        for (int layer = 1; layer <= layers; ++layer)
            plan.add(StepKind::Layer, {p}, 0.0, layer);
        plan.add(StepKind::Plucking, {p}, 0.0);
        plan.add(StepKind::Layer, {p}, 0.0, layers + 1);
        plan.add(StepKind::Fretting, {p}, 0.0);
        plan.speeds(p);
        plan.join(p);
    }
}

} // namespace

std::vector<TeachStep>
stepsOf(const std::vector<TeachPhrase>& phrases, const TeachingManner& manner, bool one_voice) {
    Plan plan(phrases, manner);
    plan.add(StepKind::Whole, plan.all(), 1.0);
    switch (manner.order) {
    case TeachingOrder::FrettingFirst:
        phraseByPhrase(plan, StepKind::Fretting, StepKind::Plucking);
        break;
    case TeachingOrder::PluckingFirst:
        phraseByPhrase(plan, StepKind::Plucking, StepKind::Fretting);
        break;
    case TeachingOrder::HandByHand:
        handByHand(plan);
        break;
    case TeachingOrder::VoiceByVoice:
        if (one_voice)
            phraseByPhrase(plan, StepKind::Fretting, StepKind::Plucking);
        else
            voiceByVoice(plan);
        break;
    case TeachingOrder::Licks:
        lickByLick(plan);
        break;
    case TeachingOrder::Layers:
        inLayers(plan, phrases);
        break;
    }
    plan.close();
    return std::move(plan).steps();
}

} // namespace wirenote
