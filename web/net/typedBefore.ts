/**
 * What somebody has typed into a form that is not kept yet. It stands in the browser, so that neither a reload nor a
 * till that is locked nor a power cut loses it; for its own person only, and not for long: it may be about people.
 */
export interface TypedBefore {
  /** What the form is called. */
  title: string;
  /** When its last letter was typed, as an ISO instant. */
  at: string;
  /** What the form has otherwise than it began with, by field. */
  parts: Record<string, unknown>;
  /** Its person left it on purpose: they need not be told. */
  left?: boolean;
  /** What was typed before it, and not kept either. */
  before?: TypedBefore;
}

const PREFIX = 'mondrel.typed.';
const HOUR_MS = 60 * 60 * 1000;
const LONGEST_MS = 48 * HOUR_MS;

/** Nobody, before somebody is signed in. */
let staffId = 0;

/** Where a form of whoever is here stands. */
export const placeOf = (form: string): string => `${PREFIX}${staffId}.${form}`;

export function recallTyped(place: string): TypedBefore | null {
  const stored = localStorage.getItem(place);
  return stored ? (JSON.parse(stored) as TypedBefore) : null;
}

export function keepTyped(place: string, typed: TypedBefore): void {
  try {
    localStorage.setItem(place, JSON.stringify(typed));
  } catch {
    // The browser has no room for it: as if the form had no memory.
    localStorage.removeItem(place);
  }
}

export const forgetTyped = (place: string): void => localStorage.removeItem(place);

const placesLike = (is: (place: string) => boolean): string[] =>
  Array.from({ length: localStorage.length }, (_, nth) => localStorage.key(nth) ?? '').filter(
    (place) => place.startsWith(PREFIX) && is(place),
  );

/** Forgets what anybody has typed into a form on this device. */
export const forgetTypedInto = (form: string): void =>
  placesLike((place) => place.endsWith(`.${form}`)).forEach(forgetTyped);

const ageOf = (place: string): number => Date.now() - Date.parse(recallTyped(place)?.at ?? '');

/** Somebody types from now on; what nobody has come back for is cleared away. */
export function typesFromNow(who: number): void {
  staffId = who;
  placesLike((place) => ageOf(place) > LONGEST_MS).forEach(forgetTyped);
}

/** What the form is called that was taken from whoever is here last, within the hour: a lock, a reload, a power cut. */
export function titleOfLastTyped(): string | undefined {
  const [place] = placesLike((one) => one.startsWith(placeOf('')) && ageOf(one) < HOUR_MS).toSorted(
    (a, b) => ageOf(a) - ageOf(b),
  );
  const typed = place ? recallTyped(place) : null;
  return typed && !typed.left ? typed.title : undefined;
}
