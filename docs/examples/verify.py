"""Checks what a viewer was given of a table's shuffles, with Python's own library alone: python3 verify.py fair.ndjson

It does what ./wily verify does, as docs/fairness.md says how; a record is not played again.
"""

import hashlib
import hmac
import json
import re
import sys

FORM = "wily-jester-fair/3"
ORDER = ["table", "void", "service", "promise", "frozen", "show", "ready", "earlier", "shuffle", "choices", "seen", "seed", "order", "end"]
PHASE = {**{kind: i for i, kind in enumerate(ORDER)}, "back": ORDER.index("shuffle"), "card": ORDER.index("shuffle")}
ONCE = {"table", "service", "frozen", "ready", "choices", "end"}


def check(agrees, wrong):
    if not agrees:
        sys.exit(wrong)


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


def of_hex(text):
    check(isinstance(text, str) and re.fullmatch("[0-9a-f]{64}", text), f"{text!r} is no hash.")
    return bytes.fromhex(text)


def expanded(root, tag, *fields):
    """HKDF-Expand (RFC 5869) of 32 bytes."""
    return hmac.digest(root, message(tag, *fields) + b"\x01", "sha256")


def words(key):
    """The key stream of ChaCha20 (RFC 8439) as words of 32 bits, with a nonce of zeros."""
    start = [0x61707865, 0x3320646E, 0x79622D32, 0x6B206574, *(int.from_bytes(key[i : i + 4], "little") for i in range(0, 32, 4))]
    columns, diagonals = [(i, 4 + i, 8 + i, 12 + i) for i in range(4)], [(i, 4 + (i + 1) % 4, 8 + (i + 2) % 4, 12 + (i + 3) % 4) for i in range(4)]
    for block in range(1 << 32):
        first = [*start, block, 0, 0, 0]
        x = list(first)
        for _ in range(10):
            for a, b, c, d in columns + diagonals:
                for to, other, turned, by in ((a, b, d, 16), (c, d, b, 12), (a, b, d, 8), (c, d, b, 7)):
                    x[to] = x[to] + x[other] & 0xFFFFFFFF
                    mixed = x[turned] ^ x[to]
                    x[turned] = (mixed << by | mixed >> 32 - by) & 0xFFFFFFFF
        yield from (a + b & 0xFFFFFFFF for a, b in zip(x, first))


def below(stream, n):
    limit = (1 << 32) - (1 << 32) % n
    return next(word for word in stream if word < limit) % n


def value(face):
    """The place of a face in the order in which cards are laid before a shuffle."""
    joker = re.fullmatch(r"JK(\d*)", face)
    if joker:
        return 52 + int(joker[1] or 1)
    if face.isdecimal():
        return 1000 + int(face)
    ranks = ["A", "2", "3", "4", "5", "6", "7", "8", "9", "10", "J", "Q", "K"]
    check(face[:-1] in ranks and face[-1] in "SHDC", f"{face!r} is no card.")
    return 13 * "SHDC".index(face[-1]) + ranks.index(face[:-1])


def leaf(opening, shuffle, place, face, salt):
    return hashlib.sha256(b"\x00" + message("leaf", opening, shuffle["shuffle"], shuffle["cards"], place, face, salt)).digest()


def root_of(leaves):
    """RFC 6962, 2.1."""
    if len(leaves) == 1:
        return leaves[0]
    split = 1 << (len(leaves) - 1).bit_length() - 1
    return hashlib.sha256(b"\x01" + root_of(leaves[:split]) + root_of(leaves[split:])).digest()


def root_from(leaf, place, cards, path):
    """The root that a leaf and its path lead to, or None where the path is not that of this place."""
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


def check_order(lines):
    """Each kind at its place, and as often as it may be."""
    kinds = [line.get("fair") for line in lines]
    check(all(kind in PHASE for kind in kinds), "A line says nothing of a shuffle.")
    check(lines and kinds[0] == "table" and lines[0]["form"] == FORM, "The first line tells of no table, or in another form.")
    check(all(PHASE[a] <= PHASE[b] for a, b in zip(kinds, kinds[1:])), "A line comes too late.")
    for kind in ONCE | {"earlier", "seen", "seed"}:
        check(kinds.count(kind) <= 1 and (kind not in ONCE or kind in kinds), f'"{kind}" is told {kinds.count(kind)} times.')


def check_whole(lines, facts, seed, opening):
    """With the seed: each order is the one that it gives, and the one that was promised."""
    root = hmac.digest(opening, seed, "sha256")
    shuffles, orders = ([line for line in lines if line["fair"] == kind] for kind in ("shuffle", "order"))
    check(len(shuffles) == len(orders), "There is not one order for each shuffle.")
    for shuffle, order in zip(shuffles, orders):
        n, faces = shuffle["shuffle"], order["faces"]
        check(order["shuffle"] == n and len(faces) == shuffle["cards"], f"Shuffle {n} has no order, or one of another size.")
        check(all(faces.count(face) <= facts["deck"].count(face) for face in faces), f"Shuffle {n} holds cards that the deck has not.")
        made, stream = sorted(faces, key=value), words(expanded(root, "shuffle", n, shuffle["pile"], len(faces)))
        for i in range(len(made) - 1, 0, -1):
            j = below(stream, i + 1)
            made[i], made[j] = made[j], made[i]
        check(made == faces, f"Shuffle {n} is not the one that the seed gives.")
        salts = expanded(root, "salts", n)
        leaves = [leaf(opening, shuffle, i, face, hmac.digest(salts, message("salt", i), "sha256")) for i, face in enumerate(faces, 1)]
        check(root_of(leaves).hex() == shuffle["root"], f"Shuffle {n} is not the one that was promised.")


def main():
    with open(sys.argv[1], encoding="utf-8") as file:
        lines = [json.loads(line) for line in file if line.strip()]
    check_order(lines)
    facts = lines[0]["facts"]
    known, seats = hashed("table", canonical(facts)), len(facts["seats"])
    check(known.hex() == lines[0]["hash"], "The table, its sheet, settings, seats or deck are not those that the promises are about.")
    promises, shown = [""] * seats, [""] * seats
    last, cards, shuffle, number, at, bound = "", 0, None, 0, 0, None
    for line in lines:
        kind = line["fair"]
        if kind in ("void", "promise", "show"):
            check(1 <= line["seat"] <= seats, f"There is no seat {line['seat']}.")
        if kind == "service":
            service = of_hex(line["commitment"])
        elif kind == "promise":
            check(promises[line["seat"] - 1] == "", f"Seat {line['seat']} is told of twice.")
            promises[line["seat"] - 1] = of_hex(line["promise"])
        elif kind == "frozen":
            frozen = hashed("frozen", known, service, *promises)
            check(frozen.hex() == line["hash"], "The list of promises that was frozen is another one.")
        elif kind == "show":
            check(shown[line["seat"] - 1] == "", f"Seat {line['seat']} is told of twice.")
            shown[line["seat"] - 1] = of_hex(line["bytes"])
        elif kind == "ready":
            for i, (promise, given) in enumerate(zip(promises, shown), 1):
                agrees = hashed("seat", known, service, i, given) == promise if given else promise == ""
                check(agrees, f"Seat {i} showed something else than it had promised.")
            opening = hashed("shown", frozen, *shown)
            check(opening.hex() == line["opening"], "What all keys come from is something else.")
        elif kind == "earlier":
            number, last = line["shuffles"], line["hash"]
        elif kind == "back":
            check(line["shuffles"] < number, f"Nothing was taken back to shuffle {line['shuffles']}.")
            number = line["shuffles"]
        elif kind == "shuffle":
            check(line["shuffle"] == number + 1, f"Shuffle {number + 1} is missing.")
            check(line["at"] >= at and (line["at"] > at or bound in (None, line["choices"])), f"Shuffle {line['shuffle']} was told of at another number, or after other choices.")
            number, at, bound = line["shuffle"], line["at"], line["choices"]
            shuffle, places, left = line, set(), list(facts["deck"])
            of_hex(shuffle["root"])
        elif kind == "choices":
            check(line["at"] >= at and line["at"] == lines[-1]["at"], "The end is told at another number.")
        elif kind == "card":
            name = f"{line['face']} at place {line['place']} of shuffle {line['shuffle']}"
            check(shuffle and shuffle["shuffle"] == line["shuffle"], f"{name}: there is no such shuffle before it.")
            proof = leaf(opening, shuffle, line["place"], line["face"], of_hex(line["salt"]))
            root = root_from(proof, line["place"], shuffle["cards"], [of_hex(step) for step in line["path"]])
            check(root and root.hex() == shuffle["root"], f"{name}: it was not promised.")
            check(line["place"] not in places and line["face"] in left, f"{name}: it is there twice, or more often than in the deck.")
            places.add(line["place"])
            left.remove(line["face"])
            cards += 1
        elif kind == "seed":
            check(hashed("service", known, of_hex(line["seed"])) == service, "The seed is not the one that was promised.")
            check_whole(lines, facts, of_hex(line["seed"]), opening)
        elif kind == "order":
            check(any(other["fair"] == "seed" for other in lines), "Orders are told without the seed.")
        if "after" in line:
            check(line["after"] == last, f"A line ({kind}) does not follow the one before it.")
            last = hashed("line", canonical(line)).hex()
    letters = "abcdefghijklmnopqrstuvwxyz234567"
    head = "".join(letters[int(last[:34], 16) >> 131 - 5 * i & 31] for i in range(26))
    check(lines[-1]["head"] == head, "The fingerprint is not that of these lines.")
    whole = "all orders follow from the seed" if any(line["fair"] == "seed" for line in lines) else "the seed was not shown"
    print(f"{cards} of {cards} cards agree; {whole}; fingerprint {head}.")


main()
