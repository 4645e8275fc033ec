#include "media/device_output.h"

#include <QAudioFormat>
#include <QAudioSink>
#include <QIODevice>
#include <QMediaDevices>
#include <algorithm>
#include <chrono>
#include <cstring>
#include <vector>

namespace wirenote {
namespace {

constexpr int kBuffer_ms = 60;

class Pull : public QIODevice {
  public:
    explicit Pull(SoundSource& source) : m_source(source) {}
    bool isSequential() const override { return true; }
    qint64 bytesAvailable() const override { return 1 << 20; }

  protected:
    qint64 readData(char* data, qint64 size) override {
        const auto frames = static_cast<std::size_t>(size) / (2 * sizeof(float));
        m_block.resize(frames * 2);
        m_source.fill(m_block);
        std::memcpy(data, m_block.data(), m_block.size() * sizeof(float));
        return static_cast<qint64>(m_block.size() * sizeof(float));
    }
    qint64 writeData(const char*, qint64) override { return -1; }

  private:
    SoundSource& m_source;
    std::vector<float> m_block;
};

// The device reports its progress in lumps; between two reports the steady clock goes on for it.
class DeviceOutput : public SoundOutput {
  public:
    ~DeviceOutput() override { DeviceOutput::stop(); }

    Status start(SoundSource& source, double rate_hz) override {
        stop();
        QAudioFormat format;
        format.setSampleRate(static_cast<int>(rate_hz));
        format.setChannelCount(2);
        format.setSampleFormat(QAudioFormat::Float);
        m_rate_hz = rate_hz;
        m_pull = std::make_unique<Pull>(source);
        m_pull->open(QIODevice::ReadOnly);
        m_sink = std::make_unique<QAudioSink>(QMediaDevices::defaultAudioOutput(), format);
        m_sink->setBufferSize(static_cast<qsizetype>(rate_hz * kBuffer_ms / 1000) * 2 *
                              static_cast<qsizetype>(sizeof(float)));
        m_sink->start(m_pull.get());
        m_last_us = 0;
        m_heard = 0;
        if (m_sink->error() != QAudio::NoError) {
            stop();
            return Error{ErrorKind::BadInput, {}, "the sound device cannot be opened"};
        }
        return {};
    }
    void stop() override {
        if (m_sink)
            m_sink->stop();
        m_sink.reset();
        m_pull.reset();
    }
    std::int64_t framesHeard() const override {
        if (!m_sink)
            return m_heard;
        const auto now = std::chrono::steady_clock::now();
        const qint64 us = m_sink->processedUSecs();
        if (us != m_last_us) {
            m_last_us = us;
            m_last_change = now;
        }
        const std::chrono::duration<double> since = now - m_last_change;
        const double heard_s = static_cast<double>(m_last_us) * 1e-6 +
                               (m_last_us > 0 ? std::min(since.count(), 0.1) : 0.0);
        m_heard = std::max(m_heard, static_cast<std::int64_t>(heard_s * m_rate_hz));
        return m_heard;
    }
    bool simulated() const override { return false; }

  private:
    std::unique_ptr<Pull> m_pull;
    std::unique_ptr<QAudioSink> m_sink;
    double m_rate_hz = 44100.0;
    mutable qint64 m_last_us = 0;
    mutable std::chrono::steady_clock::time_point m_last_change;
    mutable std::int64_t m_heard = 0;
};

} // namespace

std::unique_ptr<SoundOutput> makeDeviceOutput() {
    if (QMediaDevices::defaultAudioOutput().isNull())
        return nullptr;
    return std::make_unique<DeviceOutput>();
}

} // namespace wirenote
