import { COMPARED, GROUPED } from '../prices.js';
import type { Runtime } from '../runtime/runtime.js';

/** A function of the runtime whose work grows with its data: its parameters, and what a call of it costs. */
interface Priced {
  readonly params: string;
  readonly price: string;
}

/** The runtime's functions; its tables are read where they lie. */
type FunctionName = {
  [Name in keyof Runtime]: Runtime[Name] extends (...args: never) => unknown ? Name : never;
}[keyof Runtime];

/**
 * Why a function of the runtime has no price of its own: `fixed`, as what it does grows with nothing that a sheet makes
 * larger; `pays`, as it is told how to pay and does so as it goes; `counted`, as the code that calls it has paid for what it
 * goes through.
 */
type Unpriced = 'fixed' | 'pays' | 'counted';

/**
 * What the runtime's functions cost, by the size of what they go through. The code of a table calls them by their own
 * names; each that has a price is wrapped so that it is paid for first. Whoever adds a function to the runtime says here
 * what it costs: without a row nothing is compiled.
 */
const COSTS = {
  // Lists
  pileCards: { params: 's,p', price: 's.len[p]' },
  cardsOf: { params: 's,piles', price: '2*piles.length+faces.length' },
  tops: { params: 's,piles', price: '4*piles.length' },
  tail: { params: 's,c', price: 's.len[s.where[c]]' },
  indexOf: { params: 's,c', price: 's.len[s.where[c]]/2' },
  openFamily: { params: 's,first,n', price: 'n' },
  fresh: { params: 's,first,n,at', price: 'n' },
  join: { params: 'a,b,at', price: 'a.length+b.length' },
  firstOf: { params: 'list,n', price: 'list.length' },
  last: { params: 'list,n', price: 'list.length' },
  turnedOver: { params: 'list', price: '2*list.length' },
  holds: { params: 'list,x', price: 'list.length' },
  least: { params: 'list,at', price: 'list.length' },
  most: { params: 'list,at', price: 'list.length' },
  sum: { params: 'list', price: 'list.length' },
  sameList: { params: 'a,b', price: 'a.length' },
  compareKeys: { params: 'a,b', price: 'a.length??1' },
  placesOfRanks: { params: 'list', price: '2*list.length' },
  asNumbers: { params: 'list', price: '2*list.length' },
  sortBy: {
    params: 'items,keys',
    price: `4*items.length+${COMPARED}*Math.ceil(Math.log2(items.length+2))*keySize(keys)`,
  },
  groupBy: { params: 'items,keys', price: `${GROUPED.list}*keySize(keys)` },
  distinctBy: { params: 'items,keys', price: `${GROUPED.list}*keySize(keys)` },
  rangeOf: { params: 'from,to,at,longest', price: '10+8*Math.min(longest,Math.max(0,to-from))' },
  withoutItems: { params: 'list,other', price: '8*(list.length+other.length)' },
  withoutLists: { params: 'list,lists', price: '8*(list.length+keySize(lists))' },
  turnedKey: { params: 'key', price: '4*key.length' },
  waysOf: { params: 'list,sizes', price: '20+sizes.length' },
  // Cards that are read, hands and shapes
  seeAll: { params: 's,cards,v,at', price: '2*cards.length' },
  heldOpenly: { params: 's,c,p,v,at', price: '3*s.len[p]' },
  rankHand: { params: 'kind,cards,at', price: "kind==='high'?40+12*cards.length:300*fives(cards.length)" },
  fiveOf: { params: 'kind,cards,at', price: "400*cards.length+(kind==='high'?0:300*fives(cards.length))" },
  fits: { params: 'shapes,cards', price: '8*shapes.length*cards.length' },
  fitsAny: { params: 'shapes,cards', price: '8*shapes.length*cards.length' },
  // Sets of cards that are chosen
  distinct: { params: 'items,count', price: 'count+count*count/16' },
  standsIn: { params: 'items,count,set,least,most', price: '20+set.length*count/4' },
  inOrderOf: { params: 'list,cards', price: '20+cards.length*list.length' },
  sameSet: { params: 'a,b', price: 'a.length*a.length/4' },
  holdsItem: { params: 'items,count,x', price: 'count/2' },
  isTwinPile: { params: 's,items,i', price: '8*i' },
  isTwinCard: { params: 's,items,i', price: '2*i' },
  // Cards from place to place
  moveCard: { params: 's,c,to,beneath,facing,at', price: '20+s.len[to]/16' },
  moveCards: { params: 's,list,to,reversed,beneath,facing,at', price: 'list.length*(20+(s.len[to]+faces.length)/16)' },
  moveAll: { params: 's,from,to,reversed,beneath,facing,at', price: '20+3*s.len[from]+s.len[to]/16' },
  turn: { params: 's,list,facing,at', price: '40*list.length' },
  reveal: { params: 's,list,seat,at', price: '40*list.length' },
  show: { params: 's,list,seat,at', price: '40*list.length' },
  shuffle: { params: 's,p', price: '200+1000*s.len[p]' },
  pick: { params: 's,list,at', price: '1500' },
  // Texts
  cardsPiece: { params: 's,cards,at', price: '2*cards.length' },
  wordsPiece: { params: 'words,list,at', price: '8*list.length' },
  listPiece: { params: 'list,at', price: '8*list.length' },
  say: { params: 's,pieces,at,bytes', price: '20+8*pieces.length' },
  tell: { params: 'pieces,seat,at,bytes', price: '20+8*pieces.length' },
  arrange: { params: 's,from,to,at', price: 's.len[from]/8' },
  // Without a price
  ok: 'fixed',
  pileName: 'fixed',
  pileWords: 'fixed',
  family: 'fixed',
  member: 'fixed',
  cell: 'fixed',
  cellKey: 'fixed',
  cardOf: 'fixed',
  teamOf: 'fixed',
  seatsOf: 'fixed',
  nextTeam: 'fixed',
  nextSeat: 'fixed',
  seatsFrom: 'fixed',
  others: 'fixed',
  pileItem: 'fixed',
  top: 'fixed',
  bottom: 'fixed',
  maskOf: 'fixed',
  maskIn: 'fixed',
  sees: 'fixed',
  knows: 'fixed',
  see: 'fixed',
  note: 'fixed',
  ownOnly: 'fixed',
  cardPiece: 'fixed',
  seatPiece: 'fixed',
  seatsPiece: 'fixed',
  teamPiece: 'fixed',
  weighTexts: 'fixed',
  chapter: 'fixed',
  chapterTitle: 'fixed',
  act: 'fixed',
  word: 'fixed',
  plural: 'fixed',
  item: 'fixed',
  fives: 'fixed',
  handRanks: 'fixed',
  lowRanks: 'fixed',
  category: 'fixed',
  chk: 'fixed',
  div: 'fixed',
  mod: 'fixed',
  isDue: 'fixed',
  handName: 'fixed',
  lowName: 'fixed',
  finish: 'fixed',
  fault: 'fixed',
  text: 'pays',
  largest: 'pays',
  eachShape: 'pays',
  eachSet: 'pays',
  drawSet: 'pays',
  setsOf: 'pays',
  dearestSet: 'pays',
  shapeWays: 'pays',
  bestGroups: 'pays',
  shuffled: 'counted',
  forget: 'counted',
  placesOf: 'counted',
  keySize: 'counted',
  isSet: 'counted',
  fill: 'counted',
  filled: 'counted',
  moved: 'counted',
  turnPile: 'counted',
} satisfies Readonly<Record<FunctionName, Priced | Unpriced>>;

const PRICED: ReadonlyMap<string, Priced> = new Map(
  Object.entries(COSTS).flatMap(([name, cost]): [string, Priced][] => (typeof cost === 'string' ? [] : [[name, cost]])),
);

/** Whether a function of the runtime is paid for before it is called. */
export const isPriced = (name: string): boolean => PRICED.has(name);

/** The functions that have a price under their own names, paid for before the runtime's are called. */
export const pricedCode = (source: string): string =>
  [...PRICED]
    .filter(([name]) => source.includes(`${name}(`))
    .map(([name, { params, price }]) => `function ${name}(${params}){pay((${price})|0);return $${name}(${params});}`)
    .join('\n');
