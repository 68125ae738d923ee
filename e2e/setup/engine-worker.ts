/** Runs in a browser's worker: the language and the engine, and nothing else. */
import { type PlayAnswer, type PlayWish, playSome } from './engine-play.js';

/** The worker's side of messages: its types are not among those of pages. */
const worker = globalThis as unknown as {
  onmessage: (event: { readonly data: PlayWish }) => void;
  postMessage(answer: PlayAnswer): void;
};

worker.onmessage = ({ data }) => worker.postMessage(playSome(data));
