import { byName } from '@wily-jester/core';

const FORMS: Readonly<Record<string, string>> = {
  'ask every any about because within stuck option quick aside':
    'ask s within 30s else fold { option fold { … } }\n\nAsks a seat; `every` asks several, whose answers all count, and `any` several, of whom the first counts. `stuck { … }` runs where nothing can be chosen.',
  'needs else':
    'needs condition else "why not"\n\nWhat must hold, of a choice or of the settings, and the reason that is told.',
  'deal from to across starting up down face each':
    'deal 5 each from pack to hand starting next(dealer) face up\n\nMoves cards from the top of a pile, one by one; `up to 3` where fewer will do.',
  'move all beneath reversed new one':
    'move c to p · move all from p to q · move cs to p beneath\n\nMoves cards that are named.',
  'gather shuffle': 'gather all to pack · shuffle pack\n\nPuts piles together; puts a pile in a random order.',
  'turn show':
    'turn up cards · turn down cards · show c to s · show seed\n\nTurns cards over; shows one without turning it. Beside the script, show seed lets everybody check a table that is over.',
  'pile private sorted alike refill many at':
    'pile hand of each seat private as fan sorted by rank\n\nA row of cards, bottom first: face up, face down, or private to its seat. Sorted by rank, by suit, or by a def of a card.',
  'var def routine setting kind shape let':
    'var bank of each seat: int = 100 · def total(h: cards) = sum(h, worth) · setting rounds: 1..9 = 3\n\nWhat the game keeps, works out, does, and lets a table vary.',
  'deck copies joker jokers standard numbered order suits ranks':
    'deck standard copies 2 with 2 jokers · deck ranks 7..A · deck numbered 1..60\n\nThe cards of the game, and how ranks and suits are ordered.',
  'play chapter pause finish say tell text':
    'play { … } · chapter "Round {n}" · say "{s} passes." · pause 2s · finish\n\nThe script, and what is told on the way.',
  'if then for in while where repeat until break return reset':
    'if a { } else { } · for each s in seats where s.live { } · for n in 1..5 { } · repeat { } until done\n\nHow the script goes on.',
  'score wins': 'score s += 2 · wins least\n\nThe score of a seat or team, and whether the lowest wins.',
  'bot prefer when otherwise':
    'bot plain { lay(c) when c.rank > 9 prefer c.pips  pass }\n\nThe first line with a legal choice wins; among its choices the most preferred.',
  'tally per by':
    'tally "return" back(s) per laid(s) by result\n\nWhat trials count, in your own words: how often, how much, how much per something, or which of several. It changes nothing at the table.',
  'always undo':
    'always "chips are conserved" sum(seats, s => s.bank) == 400 · undo free\n\nWhat must always hold; whether choices may be taken back at will.',
  'layout note counters on':
    'layout { stock . waste   note total on hand   counters bet }\n\nHow the middle of the table is drawn, and what stands beside piles and seats.',
  'use with part':
    'use "side-pots" with made = strength\n\nPastes a part in; `with` says what the sheet calls its things.',
  'rehearse settings gets start expect asked refused finished said plays':
    'rehearse "what it shows" { seats Wren, Otter  Wren.hand gets "A♠"  Wren: bet(20)  clock plays for Otter  expect asked Wren }\n\nA test: cards that come, choices, and what must be so.',
  'and or not is':
    'a and b · not c · c is "Q♠" · cs is run\n\nConditions; whether a card has a face, or cards a shape.',
  'can such tail by':
    'can lay(c) · total: 2..20 by 2 such as [10] · run: tail in column\n\nWhether an option is legal; steps and landmarks of an amount; a card with all above it.',
  'game as of seat seats team teams card cards suit rank':
    'game "Name" for 2 to 4 seats as tricks { … }\n\nThe header: how many seats, teams, and what kind of game it is.',
  pick: 'pick die from 1..6\n\nSets a variable to one item of a list, by chance.',
};

/** What each word of the language is for, as an editor shows it: an example, and a sentence. */
export const WORDS = byName<string>(
  Object.fromEntries(Object.entries(FORMS).flatMap(([words, text]) => words.split(' ').map((word) => [word, text]))),
);
