#include "app/playing/transport.h"

#include "app/document/document.h"
#include "app/strip/take_sounds.h"
#include "music/pitch.h"
#include "session/masked_source.h"
#include "sounding/render.h"

#include <algorithm>
#include <cmath>

namespace wirenote::app {
namespace {
constexpr int kTick_ms = 16;
constexpr int kRenderDelay_ms = 250;
constexpr double kRestAfter_s = 45.0 * 60.0; // common practice: a break before an hour is over
constexpr double kMatched_rms = 0.09;
constexpr double kUsualGain = 0.8;
constexpr double kMostGain = 6.0;

double rmsOf(const Sound& sound) {
    double power = 0.0;
    for (const float v : sound.samples)
        power += static_cast<double>(v) * v;
    return sound.samples.empty() ? 0.0
                                 : std::sqrt(power / static_cast<double>(sound.samples.size()));
}

double matchedGain(double rms) {
    return rms > 1e-5 ? std::min(kMostGain, kMatched_rms / rms) : kUsualGain;
}
} // namespace

Transport::Transport(Document& document,
                     TakeSounds& sounds,
                     std::unique_ptr<SoundOutput> device,
                     QObject* parent)
    : QObject(parent), m_document(document), m_sounds(sounds), m_player(kPlayingRateHz),
      m_output(device ? std::move(device) : makeSimulatedOutput()) {
    m_timer.setInterval(kTick_ms);
    m_render_soon.setSingleShot(true);
    m_render_soon.setInterval(kRenderDelay_ms);
    m_player.workAhead(true);
    connect(&m_timer, &QTimer::timeout, this, &Transport::tick);
    connect(&m_render_soon, &QTimer::timeout, this, &Transport::renderTab);
    connect(&document, &Document::opened, this, &Transport::opened);
    connect(&document, &Document::changed, this, &Transport::edited);
    connect(&sounds, &TakeSounds::changed, this, [this] {
        if (m_listen.level_match)
            applySettings();
    });
}

Transport::~Transport() {
    m_output->stop();
    m_player.workAhead(false);
}

void Transport::opened() {
    pause();
    m_take = 0;
    m_demonstration.reset();
    m_part = SoundPart::All;
    m_player.setTab(nullptr);
    m_tab_stale = true;
    m_listen.speed = 1.0;
    m_listen.semitones = 0.0;
    m_listen.band.reset();
    m_listening = m_document.media(0) ? Listening::Take : Listening::Tab;
    useTake(0.0);
    setLoop({});
    seek(0.0);
}

// Only what matters for sound reaches the player.
void Transport::edited(const Changes& what) {
    if (what.notes || what.plans || what.instrument) {
        m_tab_stale = true;
        if (m_listening != Listening::Take)
            m_render_soon.start();
    }
    if (what.takes) {
        const auto& takes = m_document.piece().takes;
        m_take = std::min(m_take, takes.empty() ? 0 : takes.size() - 1);
        if (!shown())
            m_demonstration.reset();
        useTake(m_playhead_s);
    } else if (m_part != SoundPart::All && (what.notes || what.plans)) {
        useTake(m_playhead_s);
    } else if (what.timeline) {
        applySettings(); // the click follows the beats
    }
    if (what.takes)
        emit changed();
}

const Demonstration* Transport::shown() const {
    const auto& takes = m_document.piece().takes;
    if (!m_demonstration || m_take >= takes.size() ||
        *m_demonstration >= takes[m_take].demonstrations.size())
        return nullptr;
    const Demonstration& one = takes[m_take].demonstrations[*m_demonstration];
    return one.inPiece() ? &one : nullptr;
}

TakeAlignment Transport::clock() const {
    const auto& takes = m_document.piece().takes;
    TakeAlignment found = m_take < takes.size() ? takes[m_take].alignment : TakeAlignment{};
    if (const Demonstration* one = shown()) {
        found.stretches = {one->moments};
        found.semitones = one->semitones;
    }
    return found;
}

void Transport::useTake(std::optional<double> go_on_s) {
    const TakeMedia* media = m_document.media(m_take);
    std::shared_ptr<StereoSource> source;
    if (media)
        source = media->playing;
    if (source && m_part != SoundPart::All && m_take < m_document.piece().takes.size()) {
        const Piece& piece = m_document.piece();
        Take take = piece.takes[m_take];
        take.alignment = clock();
        source = partOf(source, piece, take, m_part, m_part_note);
    }
    if (m_listen.without_drums)
        source = withoutDrums(source);
    m_player.setTake(source, go_on_s ? std::optional<double>(takeTime(*go_on_s)) : std::nullopt);
    m_tab_stale = true; // the tab follows the clock of the take
    applySettings();
    applyLoop();
    if (m_listening != Listening::Take)
        m_render_soon.start();
}

double Transport::takeGain() const {
    const auto& takes = m_document.piece().takes;
    const double own = m_take < takes.size() ? std::pow(10.0, takes[m_take].gain_db / 20.0) : 1.0;
    const Overview* overview = m_listen.level_match ? m_sounds.overview(m_take) : nullptr;
    return own * (overview ? matchedGain(std::sqrt(overview->power)) : kUsualGain);
}

// A choice is judged against the take, where there is one.
Listening Transport::listeningNow() const {
    if (!m_audition)
        return m_listening;
    if (!m_audition->notes.empty())
        return Listening::Tab;
    const bool recorded = m_document.media(m_take) != nullptr;
    return m_audition->open_strings ? (recorded ? Listening::Both : Listening::Tab)
           : recorded               ? Listening::Take
                                    : Listening::Tab;
}

void Transport::applySettings() {
    PlayerSettings s;
    s.what = listeningNow();
    s.speed = m_listen.speed;
    s.semitones = m_listen.semitones;
    const auto& takes = m_document.piece().takes;
    const double a4 = m_take < takes.size() ? takes[m_take].reference.a4_hz : kStandardA4Hz;
    if (m_listen.band)
        s.band = HearingBand{hzFromMidi(m_listen.band->low_midi - 0.5, a4),
                             hzFromMidi(m_listen.band->high_midi + 0.5, a4)};
    s.channels = m_take < takes.size() ? takes[m_take].channels : ChannelChoice::Mix;
    s.take_gain = takeGain();
    s.tab_gain = m_listen.level_match && m_tab_rms > 0.0 ? matchedGain(m_tab_rms) : kUsualGain;
    s.limit = std::pow(10.0, m_listen.limit_db / 20.0);
    const bool beats = m_audition && m_audition->beats;
    s.click = beats || (m_listen.click && !m_audition);
    const Timeline& timeline = beats ? *m_audition->beats : m_document.piece().timeline;
    const TakeAlignment follows = clock();
    const BarGrid grid(timeline);
    for (std::size_t i = 0; i < timeline.beats_s.size(); ++i)
        s.beats.push_back(
            {follows.toTake({timeline.beats_s[i]}).s, grid.isDownbeat(static_cast<int>(i))});
    m_player.change(s);
}

void Transport::applyLoop() {
    if (!m_loop || m_once) {
        m_player.setLoop({});
        return;
    }
    const double start_s = std::max(0.0, m_loop->start_s - m_listen.lead_in_s);
    m_player.setLoop(TimeRange{takeTime(start_s), takeTime(m_loop->end_s)});
}

void Transport::toggle() {
    m_playing || m_play_when_rendered ? pause() : play();
}

double Transport::endOfSound() const {
    return clock().toPiece({m_player.length_s()}).s;
}

void Transport::play() {
    if (!m_document.isOpen() || m_playing)
        return;
    if (listeningNow() != Listening::Take && m_tab_stale) {
        m_play_when_rendered = true;
        renderTab();
        return;
    }
    if (m_playhead_s >= endOfSound() - 0.01)
        m_playhead_s = 0.0;
    if (m_loop && !m_once && !m_loop->contains(m_playhead_s))
        m_playhead_s = std::max(0.0, m_loop->start_s - m_listen.lead_in_s);
    applyLoop();
    applySettings();
    startOutput();
    m_playing = true;
    m_since_heard.invalidate();
    m_timer.start();
    emit changed();
}

void Transport::startOutput() {
    m_player.restartCount();
    const double bpm = m_document.piece().timeline.tempo_bpm;
    const double beat_s = (bpm > 0.0 ? 60.0 / bpm : 0.5) / m_listen.speed;
    m_player.seek(takeTime(m_playhead_s), m_once ? 0 : m_listen.count_in, beat_s);
    if (m_output->start(m_player, kPlayingRateHz))
        return;
    // The device is there but does not open: go on in silence, and the window says so.
    m_output = makeSimulatedOutput();
    static_cast<void>(
        m_output->start(m_player, kPlayingRateHz)); // the simulated device always starts
}

void Transport::pause() {
    m_play_when_rendered = false;
    if (!m_playing) {
        endAudition(); // that waited for its strings
        return;
    }
    m_output->stop();
    m_timer.stop();
    m_playing = false;
    m_once.reset();
    endAudition();
    emit changed();
}

void Transport::endAudition() {
    if (!m_audition)
        return;
    m_tab_stale |= m_audition->ownSound();
    m_audition.reset();
    applySettings();
}

void Transport::seek(double time_s) {
    m_once.reset();
    m_playhead_s = std::clamp(time_s, 0.0, std::max(0.0, m_document.length_s()));
    if (m_playing) {
        applyLoop();
        m_player.seek(takeTime(m_playhead_s));
    }
    emit moved();
}

void Transport::back(double seconds) {
    const bool was_playing = m_playing;
    seek(m_playhead_s - seconds);
    if (!was_playing)
        play();
}

void Transport::setLoop(std::optional<TimeRange> loop) {
    m_loop = loop && loop->length_s() > 0.02 ? loop : std::nullopt;
    applyLoop();
    emit changed();
}

void Transport::setListening(Listening what) {
    m_listening = what;
    applySettings();
    if (what != Listening::Take && m_tab_stale)
        renderTab();
    emit changed();
}

void Transport::setDemonstration(std::size_t take, std::size_t demonstration) {
    const auto& takes = m_document.piece().takes;
    if (take >= takes.size() || demonstration >= takes[take].demonstrations.size() ||
        !takes[take].demonstrations[demonstration].inPiece())
        return;
    m_take = take;
    m_demonstration = demonstration;
    useTake(m_playhead_s);
    emit changed();
    emit moved();
}

void Transport::setTake(std::size_t take) {
    if (take >= m_document.piece().takes.size() || (take == m_take && !m_demonstration))
        return;
    m_take = take;
    m_demonstration.reset();
    useTake(m_playhead_s);
    emit changed();
    emit moved();
}

void Transport::setListen(const ListenSettings& listen) {
    if (listen == m_listen)
        return;
    const bool other_sound = listen.without_drums != m_listen.without_drums;
    m_listen = listen;
    if (other_sound)
        useTake(m_playhead_s);
    applySettings();
    applyLoop();
    emit changed();
}

void Transport::setPart(SoundPart part, NoteId note) {
    if (part == m_part && (part == SoundPart::All || note == m_part_note))
        return;
    m_part = part;
    m_part_note = note;
    if (part != SoundPart::All && m_listening == Listening::Tab)
        m_listening = Listening::Take; // only a recording has parts to take away
    useTake(m_playhead_s);
    emit changed();
}

void Transport::playOnce(TimeRange span) {
    pause();
    seek(span.start_s);
    m_once = span;
    play();
}

void Transport::audition(Audition choice) {
    pause();
    seek(choice.span.start_s);
    m_tab_stale |= choice.ownSound();
    m_once = choice.span;
    m_audition = std::move(choice);
    play();
}

namespace {

// The notes of which that is true, with their places.
template <class Is> void keepOnly(Piece& piece, const Is& is) {
    Piece kept = piece;
    kept.notes.clear();
    kept.readings = {Reading{piece.asPlayed().head, {}}};
    for (std::size_t i = 0; i < piece.notes.size(); ++i)
        if (is(piece.notes[i])) {
            kept.notes.push_back(piece.notes[i]);
            kept.asPlayed().plans.push_back(piece.asPlayed().plans[i]);
        }
    piece = std::move(kept);
}

} // namespace

// The open strings one after the other, the thickest first, where a choice of strings is heard.
Piece Transport::soundingPiece() const {
    Piece piece = m_document.piece();
    if (m_audition && !m_audition->notes.empty()) {
        keepOnly(piece, [&ids = m_audition->notes](const Note& note) {
            return std::ranges::find(ids, note.id) != ids.end();
        });
        for (Note& note : piece.notes)
            note.time.value.end_s = m_audition->span.end_s;
    }
    if (!m_audition || !m_audition->open_strings)
        return piece;
    constexpr double kEach_s = 0.55;
    piece.instrument = *m_audition->open_strings;
    piece.notes.clear();
    piece.asPlayed().plans.clear();
    for (int string = piece.instrument.stringCount(); string >= 1; --string) {
        Note note;
        note.id = static_cast<NoteId>(piece.notes.size() + 1);
        const double at_s =
            m_audition->span.start_s + kEach_s * static_cast<double>(piece.notes.size());
        note.time.value = {at_s, at_s + 2.0 * kEach_s};
        note.pitch.value = piece.instrument.midiAt({string, 0});
        NotePlan plan;
        plan.note = note.id;
        plan.position.value = {string, 0};
        piece.notes.push_back(std::move(note));
        piece.asPlayed().plans.push_back(plan);
    }
    return piece;
}

// A device that was pulled out takes no sound any more and says nothing.
bool Transport::deviceIsGone() {
    constexpr int kPatience_ms = 3000;
    const std::int64_t heard = m_output->framesHeard();
    if (heard != m_heard_last || !m_since_heard.isValid()) {
        m_heard_last = heard;
        m_since_heard.start();
    }
    return m_since_heard.hasExpired(kPatience_ms);
}

void Transport::tick() {
    if (deviceIsGone()) {
        pause();
        m_output = makeSimulatedOutput();
        emit deviceLost();
        emit changed();
        return;
    }
    m_playhead_s = std::max(0.0, clock().toPiece({m_player.heardAt(m_output->framesHeard())}).s);
    m_listened_s += kTick_ms / 1000.0;
    if (m_listened_s >= kRestAfter_s) {
        m_listened_s = 0.0;
        emit restAdvised(static_cast<int>(kRestAfter_s / 60.0));
    }
    if (m_once && m_playhead_s >= m_once->end_s) {
        const double back = m_once->start_s;
        pause();
        seek(back);
        return;
    }
    if (m_player.atEnd() && m_playhead_s >= endOfSound() - 0.005)
        pause();
    emit moved();
}

// The tab is played in the clock and at the pitch of the take it is heard against.
void Transport::renderTab() {
    if (!m_document.isOpen())
        return;
    RenderOptions options;
    options.rate_hz = kPlayingRateHz;
    Piece piece = soundingPiece();
    if (m_take < piece.takes.size()) {
        const Take& take = piece.takes[m_take];
        const TakeAlignment follows = clock();
        options.a4_hz = take.reference.a4_hz * std::exp2(follows.semitones / 12.0);
        if (const Demonstration* one = shown())
            keepOnly(piece, [of = one->ofPiece()](const Note& note) {
                return of.contains(note.onset_s());
            });
        for (Note& note : piece.notes)
            note.time.value = {std::max(0.0, follows.toTake({note.onset_s()}).s),
                               std::max(0.02, follows.toTake({note.offset_s()}).s)};
    }
    piece.takes.clear(); // no longer than its notes
    m_tab_stale = false;
    m_rendering
        .run({},
             [options, piece = std::move(piece)](const JobControl& job) {
                 return renderPiece(piece, options, job);
             })
        .then([this](Result<Sound> sound) {
            if (!sound)
                return;
            const auto tab = std::make_shared<const Sound>(std::move(*sound));
            m_tab_rms = rmsOf(*tab);
            m_player.setTab(std::make_shared<MemorySource>(tab));
            applySettings();
            if (m_play_when_rendered) {
                m_play_when_rendered = false;
                play();
            }
        });
}

} // namespace wirenote::app
