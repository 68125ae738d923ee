"""Checks what a seat was given of a table's shuffles, with Python's own library alone: python3 verify.py fairness.json

It does what ./wily verify does of docs/fairness.md, but for the orders that come with the seed.
"""

import hashlib
import hmac
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


def opening(given):
    """The hash of what was promised before anything was dealt."""
    facts = json.dumps(given["facts"], sort_keys=True, separators=(",", ":"), ensure_ascii=False)
    table = hashed("table", facts)
    if table.hex() != given["table"]:
        sys.exit("The table, its sheet, settings, seats or deck are not those that the promises are about.")
    promised = bytes.fromhex(given["commitment"])
    nothing = [""] * len(given["facts"]["seats"])
    gave = given.get("gave", {"promises": nothing, "shown": nothing})
    for seat, (promise, shown) in enumerate(zip(gave["promises"], gave["shown"], strict=True), 1):
        if promise != (shown and hashed("seat", table, promised, seat, bytes.fromhex(shown)).hex()):
            sys.exit(f"Seat {seat} showed something else than it had promised.")
    part = [[bytes.fromhex(text) or "" for text in gave[kind]] for kind in ("promises", "shown")]
    return table, hashed("shown", hashed("frozen", table, promised, *part[0]), *part[1])


def wrong(card, shuffles, start):
    shuffle = shuffles.get(card["shuffle"])
    if shuffle is None:
        return "there is no such shuffle"
    cards, salt = shuffle["cards"], bytes.fromhex(card["salt"])
    leaf = message("leaf", start, card["shuffle"], cards, card["place"], card["face"], salt)
    path = [bytes.fromhex(step) for step in card["path"]]
    root = root_from(hashlib.sha256(b"\x00" + leaf).digest(), card["place"], cards, path)
    return None if root and root.hex() == shuffle["root"] else "it was not promised"


def main():
    with open(sys.argv[1], encoding="utf-8") as file:
        given = json.load(file)
    table, start = opening(given)
    shuffles = {shuffle["shuffle"]: shuffle for shuffle in given["shuffles"]}
    agree = 0
    for card in given["cards"]:
        why = wrong(card, shuffles, start)
        if why:
            sys.exit(f"{card['face']} at place {card['place']} of shuffle {card['shuffle']}: {why}.")
        agree += 1
    if "whole" in given:
        promised = hashed("service", table, bytes.fromhex(given["whole"]["seed"]))
        if not hmac.compare_digest(promised.hex(), given["commitment"]):
            sys.exit("The seed is not the one that was promised.")
    print(f"{agree} of {len(given['cards'])} cards agree; {len(shuffles)} shuffles were promised before they were dealt.")


main()
