// Plays a seat over the WebSocket until the game is over. In a browser leave out the import; Node 22 needs none either.
//   node play.mjs http://127.0.0.1:4790 TABLE KEY
import { randomUUID } from 'node:crypto';
import { WebSocket } from 'ws';

const [service, table, key] = process.argv.slice(2);
let view = null;
let asked = -1;

connect();

function connect() {
  const socket = new WebSocket(`${service.replace('http', 'ws')}/api/tables/${table}/live`);
  // Who is here, and the last number that was seen: after a break only what was missed comes.
  socket.onopen = () => socket.send(JSON.stringify({ type: 'hello', key, from: view?.number }));
  socket.onmessage = ({ data }) => hear(JSON.parse(data), socket);
  socket.onclose = () => {
    if (view?.waiting.kind !== 'over') setTimeout(connect, 500);
  };
}

function hear(message, socket) {
  if (message.type === 'view') view = message.view;
  else if (message.type === 'step') for (const change of message.patch) view = patched(view, change);
  else if (message.type === 'problem') {
    // Refused: nothing was changed, and we choose again.
    console.error(message.problem.detail);
    asked = -1;
  }
  for (const line of message.lines ?? []) console.log(line.text);
  if (view.waiting.kind === 'over') socket.close();
  else if (view.offers.length > 0 && view.waiting.ask !== asked) choose(socket);
}

const any = (list) => list[Math.floor(Math.random() * list.length)];

// Any legal option; now and then one that is no move, such as giving up, for some games end in no other way.
function choose(socket) {
  const legal = view.offers.filter((offer) => offer.legal);
  const moves = legal.filter((offer) => !offer.aside);
  const offer = any(moves.length > 0 && Math.random() < 0.95 ? moves : legal);
  asked = view.waiting.ask;
  // "once" is our own word for this choice: sent again after a break, it counts once.
  const choice = { ask: asked, option: offer.option, args: valuesOf(offer), once: randomUUID() };
  socket.send(JSON.stringify({ type: 'choose', choice }));
}

// What an option takes. Where there are few ways, all are listed: a value for each parameter, several cards as a list.
function valuesOf({ params, ways }) {
  const way = ways?.length > 0 ? any(ways) : params.map(someOf);
  return Object.fromEntries(params.map((param, i) => [param.name, way[i]]));
}

function someOf(param) {
  if (param.kind === 'range')
    return Math.min(
      param.to,
      param.from + param.by * Math.floor((Math.random() * (param.to - param.from + param.by)) / param.by),
    );
  if (param.kind === 'values') return any(param.values).value;
  // Some of many cards: not all of them may fit together, and then we are told, and try others.
  const cards = (param.values ?? []).map(({ value }) => value).sort(() => Math.random() - 0.5);
  const most = Math.min(param.most ?? 4, cards.length);
  return cards.slice(0, param.least + Math.floor(Math.random() * (most - param.least + 1)));
}

// One change of a JSON Patch (RFC 6902), in a copy.
function patched(document, { op, path, value }) {
  const steps = path
    .split('/')
    .slice(1)
    .map((step) => step.replaceAll('~1', '/').replaceAll('~0', '~'));
  if (steps.length === 0) return value;
  const copy = structuredClone(document);
  const last = steps.pop();
  const place = steps.reduce((at, step) => at[step], copy);
  if (!Array.isArray(place)) {
    if (op === 'remove') delete place[last];
    else place[last] = value;
  } else if (op === 'remove') place.splice(Number(last), 1);
  else if (op === 'add') place.splice(last === '-' ? place.length : Number(last), 0, value);
  else place[Number(last)] = value;
  return copy;
}
