"""Checks what a seat was given of a table's shuffles, with Python's own library alone: python3 verify.py fair.ndjson

It does what ./wily verify does of docs/fairness.md, but for the orders that come with the seed.
"""

import hashlib
import json
import sys


def message(tag, *fields):
    parts = [b"wily-jester fair/1 " + tag.encode() + b"\x00"]
    for field in fields:
        field = field if isinstance(field, bytes) else str(field).encode()
        parts.append(len(field).to_bytes(4, "big") + field)
    return b"".join(parts)


def hashed(tag, *fields):
    return hashlib.sha256(message(tag, *fields)).digest()


def canonical(value):
    return json.dumps(value, sort_keys=True, separators=(",", ":"), ensure_ascii=False)


def root_from(leaf, place, cards, path):
    """The root that a leaf and its path lead to (RFC 6962, 2.1), or None where the path is not that of this place."""
    if cards == 1:
        return leaf if place == 1 and not path else None
    if not path or not 1 <= place <= cards:
        return None
    split = 1 << (cards - 1).bit_length() - 1
    if place <= split:
        inner = root_from(leaf, place, split, path[:-1])
        return inner and hashlib.sha256(b"\x01" + inner + path[-1]).digest()
    inner = root_from(leaf, place - split, cards - split, path[:-1])
    return inner and hashlib.sha256(b"\x01" + path[-1] + inner).digest()


def check(agrees, wrong):
    if not agrees:
        sys.exit(wrong)


def main():
    with open(sys.argv[1], encoding="utf-8") as file:
        lines = [json.loads(line) for line in file if line.strip()]
    last, agree, cards, shuffles, shuffle = "", 0, 0, 0, None
    for line in lines:
        kind = line["fair"]
        if kind == "table":
            facts = hashed("table", canonical(line["facts"]))
            check(facts.hex() == line["hash"], "The table, its sheet, settings, seats or deck are not those that the promises are about.")
            promises, shown = ([""] * len(line["facts"]["seats"]) for _ in range(2))
        elif kind == "service":
            service = bytes.fromhex(line["commitment"])
        elif kind == "promise":
            promises[line["seat"] - 1] = bytes.fromhex(line["promise"])
        elif kind == "frozen":
            frozen = hashed("frozen", facts, service, *promises)
            check(frozen.hex() == line["hash"], "The list of promises that was frozen is another one.")
        elif kind == "show":
            shown[line["seat"] - 1] = bytes.fromhex(line["bytes"])
            agrees = hashed("seat", facts, service, line["seat"], shown[line["seat"] - 1]) == promises[line["seat"] - 1]
            check(agrees, f"Seat {line['seat']} showed something else than it had promised.")
        elif kind == "ready":
            opening = hashed("shown", frozen, *shown)
            check(opening.hex() == line["opening"], "What all keys come from is something else.")
        elif kind == "shuffle":
            shuffle, shuffles = line, shuffles + 1
        elif kind == "card":
            cards += 1
            name = f"{line['face']} at place {line['place']} of shuffle {line['shuffle']}"
            check(shuffle and shuffle["shuffle"] == line["shuffle"], f"{name}: there is no such shuffle before it.")
            parts = (shuffle["shuffle"], shuffle["cards"], line["place"], line["face"], bytes.fromhex(line["salt"]))
            leaf = hashlib.sha256(b"\x00" + message("leaf", opening, *parts)).digest()
            root = root_from(leaf, line["place"], shuffle["cards"], [bytes.fromhex(step) for step in line["path"]])
            check(root and root.hex() == shuffle["root"], f"{name}: it was not promised.")
            agree += 1
        elif kind == "earlier":
            last = line["hash"]
        elif kind == "seed":
            agrees = hashed("service", facts, bytes.fromhex(line["seed"])) == service
            check(agrees, "The seed is not the one that was promised.")
        if "after" in line:
            check(line["after"] == last, f"A line ({kind}) does not follow the one before it.")
            last = hashed("line", canonical(line)).hex()
    letters = "abcdefghijklmnopqrstuvwxyz234567"
    head = "".join(letters[int(last[:34], 16) >> 131 - 5 * i & 31] for i in range(26))
    check(lines[-1].get("head") == head, "The fingerprint is not that of these lines.")
    print(f"{agree} of {cards} cards agree; {shuffles} shuffles were promised before they were dealt; fingerprint {head}.")


main()
