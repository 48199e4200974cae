/** Marks the entry field, which takes what is typed into it by itself. */
export const ENTRY = 'entry';

const ofEntry = (target: EventTarget | null): target is HTMLInputElement =>
  target instanceof HTMLInputElement && target.name === ENTRY;

/** Whether something is typed into the entry field: Escape clears that before it leaves anything. */
export const typesEntry = ({ target }: Event): boolean => ofEntry(target) && target.value !== '';

/** Whether the hand is nowhere: then the entry field has the focus, with nothing in it. */
export const handIsFree = ({ target }: Event): boolean =>
  target === document.body || (ofEntry(target) && target.value === '');
