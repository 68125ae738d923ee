# Plays a seat over server-sent events and HTTP until the game is over, with nothing but Python's standard library.
#   python3 play.py http://127.0.0.1:4790 TABLE KEY
import json
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
    """Plays the first option that is legal, with the least of what it may take."""
    offer = next(offer for offer in view["offers"] if offer["legal"])
    args = {p["name"]: p["from"] if p["kind"] == "range" else p["values"][0]["value"] for p in offer["params"]}
    # "once" is our own word for this choice: sent again after a break, it counts once.
    choice = {"ask": view["waiting"]["ask"], "option": offer["option"], "args": args, "once": str(uuid.uuid4())}
    request = urllib.request.Request(
        f"{base}/choices", json.dumps(choice).encode(), {**headers, "Content-Type": "application/json"}
    )
    try:
        urllib.request.urlopen(request, timeout=10).close()
    except urllib.error.HTTPError as problem:
        print(json.load(problem)["detail"], file=sys.stderr)


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
                choose(view)
    except (urllib.error.URLError, TimeoutError):
        pass  # The line broke: come back, from the last number on.
