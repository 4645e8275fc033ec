#pragma once

#include "app/document/document.h"
#include "app/document/job_runner.h"
#include "formats/calibration_json.h"
#include "session/transcribe.h"

#include <QStringList>

namespace wirenote::app {

class Transport;
struct HeardEdit;

// What a person can do with the takes of a piece. Everything that changes the piece can be undone.
class TakeCommands : public QObject {
    Q_OBJECT
  public:
    TakeCommands(Document& document, Transport& transport, JobRunner& jobs);

    // More recordings of the same piece: opened, measured and lined up by their sound, one after
    // the other.
    void add(const QStringList& paths);
    void chooseStream(std::size_t take, int stream); // of several sounds in one file
    void remove(std::size_t take);
    void lineUpBySound(std::size_t take);
    // Moves a take against the piece; small steps right after each other are undone together.
    void shift(std::size_t take, double by_s);
    // The same place of the music, first in the leading take, then in another: one pair shifts the
    // other take, two pairs give its tempo too.
    void markMoment();
    void change(std::size_t take,
                const QString& label,
                const std::function<void(Take&)>& change,
                MergeKey merge = {});
    // Listens to the loop, or without one to the trim of the leading take.
    void hear();
    void hear(TimeRange span, Talk talk = Talk::Skip);
    void trimToLoop();
    void loopIs(SoundKind kind); // talk, or playing after all: heard at once then
    // Where talk or playing begins, in seconds of the take.
    void moveEdge(std::size_t take, double edge_s, double to_s);
    void setInstrument(const Instrument& instrument);
    void setFretting(const FrettingManner& manner);
    void setPluckingSchool(PluckingSchool school); // Unknown: as the notes say
    void setTool(PluckingTool tool);
    // Listens to a calibration take (each open string, then its twelfth fret, thickest first), uses
    // what it tells and keeps it in the profiles folder.
    void calibrate(const QString& recording);
    void useCalibration(const QString& file); // one that was kept
    void forgetCalibration();
    static QString profilesFolder();
    void heardFirst(); // a new recording was opened: hears it if it is not too long

    // While the take is heard: what there is so far, not yet sure, by onset.
    const std::vector<NearMiss>& heardSoFar() const { return m_so_far; }

    // How far the notes of the take are known.
    enum class Hearing { NotAsked, Running, Stopped, Heard };
    Hearing hearing() const { return m_hearing; }

    static constexpr double kHeardAtOnce_s = 15 * 60.0;

  signals:
    void heardMore();                   // or no longer
    void hearingChanged();              // runs, was stopped, or is over
    void takesToHear();                 // there is a take that nobody has listened to, or new notes
    void said(const QString& sentence); // goes by itself
    void warned(const QString& sentence); // stays until dismissed

  private:
    void placeAnew(const QString& label, const std::function<Status(PieceEditor&)>& change);
    void setHearing(Hearing hearing);
    void showSoFar(const std::vector<NearMiss>& notes);
    void addOpened(const QString& path, Result<TakeMedia> opened);
    void study(std::size_t take, const QString& title);
    void adoptCalibration(const Calibration& calibration, const QString& label);
    void adoptHeard(HeardEdit result, TimeRange span, int revision, const std::string& path);
    void adopt(const TakeStudy& study, const QString& label);

    Document& m_document;
    Transport& m_transport;
    JobRunner& m_jobs;
    std::optional<double> m_lead_moment_s; // piece time, waiting for its partner
    std::size_t m_pairs_of = 0;            // which take the pairs belong to
    TakeAlignment::Stretch m_pairs;
    std::vector<NearMiss> m_so_far;
    Hearing m_hearing = Hearing::NotAsked;
};

} // namespace wirenote::app
