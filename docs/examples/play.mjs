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
  else if (message.type === 'problem') console.error(message.problem.detail);
  for (const line of message.lines ?? []) console.log(line.text);
  if (view.waiting.kind === 'over') socket.close();
  else if (view.offers.length > 0 && view.waiting.ask !== asked) choose(socket);
}

// The first option that is legal, with the least of what it may take.
function choose(socket) {
  const offer = view.offers.find(({ legal }) => legal);
  const args = Object.fromEntries(offer.params.map((p) => [p.name, p.kind === 'range' ? p.from : p.values[0].value]));
  asked = view.waiting.ask;
  // "once" is our own word for this choice: sent again after a break, it counts once.
  socket.send(
    JSON.stringify({ type: 'choose', choice: { ask: asked, option: offer.option, args, once: randomUUID() } }),
  );
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
