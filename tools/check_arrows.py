#!/usr/bin/env python3
"""Compares the #includes of every folder with the arrows its CMake target declares.

A header is visible to every folder, so that only the linker would notice a missing arrow, and not for
header-only code. This test notices all of them.
"""
import os, re, sys

ROOT = sys.argv[1]
CMAKE = ("core", "media", "vision", "stand-ins", "session", "app")
# What the first folder of an include belongs to.
OWNER = {"media": "media", "vision": "vision", "session": "session", "app": "app", "instrument": "standin_instrument", "demo": "standin_demo"}


def targets():
    """Target → (its folders, the targets it may include from)."""
    found = {}
    for folder in CMAKE:
        text = open(os.path.join(ROOT, folder, "CMakeLists.txt"), encoding="utf-8").read()
        for body in re.findall(r"wirenote_library\((.*?)\)\n", text, re.S):
            name = body.split()[0]
            depends = re.findall(r"wirenote_([a-z_]+)", body)
            sources = re.search(r"SOURCES(.*?)DEPENDS", body, re.S).group(1).split()
            found[name] = ([os.path.join(ROOT, folder, s) for s in sources], set(depends))
    return found


def reachable(name, graph):
    seen, todo = set(), [name]
    while todo:
        at = todo.pop()
        if at not in seen:
            seen.add(at)
            todo += graph[at][1] if at in graph else []
    return seen


def owner_of(include, target):
    head = include.split("/")[0]
    if include == "media/device_output.h":
        return "media_device"
    return OWNER.get(head, head)


def main():
    graph = targets()
    wrong = []
    for target, (sources, _) in graph.items():
        allowed = reachable(target, graph)
        files = set(sources) | {s[:-4] + ".h" for s in sources}
        for path in sorted(f for f in files if os.path.exists(f)):
            for include in re.findall(r'#include "([^"]+)"', open(path, encoding="utf-8").read()):
                owner = owner_of(include, target)
                if owner in graph and owner not in allowed:
                    wrong.append("%s includes %s, but %s has no arrow to %s" % (os.path.relpath(path, ROOT), include, target, owner))
    print("\n".join(wrong) or "All includes follow the arrows.")
    return 1 if wrong else 0


if __name__ == "__main__":
    sys.exit(main())
