#include "app/transport.h"

#include "app/document.h"
#include "instrument/render.h"

#include <algorithm>

namespace wirenote::app {
namespace {
constexpr int kTick_ms = 16;
constexpr int kRenderDelay_ms = 250;
} // namespace

Transport::Transport(Document& document, std::unique_ptr<SoundOutput> device, QObject* parent)
    : QObject(parent), m_document(document), m_player(kPlayingRateHz),
      m_output(device ? std::move(device) : makeSimulatedOutput()) {
    m_timer.setInterval(kTick_ms);
    m_render_soon.setSingleShot(true);
    m_render_soon.setInterval(kRenderDelay_ms);
    connect(&m_timer, &QTimer::timeout, this, &Transport::tick);
    connect(&m_render_soon, &QTimer::timeout, this, &Transport::renderTab);
    connect(&document, &Document::opened, this, [this] {
        pause();
        m_player.setTake(m_document.take().sound);
        m_player.setTab(nullptr);
        m_tab_stale = true;
        setLoop({});
        seek(0.0);
        if (!m_document.take().sound)
            setListening(Listening::Tab);
    });
    connect(&document, &Document::changed, this, [this] {
        m_player.setTake(m_document.take().sound);
        m_tab_stale = true;
        if (m_listening != Listening::Take)
            m_render_soon.start();
    });
}

Transport::~Transport() {
    m_output->stop();
}

void Transport::toggle() {
    m_playing ? pause() : play();
}

void Transport::play() {
    if (!m_document.isOpen() || m_playing)
        return;
    if (m_listening != Listening::Take && m_tab_stale) {
        m_play_when_rendered = true;
        renderTab();
        return;
    }
    if (m_playhead_s >= m_player.length_s() - 0.01)
        m_playhead_s = 0.0;
    if (m_loop && !m_loop->contains(m_playhead_s))
        m_playhead_s = m_loop->start_s;
    m_player.setLoop(m_once ? std::nullopt : m_loop);
    m_player.seek(m_playhead_s);
    startOutput();
    m_playing = true;
    m_timer.start();
    emit changed();
}

void Transport::startOutput() {
    m_player.restartCount();
    if (m_output->start(m_player, kPlayingRateHz))
        return;
    // The device is there but does not open: go on in silence, and the window says so.
    m_output = makeSimulatedOutput();
    m_player.restartCount();
    static_cast<void>(
        m_output->start(m_player, kPlayingRateHz)); // the simulated device always starts
}

void Transport::pause() {
    m_play_when_rendered = false;
    if (!m_playing)
        return;
    m_output->stop();
    m_timer.stop();
    m_playing = false;
    m_once.reset();
    m_player.seek(m_playhead_s);
    emit changed();
}

void Transport::seek(double time_s) {
    m_once.reset();
    m_playhead_s = std::clamp(time_s, 0.0, std::max(0.0, m_document.length_s()));
    m_player.seek(m_playhead_s);
    emit moved();
}

void Transport::setLoop(std::optional<TimeRange> loop) {
    m_loop = loop && loop->length_s() > 0.02 ? loop : std::nullopt;
    m_player.setLoop(m_loop);
    emit changed();
}

void Transport::setListening(Listening what) {
    m_listening = what;
    m_player.setListening(what);
    if (what != Listening::Take && m_tab_stale)
        renderTab();
    emit changed();
}

void Transport::playOnce(TimeRange span) {
    pause();
    seek(span.start_s);
    m_once = span;
    play();
}

void Transport::tick() {
    m_playhead_s = m_player.heardAt(m_output->framesHeard());
    if (m_once && m_playhead_s >= m_once->end_s) {
        const double back = m_once->start_s;
        pause();
        seek(back);
        return;
    }
    if (m_player.atEnd() && m_playhead_s >= m_player.length_s() - 0.005)
        pause();
    emit moved();
}

void Transport::renderTab() {
    if (!m_document.isOpen())
        return;
    auto result = std::make_shared<std::shared_ptr<const Sound>>();
    standin::RenderOptions options;
    options.rate_hz = kPlayingRateHz;
    if (m_document.piece().take)
        options.a4_hz = m_document.piece().take->reference.a4_hz;
    m_tab_stale = false;
    m_rendering.run({},
                    [this, result, options, piece = m_document.piece()](
                        const JobControl& job) -> std::function<void()> {
                        auto sound = standin::renderPiece(piece, options, job);
                        if (!sound)
                            return {};
                        *result = std::make_shared<const Sound>(std::move(*sound));
                        return [this, result] {
                            m_player.setTab(*result);
                            if (m_play_when_rendered) {
                                m_play_when_rendered = false;
                                play();
                            }
                        };
                    });
}

} // namespace wirenote::app
