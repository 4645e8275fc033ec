#include "session/transcribe.h"
#include "formats/notes_json.h"
#include "base/atomic_file.h"
#include <CLI/CLI.hpp>
#include <iostream>
using namespace wirenote;
int main(int argc, char** argv) {
    CLI::App app; std::string media, out, inst="guitar", tun; int capo=0;
    auto* t=app.add_subcommand("transcribe"); t->add_option("MEDIA",media)->required(); t->add_option("--out",out)->required();
    t->add_option("--instrument",inst); t->add_option("--tuning",tun); t->add_option("--capo",capo);
    CLI11_PARSE(app,argc,argv);
    TranscribeOptions o; o.instrument=standardInstrument(*parseInstrumentName(inst));
    if(!tun.empty()&&!setTuning(o.instrument,tun)) return 2;
    if(!setCapo(o.instrument,capo)) return 2;
    auto p=transcribe(media,o,{}); if(!p){std::cerr<<p.error().sentence()<<"\n";return 3;}
    std::cerr<<"a4 "<<p->take->reference.a4_hz<<" tempo "<<p->timeline.tempo_bpm<<"\n";
    return writeFileAtomically(out,writeNotesJson(*p)).ok()?0:3;
}
