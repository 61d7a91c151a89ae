#!/usr/bin/env python3
"""Reads files that were changed at random, of every format, and counts what came of it.

Usage: mutated_files.py KERVO_CLI COUNT [FORMAT…]

COUNT files of each format are made from sound ones, always the same ones for the same count. Each must be read or be
refused with a sentence: a crash, or a word from a sanitizer, ends this with 1.
"""
import concurrent.futures
import copy
import json
import os
import random
import re
import subprocess
import sys
import tempfile
import zipfile

DATA = "/usr/share/opencascade/data/occ/"
DEMO = os.path.join(os.path.dirname(__file__), "../../demo/")
SECONDS = 20
NUMBERS = [b"0", b"-1", b"1e308", b"-1e-308", b"99999999999", b"2147483648", b"nan", b"1e-7", b"''", b"$"]


def changed_text(text, random):
    """A few changes that a text format feels: numbers, lines, references, its end."""
    for _ in range(random.randint(1, 4)):
        kind = random.choice(["number", "number", "line", "swap", "cut", "bytes", "end"])
        if kind in ("number", "swap"):
            numbers = [m.span() for m in re.finditer(rb"-?\d+\.?\d*(?:[eE][-+]?\d+)?", text)]
            if not numbers:
                continue
            start, end = random.choice(numbers)
            other = random.choice(numbers)
            with_ = random.choice(NUMBERS) if kind == "number" else text[other[0]:other[1]]
            text = text[:start] + with_ + text[end:]
        elif kind == "line":
            lines = text.split(b"\n")
            i = random.randrange(len(lines))
            lines[i:i + 1] = random.choice([[], [lines[i]] * 2, [random.choice(lines)]])
            text = b"\n".join(lines)
        else:
            text = changed_bytes(text, random, kind)
    return text


def places_in(value, path=()):
    """The paths to all values inside of a JSON value."""
    inside = value.items() if isinstance(value, dict) else enumerate(value) if isinstance(value, list) else ()
    for key, part in inside:
        yield path + (key,)
        yield from places_in(part, path + (key,))


def changed_json(text, random):
    """A document whose JSON stays sound: values replaced, left out, doubled, exchanged."""
    if random.random() < 0.3:
        return changed_text(text, random)
    document = json.loads(text)
    for _ in range(random.randint(1, 3)):
        places = list(places_in(document))
        if not places:
            break

        def holder_of(path):
            holder = document
            for key in path[:-1]:
                holder = holder[key]
            return holder

        path, other = random.choice(places), random.choice(places)
        holder, last = holder_of(path), path[-1]
        kind = random.choice(["value", "value", "other", "gone", "twice"])
        if kind == "value":
            holder[last] = random.choice([0, -1, 1e308, 1e-320, "", "1/0", "10 mm", "kerf", "xy", [], {}, None, True,
                                          "a" * 10000, [[]] * 50, "0.001 mm", "1e7 mm", "sqrt(-1) * 1 mm", "\u202e"])
        elif kind == "other":
            holder[last] = copy.deepcopy(holder_of(other)[other[-1]])
        elif kind == "gone":
            del holder[last]
        elif isinstance(holder, list):
            holder.insert(last, copy.deepcopy(holder[last]))
    return json.dumps(document).encode()


def changed_bytes(data, random, kind=None):
    kind = kind or random.choice(["bytes", "bytes", "number", "cut", "end"])
    if not data:
        return data
    at = random.randrange(len(data))
    if kind == "end":
        return data[:at]
    if kind == "cut":
        return data[:at] + data[at + random.randint(1, 200):]
    if kind == "number":
        return data[:at] + random.choice([b"\xff\xff\xff\x7f", b"\xff" * 8, b"\0" * 8, b"\0\0\0\x80"]) + data[at + 4:]
    changed = bytearray(data)
    for _ in range(random.randint(1, 8)):
        changed[random.randrange(len(changed))] = random.randrange(256)
    return bytes(changed)


def changed_document(path, random):
    """A .kervo or .3mf file: changed as a file, or in one of its entries."""
    with open(path, "rb") as file:
        data = file.read()
    if random.random() < 0.25:
        return changed_bytes(data, random)
    with zipfile.ZipFile(path) as archive:
        entries = {name: archive.read(name) for name in archive.namelist()}
    name = random.choice(sorted(entries))
    change = changed_json if name.endswith(".json") else changed_bytes
    if name.endswith((".model", ".rels", ".xml")):
        change = changed_text
    entries[name] = change(entries[name], random)
    with tempfile.TemporaryFile() as file:
        with zipfile.ZipFile(file, "w") as archive:
            for name, content in entries.items():
                archive.writestr(name, content)
        file.seek(0)
        return file.read()


def run(cli, arguments):
    return subprocess.run([cli, "--time-limit", str(SECONDS), "--memory-limit", "4000", *arguments],
                          stdin=subprocess.DEVNULL, stdout=subprocess.DEVNULL, stderr=subprocess.PIPE,
                          timeout=3 * SECONDS, check=False)


def sound_files(cli, folder):
    """For each format: the sound files to begin with."""
    bodies = [DATA + name for name in ("Ball.brep", "hammer.brep", "MODERN_Table_1.brep", "face1.brep", "Pump_Nut.brep")]
    result = {"brep": bodies, "step": [], "kervo": [DEMO + "mast-clamp.kervo"],
              "json": [DEMO + "mast-clamp.json", DEMO + "battery-crate.json"]}
    meshes = ("stl", "obj", "ply", "3mf", "glb", "ifc")
    result |= {form: [] for form in ("igs", *meshes)}
    for i, source in enumerate([DEMO + "mast-clamp.json", *bodies[:3]]):
        # Of triangles two are enough.
        for form in ("step", "kervo", "igs") if i > 1 else ("step", "kervo", "igs", *meshes):
            path = os.path.join(folder, f"sound{i}.{form}")
            ended = run(cli, ["convert", source, path, "--tolerance", "0.5", "--angle", "30"])
            if ended.returncode != 0 and form == "igs":
                continue  # what it does not hold faithfully is not written
            if ended.returncode != 0:
                raise SystemExit(f"{source} could not be converted: {ended.stderr.decode(errors='replace')[-3000:]}")
            result[form].append(path)
    return result


def outcome(cli, form, path, folder, parts):
    """parts: what can be read of a broken file is wanted."""
    arguments = ["info", path] if form in ("kervo", "json") else ["convert", path, os.path.join(folder, "out.kervo")]
    if parts and arguments[0] == "convert":
        arguments.append("--parts")
    try:
        ended = run(cli, arguments)
    except subprocess.TimeoutExpired:
        return "wrong", "it did not end"
    said = ended.stderr.decode(errors="replace")
    if ended.returncode not in (0, 1, 3) or "Sanitizer" in said or "runtime error" in said:
        return "wrong", f"exit code {ended.returncode}: {said[-3000:]}"
    if "time limit" in said:
        return "time limit", said
    if "enough memory" in said:
        return "memory limit", said
    if ended.returncode != 0 and not said.strip():
        return "wrong", "it was refused without a word"
    return ("read" if ended.returncode == 0 else "refused"), said


def check(cli, form, number, sources):
    chance = random.Random(f"{form} {number}")
    source = chance.choice(sources)
    with tempfile.TemporaryDirectory() as folder:
        path = os.path.join(folder, f"changed.{form}")
        if form in ("kervo", "3mf"):
            data = changed_document(source, chance)
        else:
            with open(source, "rb") as file:
                change = {"json": changed_json, "glb": changed_bytes, "stl": changed_bytes, "ply": changed_bytes}
                data = change.get(form, changed_text)(file.read(), chance)
        with open(path, "wb") as file:
            file.write(data)
        kind, said = outcome(cli, form, path, folder, parts=number % 2 == 1)
        if kind == "wrong":
            kept = os.path.join(tempfile.gettempdir(), f"kervo-wrong-{form}-{number}.{form}")
            with open(kept, "wb") as file:
                file.write(data)
            said = f"{kept} (from {os.path.basename(source)}): {said}"
        return kind, said


def main():
    cli, count, forms = sys.argv[1], int(sys.argv[2]), sys.argv[3:]
    wrong = 0
    with tempfile.TemporaryDirectory() as folder:
        sources = sound_files(cli, folder)
        with concurrent.futures.ThreadPoolExecutor(os.cpu_count()) as pool:
            for form in forms or sorted(sources):
                found = list(pool.map(lambda i, form=form: check(cli, form, i, sources[form]), range(count)))
                kinds = [kind for kind, _ in found]
                counts = ", ".join(f"{kinds.count(k)} {k}" for k in
                                   ("read", "refused", "time limit", "memory limit", "wrong") if k in kinds)
                print(f"{form}: {counts}", flush=True)
                reports = [said for kind, said in found if kind == "wrong"]
                wrong += len(reports)
                print("\n".join(reports[:5] + [said[:200] for said in reports[5:]]), end="", file=sys.stderr)
    return 1 if wrong else 0


if __name__ == "__main__":
    sys.exit(main())
