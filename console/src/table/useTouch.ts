import type { OfferedOption, TableView } from '@wily-jester/protocol';
import { computed, onMounted, onUnmounted, type Ref, ref, watch } from 'vue';
import { type DrawnPile, type Finisher, finishersOf, secondsOf, setsWith, touchesOf } from './piles';
import type { ChosenArgs, Refused } from './shown';

type Choose = (option: string, args?: ChosenArgs) => Promise<void>;

/** Choosing by touching cards and piles: what is lit, what was picked up, and what a touch plays. */
export function useTouch(
  offers: Readonly<Ref<readonly OfferedOption[]>>,
  view: Readonly<Ref<TableView | null>>,
  refused: Readonly<Ref<Refused | null>>,
  choose: Choose,
) {
  /** Handles of the cards that were picked up, in their order. */
  const picked = ref<string[]>([]);
  /** The one card that was picked up, where it is one. */
  const held = computed(() => (picked.value.length === 1 ? (picked.value[0] ?? null) : null));
  /** The option whose button was pressed, and that now waits for a card. */
  const aimed = ref<string | null>(null);
  const letGo = (): void => {
    picked.value = [];
    aimed.value = null;
  };
  // What was picked up stays in the hand while others answer; a new question empties it.
  watch(() => `${view.value?.viewer} ${view.value?.waiting.ask} ${offers.value.length}`, letGo);
  const onKey = (event: KeyboardEvent): void => {
    if (event.key === 'Escape') letGo();
  };
  onMounted(() => addEventListener('keydown', onKey));
  onUnmounted(() => removeEventListener('keydown', onKey));

  const isAimed = (option: string): boolean => aimed.value === null || aimed.value === option;
  const cardOffers = computed(() =>
    offers.value.filter((offer) => offer.legal && offer.params[0]?.type === 'card' && isAimed(offer.option)),
  );
  const aimedOffers = computed(() => offers.value.filter((offer) => isAimed(offer.option)));
  const pileOffers = computed(() =>
    offers.value.filter((offer) => offer.legal && offer.params[0]?.type === 'pile' && isAimed(offer.option)),
  );
  const directOn = (path: string): OfferedOption | undefined =>
    offers.value.find((offer) => offer.legal && offer.params.length === 0 && offer.on.includes(path));

  const lit = (pile: DrawnPile): ReadonlySet<number> => {
    const positions = new Set<number>();
    for (let i = 1; i <= pile.state.size; i++)
      if (
        touchesOf(cardOffers.value, `${pile.path}#${i}`).length > 0 ||
        setsWith(aimedOffers.value, `${pile.path}#${i}`).length > 0
      )
        positions.add(i);
    return positions;
  };
  const targets = computed<ReadonlySet<string>>(() => {
    const paths = new Set<string>();
    if (held.value !== null)
      for (const offer of touchesOf(cardOffers.value, held.value))
        for (const second of secondsOf(offer, held.value)) if (typeof second === 'string') paths.add(second);
    for (const offer of pileOffers.value) for (const v of offer.params[0]?.values ?? []) paths.add(String(v.value));
    return paths;
  });
  const optionOn = (path: string): string | undefined => directOn(path)?.label;
  const refusedOn = (path: string): string | undefined =>
    offers.value.find((offer) => offer.option === refused.value?.option)?.on.includes(path)
      ? refused.value?.reason
      : undefined;
  const heldIn = (path: string): ReadonlySet<number> =>
    new Set(
      picked.value.flatMap((handle) => {
        const [pile, at] = handle.split('#');
        return pile === path ? [Number(at)] : [];
      }),
    );
  /** What buttons may do with the one card that was picked up. */
  const finishers = computed<readonly Finisher[]>(() =>
    held.value === null ? [] : finishersOf(aimedOffers.value, held.value, (handle) => faceAt(view.value, handle)),
  );

  function touchPile(path: string): void {
    if (held.value !== null && targets.value.has(path)) {
      const offer = touchesOf(cardOffers.value, held.value).find((o) => secondsOf(o, held.value).includes(path));
      if (offer)
        void choose(offer.option, {
          [offer.params[0]?.name ?? '']: held.value,
          [offer.params[1]?.name ?? '']: path,
        });
      return;
    }
    const direct = directOn(path);
    if (direct) {
      void choose(direct.option);
      return;
    }
    const offer = pileOffers.value.find((o) => o.params[0]?.values?.some((v) => v.value === path));
    if (offer) void choose(offer.option, { [offer.params[0]?.name ?? '']: path });
  }
  /** A card that only one option with one parameter may take is played at once; any other is picked up. */
  function touchCard(handle: string): void {
    const fitting = touchesOf(cardOffers.value, handle);
    const [only] = fitting;
    const several = setsWith(aimedOffers.value, handle).length > 0;
    if (fitting.length === 1 && only?.params.length === 1 && !several)
      void choose(only.option, { [only.params[0]?.name ?? '']: handle });
    else if (picked.value.includes(handle)) picked.value = picked.value.filter((other) => other !== handle);
    else picked.value = several ? [...picked.value, handle] : [handle];
  }
  /** A double click plays the quick option, where one completion is legal. */
  function touchTwice(handle: string): void {
    const offer = touchesOf(cardOffers.value, handle).find((o) => o.quick);
    const ways = (offer?.ways ?? []).filter((way) => way[0] === handle);
    if (!offer || ways.length !== 1) return;
    void choose(offer.option, Object.fromEntries(offer.params.map((param, i) => [param.name, ways[0]?.[i] ?? null])));
  }
  const aim = (option: string): void => {
    aimed.value = aimed.value === option ? null : option;
  };

  /** Plays an option of several cards with those that were picked up. */
  function playSet(option: string): void {
    const param = offers.value.find((offer) => offer.option === option)?.params[0];
    if (param) void choose(option, { [param.name]: [...picked.value] });
  }

  return {
    picked,
    finishers,
    playSet,
    lit,
    targets,
    optionOn,
    refusedOn,
    heldIn,
    touchPile,
    touchCard,
    touchTwice,
    aim,
  };
}

/** The face of the card at a handle, as the view has it. */
function faceAt(view: TableView | null, handle: string): string {
  const [path = '', at] = handle.split('#');
  let node: unknown = view?.piles;
  for (const step of path.split('/')) node = (node as Record<string, unknown> | undefined)?.[step];
  return (node as { cards?: (string | null)[] } | undefined)?.cards?.[Number(at) - 1] ?? 'it';
}
