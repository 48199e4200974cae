import { onScopeDispose, toValue, type MaybeRefOrGetter } from 'vue';
import { KEYS, type KeyUse, type Place, type UseIn } from './keyTable.ts';

/**
 * @param nth which of the keys of its use was pressed, from 0 @returns `false` where the key is not meant for it now
 */
export type KeyAct = (event: KeyboardEvent, nth: number) => unknown;

interface Listening {
  place: Place;
  acts: Readonly<Record<string, KeyAct | undefined>>;
  when: () => boolean;
  within: () => HTMLElement | null | undefined;
}

/** What listens, from the outside in: what came last lies innermost. */
const listening: Listening[] = [];

/** The name of a key that was pressed, as the key table has it: capitals, with which labels begin, are other keys. */
function pressed(event: KeyboardEvent): string | null {
  const { key } = event;
  // Some signs are typed with AltGr.
  if (event.getModifierState('AltGraph')) return key;
  if (event.ctrlKey || event.metaKey) return null;
  return (event.altKey ? 'Alt+' : '') + key;
}

/** Keys that lead from line to line of what is typed. */
const TO_OTHER_LINES = ['ArrowUp', 'ArrowDown', 'PageUp', 'PageDown'];
const ofLines = ({ target, key }: KeyboardEvent): boolean =>
  target instanceof HTMLTextAreaElement && TO_OTHER_LINES.includes(key);

/** Gives a key to the innermost place that has a use for it. */
export function hear(event: KeyboardEvent): void {
  const key = pressed(event);
  if (key === null || event.defaultPrevented || ofLines(event)) return;
  for (const { place, acts, when, within } of listening.toReversed()) {
    const element = within();
    if (element && !(event.target instanceof Node && element.contains(event.target))) continue;
    if (!when()) continue;
    for (const [name, use] of Object.entries<KeyUse>(KEYS[place].uses)) {
      const nth = use.keys.indexOf(key);
      if (nth < 0 || !acts[name] || acts[name](event, nth) === false) continue;
      event.preventDefault();
      return;
    }
  }
}

/** The places whose keys act now, the innermost first. */
export const placesNow = (): Place[] => [
  ...new Set(
    listening
      .toReversed()
      .filter(({ when }) => when())
      .map(({ place }) => place),
  ),
];

interface KeyOptions {
  /** The keys mean nothing otherwise. */
  when?: () => boolean;
  /** They mean something only while the focus is in this element. */
  within?: MaybeRefOrGetter<HTMLElement | null | undefined>;
}

/** Listens to the keys of a place for as long as the component lives. */
export function useKeys<P extends Place>(
  place: P,
  acts: Readonly<Partial<Record<UseIn<P>, KeyAct>>>,
  { when = () => true, within }: KeyOptions = {},
): void {
  const one: Listening = { place, acts, when, within: () => toValue(within) };
  if (listening.length === 0) document.addEventListener('keydown', hear);
  listening.push(one);
  onScopeDispose(() => {
    listening.splice(listening.indexOf(one), 1);
    if (listening.length === 0) document.removeEventListener('keydown', hear);
  });
}
