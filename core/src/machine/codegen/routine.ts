import type { Ask, Option, Program, Stmt, StmtOf } from '../../program/types.js';
import {
  ABOUT,
  ANSWERED,
  ASK,
  ASKED,
  ASKED_SEAT,
  CHOSEN,
  NUMBER,
  OPENED,
  PAUSE,
  PC,
  TIME_UP,
  WAIT,
  WAIT_ANY,
  WAIT_ASK,
  WAIT_EVERY,
  WAIT_PAUSE,
} from '../layout.js';
import type { BlockWriter, Frame } from './blocks.js';
import type { Place, Slot } from './places.js';
import { assign, cleared, whole } from './slots.js';
import { spend, standsAt } from './spend.js';
import { type Exits, StmtWriter } from './statements.js';
import { hasCertainChoice, waits } from './waiting.js';
import { type Code, code, goBack, goTo } from './written.js';

/** Several seats that are asked at once. */
type Several = Exclude<Ask['who'], { k: 'one' }>;

/** The option number of a seat that had no legal choice. */
const STUCK = -1;

/** Writes the blocks of one routine. */
export class RoutineScript {
  private readonly st: StmtWriter;
  /** Where a `break` goes: loops around this place, innermost last. */
  private readonly loops: number[] = [];
  /** Slots in use here: a wait clears all others of the routine. */
  private readonly inScope: Slot[] = [];
  /** Slots of the loops of this routine. */
  private readonly extra: Slot[] = [];
  private readonly program: Program;

  constructor(
    private readonly out: BlockWriter,
    readonly index: number,
    readonly frame: Frame,
  ) {
    this.program = out.module.program;
    this.st = new StmtWriter(out.module, frame.places);
    for (const param of this.program.routines[index]?.params ?? []) this.enter(param);
  }

  private enter(local: number): void {
    const slot = this.frame.places.get(local)?.slot;
    if (slot) this.inScope.push(slot);
  }

  /** All slots of the routine. */
  private slots(): Slot[] {
    return [...[...this.frame.places.values()].flatMap((place) => place.slot ?? []), ...this.extra];
  }

  /** Code that clears the routine's slots that are not in use at this place. */
  private clearDead(): string {
    const used = new Set(this.inScope.map((slot) => slot.js));
    return this.slots()
      .filter((slot) => !used.has(slot.js))
      .map(cleared)
      .join('');
  }

  leaveRoutine(): Code {
    if (this.index === 0) return ['finish(s);return;'];
    return code`${this.slots().map(cleared).join('')}${goBack(this.index)}`;
  }

  private exits(): Exits {
    const loop = this.loops.at(-1);
    return {
      leave: loop === undefined ? [] : goTo(loop),
      returns: code`{${this.leaveRoutine()}}`,
      finishes: ['{finish(s);return;}'],
      finished: ['return;'],
    };
  }

  body(statements: readonly Stmt[]): void {
    const depth = this.inScope.length;
    for (const s of statements) this.statement(s);
    this.inScope.length = depth;
  }

  private statement(s: Stmt): void {
    if (!waits(this.program, s)) {
      this.out.emit(this.st.statement(s, this.exits()));
      if (s.s === 'let') this.enter(s.local);
      if (s.s === 'deal' && s.into !== null) this.enter(s.into);
      return;
    }
    this.out.emit(this.out.module.mark('statement', s.at) + standsAt(s.at));
    switch (s.s) {
      case 'ask':
        this.ask(s);
        return;
      case 'pause': {
        const next = this.out.block();
        this.out.place(next, s.at, true);
        this.out.emit(
          `${this.clearDead()}s.f[${WAIT}]=${WAIT_PAUSE};s.f[${PAUSE}]=${s.seconds};s.f[${OPENED}]=s.f[${NUMBER}];s.f[${PC}]=${next};return;`,
        );
        this.out.at(next);
        return;
      }
      case 'call':
        this.call(s);
        return;
      case 'if': {
        const no = this.out.block();
        const after = this.out.block();
        this.out.emit(code`if(!${this.st.x.write(s.c)})${goTo(no)}`);
        this.body(s.yes);
        this.out.emit(goTo(after));
        this.out.at(no);
        if (s.no) this.body(s.no);
        this.out.emit(goTo(after));
        this.out.at(after);
        return;
      }
      case 'while':
      case 'repeat': {
        const head = this.out.block();
        const after = this.out.block();
        this.out.emit(goTo(head));
        this.out.at(head);
        this.out.emit(spend(this.out.module.lengths.turnOf(s.body, s.s === 'while' ? s.c : s.until), s.at));
        if (s.s === 'while') this.out.emit(code`if(!${this.st.x.write(s.c)})${goTo(after)}`);
        this.loops.push(after);
        this.body(s.body);
        this.loops.pop();
        if (s.s === 'repeat' && s.until) this.out.emit(code`if(${this.st.x.write(s.until)})${goTo(after)}`);
        this.out.emit(goTo(head));
        this.out.at(after);
        return;
      }
      case 'each':
        this.each(s);
        return;
      case 'for':
        this.count(s);
        return;
      default:
        throw new Error(`"${s.s}" does not wait`);
    }
  }

  private call(s: StmtOf<'call'>): void {
    const callee = this.out.frames.get(s.routine);
    const routine = this.program.routines[s.routine];
    if (!callee || !routine) return;
    const next = this.out.block();
    this.out.place(next, s.at, false);
    this.out.called(s.routine, next);
    const given = s.args.map((arg, i) => {
      const place = callee.places.get(routine.params[i] as number);
      return place ? assign(place, this.st.x.write(arg)) : '';
    });
    const counted = this.out.module.counted(s.routine, s.at);
    this.out.emit(
      code`${counted}${this.clearDead()}${given.join('')}s.f[${callee.returnSlot}]=${next};${goTo(this.out.entry(s.routine))}`,
    );
    this.out.at(next);
  }

  /** The slots of a loop: the list that it goes through, and how far it has come. */
  private loopSlots({ list, at }: { list?: number; at: number }): Slot[] {
    const slots = [
      ...(list === undefined ? [] : [{ js: `s.refs[${list}]`, isRef: true, isFlag: false }]),
      { js: `s.f[${at}]`, isRef: false, isFlag: false },
    ];
    this.extra.push(...slots);
    return slots;
  }

  private each(s: StmtOf<'each'>): void {
    const name = `${this.program.routines[this.index]?.name} each@${s.at}`;
    const slots = this.loopSlots({ list: this.out.slots.ref(name, s.list.t), at: this.out.slots.number(name) });
    const [list, at] = slots.map((slot) => slot.js) as [string, string];
    const head = this.out.block();
    const after = this.out.block();
    this.out.emit(code`${list}=${this.st.x.write(s.list)};${at}=0;${goTo(head)}`);
    this.out.at(head);
    this.loop(s, { slots, head, after }, () => {
      const place = this.frame.places.get(s.local) as Place;
      this.out.emit(`${spend(this.out.module.lengths.turnOf(s.body, s.where), s.at)}const next=${whole(at)};`);
      this.out.emit(code`if(next>=${list}.length)${goTo(after)}${assign(place, `${list}[next]`)}${at}=next+1;`);
      if (s.where) this.out.emit(code`if(!${this.st.x.write(s.where)})${goTo(head)}`);
    });
  }

  private count(s: StmtOf<'for'>): void {
    const name = `${this.program.routines[this.index]?.name} for@${s.at}`;
    const slots = this.loopSlots({ at: this.out.slots.number(name) });
    const end = slots[0]?.js as string;
    const head = this.out.block();
    const test = this.out.block();
    const after = this.out.block();
    const place = (this.frame.places.get(s.local) as Place).js;
    this.out.emit(code`${end}=${this.st.x.write(s.to)};${place}=${this.st.x.write(s.from)};${goTo(test)}`);
    this.out.at(head);
    this.out.emit(code`${place}++;${goTo(test)}`);
    this.out.at(test);
    this.loop(s, { slots, head, after }, () => {
      this.out.emit(code`${spend(this.out.module.lengths.turnOf(s.body), s.at)}if(${place}>${end})${goTo(after)}`);
    });
  }

  /** The turns of a loop: how one begins, its statements, and back to its head. */
  private loop(
    s: StmtOf<'each' | 'for'>,
    { slots, head, after }: { slots: readonly Slot[]; head: number; after: number },
    begin: () => void,
  ): void {
    const depth = this.inScope.length;
    this.inScope.push(...slots);
    this.enter(s.local);
    begin();
    this.loops.push(after);
    this.body(s.body);
    this.loops.pop();
    this.out.emit(goTo(head));
    this.inScope.length = depth;
    this.out.at(after);
  }

  private ask(s: StmtOf<'ask'>): void {
    const ask = this.program.asks[s.ask];
    if (!ask) return;
    const { who } = ask;
    if (who.k === 'one') this.askOne(s.ask, ask, who);
    else if (who.k === 'every') this.askEvery(s.ask, ask, who);
    else this.askAny(s.ask, ask, who);
  }

  private askOne(number: number, ask: Ask, who: Extract<Ask['who'], { k: 'one' }>): void {
    const answer = this.out.block();
    const after = this.out.block();
    const { x } = this.st;
    const about = ask.about ? x.write(ask.about) : '-1';
    this.out.place(answer, ask.at, true);
    this.out.emit(`${this.clearDead()}s.f[${ASKED_SEAT}]=${x.sure(who.seat)};s.f[${ABOUT}]=${about};`);
    this.out.emit(`s.f[${WAIT}]=${WAIT_ASK};s.f[${ASK}]=${number};s.f[${OPENED}]=s.f[${NUMBER}];`);
    const stuck = ask.stuck ? this.out.block() : -1;
    const certain = hasCertainChoice(ask);
    if (certain) this.out.emit(`s.f[${PC}]=${answer};return;`);
    else {
      this.out.emit(`if(choosable(s,${number},s.f[${ASKED_SEAT}]|0)){s.f[${PC}]=${answer};return;}s.f[${WAIT}]=0;`);
      this.out.emit(ask.stuck ? goTo(stuck) : `noChoice(s,s.f[${ASKED_SEAT}],${ask.at});`);
    }
    if (ask.stuck) {
      this.out.at(stuck);
      this.body(ask.stuck);
      this.out.emit(goTo(after));
    }
    this.out.at(answer);
    const bodies = ask.options.map(() => this.out.block());
    this.out.emit(code`s.f[${WAIT}]=0;${this.chosen(bodies)}`);
    for (const [i, option] of ask.options.entries()) this.answered(option, bodies[i] as number, goTo(after));
    this.out.at(after);
  }

  /** Goes to the body of the option that was chosen. */
  private chosen(bodies: readonly number[]): Code {
    return code`switch(${whole(CHOSEN)}){${bodies.flatMap((block, i) => code`case ${i}:${goTo(block)}`)}}`;
  }

  /** The body of an option, with its values in scope; then it goes on. */
  private answered(option: Option, block: number, then: Code, scope: readonly number[] = []): void {
    this.out.at(block);
    const depth = this.inScope.length;
    for (const local of [...scope, ...option.params.map((param) => param.local)]) this.enter(local);
    this.out.emit(this.out.module.mark('option', option.at));
    this.body(option.body);
    this.inScope.length = depth;
    this.out.emit(then);
  }

  /**
   * All are asked and the first answer counts; an aside takes its seat out of the ask, which stays open for the
   * others. The seats are a bit mask in {@link ASKED}, those that stepped aside one in {@link ANSWERED}.
   */
  private askAny(number: number, ask: Ask, who: Several): void {
    const { x } = this.st;
    const look = this.out.block();
    const answer = this.out.block();
    const stuck = this.out.block();
    const after = this.out.block();
    this.out.place(answer, ask.at, true);
    const place: Place = { ...(this.frame.places.get(who.local) as Place), isThere: true };
    this.frame.places.set(who.local, place);
    const where = who.where ? `if(!${x.write(who.where)})continue;` : '';
    const given = assign(place, x.areThere(who.list) ? 'seat' : `ok(seat,${ask.at})`);
    const about = ask.about ? x.write(ask.about) : '-1';
    const over = `s.f[${ASKED}]=0;s.f[${ANSWERED}]=0;`;
    this.out.emit(`${this.clearDead()}s.f[${ASK}]=${number};s.f[${ABOUT}]=${about};let asked=0;`);
    this.out.emit(`${this.out.module.each('seat', x.write(who.list))}{${given}${where}asked|=1<<seat;}`);
    this.out.emit(code`${assign(place, '0')}if(asked===0)${goTo(after)}`);
    this.out.emit(code`s.f[${ASKED}]=asked;s.f[${ANSWERED}]=0;s.f[${OPENED}]=s.f[${NUMBER}];${goTo(look)}`);

    this.out.at(look);
    this.out.emit(`${this.clearDead()}s.f[${WAIT}]=${WAIT_ANY};const left=s.f[${ASKED}]&~s.f[${ANSWERED}];`);
    this.out.emit(code`if(left===0){s.f[${WAIT}]=0;${over}${goTo(ask.stuck ? stuck : after)}}`);
    if (!hasCertainChoice(ask)) {
      this.out.emit(`let can=false;${this.out.module.each('seat', 'seats')}`);
      this.out.emit(`{if((left&1<<seat)!==0&&choosable(s,${number},seat)){can=true;break;}}`);
      const none = ask.stuck ? code`s.f[${WAIT}]=0;${over}${goTo(stuck)}` : [`noChoice(s,-1,${ask.at});`];
      this.out.emit(code`if(!can){${none}}`);
    }
    this.out.emit(`s.f[${PC}]=${answer};return;`);

    this.out.at(stuck);
    if (ask.stuck) this.body(ask.stuck);
    this.out.emit(goTo(after));

    this.out.at(answer);
    const bodies = ask.options.map(() => this.out.block());
    const late = ask.stuck ? code`if(s.f[${CHOSEN}]===${TIME_UP}){${over}${goTo(stuck)}}` : [];
    const stepping = ask.options.flatMap(({ aside }, i) => (aside ? [`s.f[${CHOSEN}]!==${i}`] : []));
    const won = stepping.length > 0 ? `if(${stepping.join('&&')}){${over}}` : over;
    this.out.emit(code`s.f[${WAIT}]=0;${late}${won}${assign(place, whole(ASKED_SEAT))}${this.chosen(bodies)}`);
    for (const [i, option] of ask.options.entries()) {
      const aside = code`s.f[${ANSWERED}]|=1<<s.f[${ASKED_SEAT}];${goTo(look)}`;
      this.answered(option, bodies[i] as number, option.aside ? aside : goTo(after), [who.local]);
    }
    this.out.at(after);
  }

  private askEvery(number: number, ask: Ask, who: Several): void {
    const { x } = this.st;
    const answer = this.out.block();
    const after = this.out.block();
    this.out.place(answer, ask.at, true);
    const place: Place = { ...(this.frame.places.get(who.local) as Place), isThere: true };
    this.frame.places.set(who.local, place);
    const where = who.where ? `if(!${x.write(who.where)})continue;` : '';
    const { pendingBase } = this.out.module.layout;
    // A seat that is stuck has answered already: its part runs in its turn, when all the others have.
    const none = ask.stuck ? `{stuck|=1<<seat;s.refs[${pendingBase}+seat]=[${STUCK}];}` : `noChoice(s,seat,${ask.at});`;
    const look = hasCertainChoice(ask) ? '' : `if(!choosable(s,${number},seat))${none}`;
    const given = assign(place, x.areThere(who.list) ? 'seat' : `ok(seat,${ask.at})`);
    this.out.emit(`${this.clearDead()}s.f[${ASK}]=${number};let asked=0,stuck=0;`);
    this.out.emit(`${this.out.module.each('seat', x.write(who.list))}{${given}${where}${look}asked|=1<<seat;}`);
    this.out.emit(code`${assign(place, '0')}if(asked===0)${goTo(after)}`);
    this.out.emit(`s.f[${ASKED}]=asked;s.f[${ANSWERED}]=stuck;s.f[${ABOUT}]=-1;s.f[${WAIT}]=${WAIT_EVERY};`);
    this.out.emit(`s.f[${OPENED}]=s.f[${NUMBER}];`);
    if (ask.stuck) this.out.emit(code`if(asked===stuck)${goTo(answer)}`);
    this.out.emit(`s.f[${PC}]=${answer};return;`);
    this.out.at(answer);
    const exits: Exits = { ...this.exits(), leave: [], returns: [] };
    const cases = ask.options.flatMap((option, i) => {
      const st = new StmtWriter(this.out.module, new Map(this.frame.places));
      const params = option.params.map((param, p) => {
        st.places.set(param.local, { js: `l${param.local}` });
        const raw = `given[${p + 1}]`;
        return `const l${param.local}=${param.t === 'flag' ? `${raw}!==0` : raw};`;
      });
      const mark = this.out.module.mark('option', option.at);
      return code`case ${i}:{${mark}${params.join('')}${st.block(option.body, exits)}break;}`;
    });
    const chose = ask.stuck ? `if(given[0]!==${STUCK})` : '';
    const acted = this.out.module.mode.quiet ? '' : `${chose}act(seat,${number},given[0]);`;
    if (ask.stuck) {
      const st = new StmtWriter(this.out.module, new Map(this.frame.places));
      cases.push(...code`case ${STUCK}:{${st.block(ask.stuck, exits)}break;}`);
    }
    this.out.emit(`s.f[${WAIT}]=0;const asked=${whole(ASKED)};s.f[${ASKED}]=0;s.f[${ANSWERED}]=0;`);
    this.out.emit(`${this.out.module.each('seat', 'seats')}{if((asked&1<<seat)===0)continue;`);
    this.out.emit(`const given=s.refs[${pendingBase}+seat];s.refs[${pendingBase}+seat]=null;`);
    this.out.emit(code`${assign(place, 'seat')}${acted}switch(given[0]){${cases}}}${goTo(after)}`);
    this.out.at(after);
  }
}
