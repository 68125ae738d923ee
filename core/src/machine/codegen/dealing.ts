import type { StateLayout } from '../layout.js';
import { rowOffsets } from '../state.js';

/** What dealing must do besides moving cards. */
export interface DealingDuties {
  /** Visibility changes are recorded. */
  readonly noting: boolean;
  /** Cards are promised to piles. */
  readonly promised: boolean;
  /** Whole piles that are moved keep promises too. Tables that are kept did not, and must replay as they were. */
  readonly rehearsing: boolean;
}

/**
 * The functions that deal, and that move and turn whole piles, written out for one table: its rows begin at plain
 * numbers, and what is not heeded there is left out. They run oftener than anything else, and are short enough to be
 * compiled into what calls them. What is noted is left to the runtime, but for single cards.
 */
export function dealingCode(layout: StateLayout, { noting, promised, rehearsing }: DealingDuties): string {
  const { start, len, cap, where, seen, facing, cards } = rowOffsets({
    cards: layout.faces.length,
    piles: layout.piles.length,
  });
  const head = [
    'const row=s.row;',
    `let n=row[${len}+from];`,
    'if(n===0)n=filled(s,from,at);',
    promised ? 'arrange(s,from,to,at);' : '',
    'n--;',
    `const c=row[${cards}+row[${start}+from]+n],place=row[${len}+to];`,
    noting ? 'const before=maskIn(s,c,from);' : '',
  ];
  const move = [
    `row[${len}+from]=n;`,
    `if(place===row[${cap}+to])s.grow(to,place+1);`,
    `row[${cards}+row[${start}+to]+place]=c;`,
    `row[${len}+to]=place+1;`,
    `row[${where}+c]=to;`,
    `row[${facing}+c]=facing<0?pileFacing[to]:facing;`,
    `row[${seen}+c]=0;`,
    's.touch(from,to);',
  ];
  const told = noting ? 'moved(s,c,from,to,before);' : '';
  const whole = noting
    ? 'moveAll(s,from,to,false,false,facing,0);'
    : [
        'if(from===to)return;',
        `const row=s.row,n=row[${len}+from],place=row[${len}+to];`,
        'if(n===0)return;',
        `if(place+n>row[${cap}+to])s.grow(to,place+n);`,
        `row[${len}+from]=0;`,
        `row[${len}+to]=place+n;`,
        's.touch(from,to);',
        `const way=facing<0?pileFacing[to]:facing,a=${cards}+row[${start}+from],b=${cards}+row[${start}+to]+place;`,
        `for(let i=0;i<n;i++){const c=row[a+i];row[b+i]=c;row[${where}+c]=to;row[${facing}+c]=way;row[${seen}+c]=0;}`,
      ].join('');
  // To a pile that is promised cards a whole one goes card by card, as if it were dealt: the first promised lies lowest.
  const oneByOne = promised && rehearsing ? 'if(isDue(s,to)){dealAll(s,from,[to],facing,here);return;}' : '';
  const turn = noting
    ? 'turnPile(s,p,way);'
    : [
        `const row=s.row,from=${cards}+row[${start}+p],to=from+row[${len}+p];`,
        'if(from===to)return;',
        `for(let i=from;i<to;i++){const c=row[i];row[${facing}+c]=way;row[${seen}+c]=0;}`,
        's.touch(p,p);',
      ].join('');
  return [
    `function moveWhole(s,from,to,facing){pay(20+3*s.len[from]);${oneByOne}${whole}}`,
    `function turnWhole(s,p,way){pay(40*s.len[p]);${turn}}`,
    `function deal1(s,from,to,facing,at){${[...head, ...move].join('')}${told}return c;}`,
    'const {dealN,dealAll,dealEach,dealRound}=dealing(deal1,fill,pay);',
  ].join('\n');
}
