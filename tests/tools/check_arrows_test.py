"""The checker of arrows notices what it is for: each change to a copy of the sources is found and named."""
import os, shutil, subprocess, sys, tempfile

ROOT = sys.argv[1]
FOLDERS = ("core", "media", "vision", "stand-ins", "session", "painting", "app", "cli", "bench", "fuzz", "tools", "tests", "docs")
# A file, what is put in the place of what, and what is said of it.
CHANGES = (
    ("core/base/text.cpp", '#include "base/text.h"', '#include "base/text.h"\n#include "piece/piece.h"', "base has no arrow to piece"),
    ("core/base/median.h", "#pragma once", '#pragma once\n#include "music/pitch.h"', "core/base/median.h includes music/pitch.h"),
    ("core/plucking/attacks.cpp", '#include "piece/', '#include "fretting/solver.h"\n#include "piece/', "plucking has no arrow to fretting"),
    ("cli/main.cpp", "#include", '#include "hearing/hearing.h"\n#include', "the programs of cli has no arrow to hearing"),
    ("core/CMakeLists.txt", "    PRIVATE_DEPENDS wirenote_hand)", "    DEPENDS wirenote_hand)", "hearing"),
    ("vision/CMakeLists.txt", "    DEPENDS wirenote_base", "    DEPENDS wirenote_base wirenote_music", "vision has an arrow to music and includes nothing of it"),
    ("core/CMakeLists.txt", "    DEPENDS nlohmann_json", "    DEPENDS wirenote_music nlohmann_json", "a circle"),
    ("docs/architecture.md", "(`balance`) | base, music, piece |", "(`balance`) | base, music, piece, score |", "docs/architecture.md says that plucking uses"),
)


def check(root):
    done = subprocess.run([sys.executable, os.path.join(ROOT, "tools/check_arrows.py"), root], stdout=subprocess.PIPE, text=True)
    return done.returncode, done.stdout


with tempfile.TemporaryDirectory() as scratch:
    for folder in FOLDERS:
        shutil.copytree(os.path.join(ROOT, folder), os.path.join(scratch, folder), ignore=shutil.ignore_patterns("corpus", "data", "screenshots"))
    assert check(scratch)[0] == 0, check(scratch)[1]
    for path, old, new, said in CHANGES:
        path = os.path.join(scratch, path)
        with open(path, encoding="utf-8") as file:
            text = file.read()
        assert old in text, (path, old)
        with open(path, "w", encoding="utf-8") as file:
            file.write(text.replace(old, new, 1))
        status, output = check(scratch)
        assert status == 1 and said in output, (said, output)
        with open(path, "w", encoding="utf-8") as file:
            file.write(text)
print("%d changes were found" % len(CHANGES))
