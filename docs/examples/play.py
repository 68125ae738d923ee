# Plays a seat over server-sent events and HTTP until the game is over, with nothing but Python's standard library.
#   python3 play.py http://127.0.0.1:4790 TABLE KEY
import json
import random
import sys
import urllib.error
import urllib.request
import uuid

service, table, key = sys.argv[1:4]
base = f"{service}/api/tables/{table}"
headers = {"Authorization": f"Bearer {key}"}


def events(after):
    """The feed's messages, from a number on."""
    request = urllib.request.Request(f"{base}/feed", headers=headers)
    if after is not None:
        request.add_header("Last-Event-ID", str(after))
    with urllib.request.urlopen(request, timeout=60) as feed:
        data = ""
        for line in feed:
            line = line.decode().rstrip("\n")
            if line.startswith("data: "):
                data += line[6:]
            elif line == "" and data:
                yield json.loads(data)
                data = ""


def get_view():
    request = urllib.request.Request(f"{base}/view", headers=headers)
    with urllib.request.urlopen(request, timeout=10) as answer:
        return json.load(answer)


def choose(view):
    """Plays any legal option; now and then one that is no move, such as giving up. Gives whether it was taken."""
    legal = [offer for offer in view["offers"] if offer["legal"]]
    moves = [offer for offer in legal if not offer["aside"]]
    offer = random.choice(moves if moves and random.random() < 0.95 else legal)
    # "once" is our own word for this choice: sent again after a break, it counts once.
    choice = {"ask": view["waiting"]["ask"], "option": offer["option"], "args": values_of(offer), "once": str(uuid.uuid4())}
    request = urllib.request.Request(
        f"{base}/choices", json.dumps(choice).encode(), {**headers, "Content-Type": "application/json"}
    )
    try:
        urllib.request.urlopen(request, timeout=10).close()
        return True
    except urllib.error.HTTPError as problem:
        print(json.load(problem)["detail"], file=sys.stderr)
        return False


def values_of(offer):
    """What an option takes. Where there are few ways, all are listed: a value for each parameter, several cards as a list."""
    way = random.choice(offer["ways"]) if offer["ways"] else [value_of(param) for param in offer["params"]]
    return {param["name"]: value for param, value in zip(offer["params"], way)}


def value_of(param):
    if param["kind"] == "range":
        return random.choice([*range(param["from"], param["to"], param["by"]), param["to"]])
    if param["kind"] == "values":
        return random.choice(param["values"])["value"]
    # Some of many cards: not all of them may fit together, and then we are told, and try others.
    cards = [card["value"] for card in param.get("values", [])]
    most = min(param.get("most") or 4, len(cards))
    return random.sample(cards, random.randint(param.get("least", 0), most))


number, asked = None, -1
while True:
    try:
        for message in events(number):
            number = message.get("number", number)
            for line in message.get("lines", []):
                print(line["text"])
            if message["type"] not in ("view", "step"):
                continue
            # The whole view is as good as a patch where there is no patch library.
            view = message.get("view") or get_view()
            if view["waiting"]["kind"] == "over":
                sys.exit()
            if view["offers"] and view["waiting"]["ask"] != asked:
                asked = view["waiting"]["ask"]
                # Refused: nothing was changed. We look again, and choose something else, until somebody was quicker.
                while not choose(view):
                    view = get_view()
                    if not view["offers"] or view["waiting"]["ask"] != asked:
                        break
    except (urllib.error.URLError, TimeoutError):
        pass  # The line broke: come back, from the last number on.
