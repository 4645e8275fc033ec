#!/usr/bin/env python3
"""Holds every #include against the arrows that are drawn, and the arrows against docs/architecture.md.

  tools/check_arrows.py ROOT

An arrow counts where it is drawn: what a target includes from, it has to name itself in its CMakeLists.txt, for
sources and headers, libraries, programs and tests. What only its sources need is drawn as PRIVATE. Arrows make no
circle. The table of docs/architecture.md says for each library exactly the arrows that CMake has.
"""
import os, re, sys

ROOT = os.path.abspath(sys.argv[1])
LIBRARIES = ("core", "media", "vision", "stand-ins", "session", "painting", "app")
PROGRAMS = ("cli", "bench", "fuzz", "tools/training", "app")
# What the first folder of an include belongs to, where it is not the target of that name.
OWNER = {"demo": "standin_demo", "camera": "standin_camera"}
# What the table calls a target.
CALLED = {"media_device": "media (device)", "standin_demo": "stand-ins/demo", "standin_camera": "stand-ins/camera"}


def read(*path):
    with open(os.path.join(ROOT, *path), encoding="utf-8") as file:
        return file.read()


def arrows_in(text):
    return set(re.findall(r"\bwirenote_([a-z_]+)\b", text)) - {"flags", "fuzzing"}


class Target:
    def __init__(self, name, files, public, private):
        self.name, self.files, self.public, self.private = name, files, public, private

    def arrows(self):
        return self.public | self.private


def libraries():
    found = {}
    for folder in LIBRARIES:
        taken = set()
        for body in re.findall(r"wirenote_library\((.*?)\)\n", read(folder, "CMakeLists.txt"), re.S):
            parts = re.split(r"\b(SOURCES|PRIVATE_DEPENDS|DEPENDS)\b", body)
            words = dict(zip(parts[1::2], parts[2::2]))
            sources = [os.path.join(folder, s) for s in words["SOURCES"].split()]
            files = set(sources) | {s[:-4] + ".h" for s in sources}
            taken |= files
            found[parts[0].strip()] = Target(parts[0].strip(), files, arrows_in(words.get("DEPENDS", "")), arrows_in(words.get("PRIVATE_DEPENDS", "")))
        # Headers without a source belong to the first library that has sources beside them.
        for at, _, names in os.walk(os.path.join(ROOT, folder)):
            at = os.path.relpath(at, ROOT)
            for name in names:
                path = os.path.join(at, name)
                if name.endswith(".h") and path not in taken:
                    for target in found.values():
                        if any(os.path.dirname(f) == at for f in target.files):
                            target.files.add(path)
                            break
    return found


def programs():
    for folder in PROGRAMS:
        text = read(folder, "CMakeLists.txt")
        links = arrows_in(" ".join(re.findall(r"target_link_libraries\((.*?)\)", text, re.S)))
        sources = [f for f in os.listdir(os.path.join(ROOT, folder)) if f.endswith((".cpp", ".h"))]
        if folder == "app":
            sources = ["main.cpp"]
            links = arrows_in(re.search(r"target_link_libraries\(wirenote (.*?)\)", text, re.S).group(1))
        yield Target("the programs of " + folder, {os.path.join(folder, f) for f in sources}, set(), links)
    text = read("tests", "CMakeLists.txt")
    for body in re.findall(r"wirenote_test\((.*?)\)\n", text, re.S):
        parts = re.split(r"\b(SOURCES|DEPENDS)\b", body)
        words = dict(zip(parts[1::2], parts[2::2]))
        files = {os.path.join("tests", s) for s in words["SOURCES"].split() if not s.startswith("$")}
        yield Target("test_" + parts[0].split()[0], files, set(), arrows_in(words["DEPENDS"]))
    for name, sources in re.findall(r"add_executable\((\w+) ([^)]*)\)", text):
        links = arrows_in("".join(re.findall(r"target_link_libraries\(%s (.*?)\)" % name, text, re.S)))
        yield Target(name, {os.path.join("tests", s) for s in sources.split() if not s.startswith("$")}, set(), links)


def owner_of(include):
    return "media_device" if include == "media/device_output.h" else OWNER.get(include.split("/")[0], include.split("/")[0])


def includes_of(path, root, seen):
    """What a file includes; of the tests' own support files, what they include."""
    for include in re.findall(r'#include "([^"]+)"', read(path)):
        support = os.path.join(root, include)
        if not include.startswith("support/"):
            yield include
        elif support not in seen:
            seen.add(support)
            yield from includes_of(support, root, seen)


def check_includes(target, known, wrong):
    needed, in_headers = set(), set()
    for path in sorted(f for f in target.files if os.path.exists(os.path.join(ROOT, f))):
        for include in includes_of(path, "tests", set()):
            owner = owner_of(include)
            if owner not in known or owner == target.name:
                continue
            needed.add(owner)
            if path.endswith(".h"):
                in_headers.add(owner)
            if owner not in target.arrows():
                wrong.append("%s includes %s, but %s has no arrow to %s" % (path, include, target.name, owner))
    for owner in sorted(target.arrows() - needed):
        wrong.append("%s has an arrow to %s and includes nothing of it" % (target.name, owner))
    if target.name in known:
        for owner in sorted(target.public & needed - in_headers):
            wrong.append("%s needs %s only in its sources: draw the arrow as PRIVATE" % (target.name, owner))
        for owner in sorted(target.private & in_headers):
            wrong.append("%s needs %s in a header: draw the arrow as public" % (target.name, owner))


def check_circles(known, wrong):
    done, way = set(), []

    def visit(name):
        if name in way:
            wrong.append("a circle: " + " → ".join(way[way.index(name):] + [name]))
        elif name not in done:
            way.append(name)
            for other in sorted(known[name].arrows() & set(known)):
                visit(other)
            way.pop()
            done.add(name)

    for name in known:
        visit(name)


def check_table(known, wrong):
    rows = {}
    for row in re.findall(r"^\| (.*) \|$", read("docs", "architecture.md"), re.M):
        cells = [c.strip() for c in row.split(" | ")]
        if len(cells) == 3:
            rows[cells[0].replace("`", "").replace("core/", "")] = set(re.split(r"[,;] *", cells[2]))
    for name, target in known.items():
        said = rows.get(CALLED.get(name, name))
        drawn = {CALLED.get(a, a) for a in target.arrows()}
        if said is None:
            wrong.append("docs/architecture.md has no row for %s" % name)
        elif drawn - said or {s for s in said if s in {CALLED.get(k, k) for k in known}} - drawn:
            wrong.append("docs/architecture.md says that %s uses %s; CMake says %s" % (name, ", ".join(sorted(said)), ", ".join(sorted(drawn))))


def main():
    known, wrong = libraries(), []
    for target in list(known.values()) + list(programs()):
        check_includes(target, known, wrong)
    check_circles(known, wrong)
    check_table(known, wrong)
    print("\n".join(wrong) or "All includes follow the arrows, and the map is true.")
    return 1 if wrong else 0


if __name__ == "__main__":
    sys.exit(main())
