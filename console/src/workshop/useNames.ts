import { type Ref, shallowRef } from 'vue';
import { type DraftTexts, type FileName, filesIn, textOf, withText } from './files';
import type { useLanguage } from './useLanguage';
import type { FilePlace } from './workers/language.worker';

/** Names in the texts: where they are declared, other names for them; and the texts' layout. */
export function useNames(around: {
  readonly language: ReturnType<typeof useLanguage>;
  readonly texts: Readonly<Ref<DraftTexts | null>>;
  readonly file: Readonly<Ref<FileName>>;
  readonly isReadOnly: Readonly<Ref<boolean>>;
  set(texts: DraftTexts): void;
  goTo(place: FilePlace): Promise<void>;
  focus(): void;
}) {
  const { language, texts, file, isReadOnly } = around;
  const renaming = shallowRef<{ readonly offset: number; readonly name: string } | null>(null);
  const textNow = (): string => (texts.value ? textOf(texts.value, file.value) : '');

  async function define(offset: number): Promise<void> {
    const [place] = await language.ask((it) => it.definitions(file.value, offset, textNow()));
    if (place) await around.goTo(place);
  }
  /** Asks for another name, where the thing at a place has one. */
  async function askName(offset: number): Promise<void> {
    if (isReadOnly.value) return;
    const places = await language.ask((it) => it.references(file.value, offset, textNow()));
    const here = places.find((place) => place.file === file.value && place.from <= offset && offset <= place.to);
    if (here) renaming.value = { offset, name: textNow().slice(here.from, here.to) };
  }
  /** Gives it in all files at once; what is wrong with the name, or `null`. */
  async function rename(name: string): Promise<string | null> {
    const at = renaming.value;
    if (!at || !texts.value) return null;
    const found = await language.ask((it) => it.rename(file.value, at.offset, name));
    if (found.problem !== null) return found.problem;
    let next = texts.value;
    for (const one of filesIn(next)) {
      // From the end on: places before stay where they are.
      const places = found.places.filter((place) => place.file === one).sort((a, b) => b.from - a.from);
      let text = textOf(next, one);
      for (const { from, to } of places) text = text.slice(0, from) + name + text.slice(to);
      next = withText(next, one, text);
    }
    around.set(next);
    renaming.value = null;
    around.focus();
    return null;
  }
  async function format(): Promise<void> {
    if (!texts.value || isReadOnly.value) return;
    const now = textNow();
    const laid = await language.ask((it) => it.format(now));
    if (laid !== now) around.set(withText(texts.value, file.value, laid));
  }
  return { renaming, define, askName, rename, format };
}
