/**
 * What somebody has typed into a form that is not kept yet. It stands in the browser, so that neither a reload nor a
 * till that is locked nor a power cut loses it; for its own person only, and not for long: it may be about people.
 */
export interface TypedBefore {
  /** When its last letter was typed, as an ISO instant. */
  at: string;
  /** What the form has otherwise than it began with, by field. */
  parts: Record<string, unknown>;
  /** What was typed before it, and not kept either. */
  before?: TypedBefore;
}

const PREFIX = 'mondrel.typed.';
const LONGEST_MS = 2 * 24 * 60 * 60 * 1000;

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

function forgetWhere(is: (place: string) => boolean): void {
  const places = Array.from({ length: localStorage.length }, (_, nth) => localStorage.key(nth) ?? '');
  places.filter((place) => place.startsWith(PREFIX) && is(place)).forEach(forgetTyped);
}

/** Forgets what anybody has typed into a form on this device. */
export const forgetTypedInto = (form: string): void => forgetWhere((place) => place.endsWith(`.${form}`));

/** Somebody types from now on; what nobody has come back for is cleared away. */
export function typesFromNow(who: number): void {
  staffId = who;
  const tooOld = (place: string) => Date.now() - Date.parse(recallTyped(place)?.at ?? '') > LONGEST_MS;
  forgetWhere(tooOld);
}
