#pragma once

#include "app/card.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QSlider>
#include <QSpinBox>

namespace wirenote::app {

class Document;
class Transport;

// A pitch chosen by its name.
class PitchBox : public QSpinBox {
    Q_OBJECT
  public:
    explicit PitchBox(QWidget* parent = nullptr);

  protected:
    QString textFromValue(int midi) const override;
    int valueFromText(const QString& text) const override;
    QValidator::State validate(QString& text, int& at) const override;
};

// How the take is heard: speed, pitch, one pitch range, click, loop and loudness.
class ListenPanel : public Card {
    Q_OBJECT
  public:
    ListenPanel(Document& document, Transport& transport, QWidget* parent = nullptr);

  private:
    void refresh();
    void apply();
    QWidget* buildSpeed();
    QWidget* buildPitch();
    QWidget* buildBand();
    QWidget* buildLoop();
    QWidget* buildLoudness();

    Document& m_document;
    Transport& m_transport;
    QSlider* m_speed;
    QLabel* m_speed_text;
    QSpinBox* m_semitones;
    QSpinBox* m_cents;
    QCheckBox* m_band;
    PitchBox* m_low;
    PitchBox* m_high;
    QCheckBox* m_without_drums;
    QCheckBox* m_click;
    QSpinBox* m_count_in;
    QDoubleSpinBox* m_lead_in;
    QCheckBox* m_match;
    QSlider* m_limit;
    QLabel* m_limit_text;
    bool m_refreshing = false;
};

} // namespace wirenote::app
