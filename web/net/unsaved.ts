import { toRaw } from 'vue';

type Field = HTMLInputElement | HTMLTextAreaElement;

/** A form with a memory: it knows itself what is not kept of it. */
export interface RememberingForm {
  title: () => string;
  changed: () => boolean;
  /** It was saved, or is let go on purpose: until something else is typed there is nothing to ask about. */
  letGo: () => void;
  /** The server took something: what is being sent, if anything of it is. */
  took: () => void;
  /** What its fields are bound to. */
  parts: readonly object[];
  /** What others have changed meanwhile is what it begins with now. */
  beginsWith: (now: object) => void;
}
const remembering = new Set<RememberingForm>();

/** Counts a form among those that are asked about. @returns what ends that */
export function watchForm(form: RememberingForm): () => void {
  remembering.add(form);
  return () => void remembering.delete(form);
}

/** A form has taken over what is kept now, but where its person has typed. */
export function follows(fields: object, now: object): void {
  for (const form of remembering)
    if (form.parts.some((part) => toRaw(part) === toRaw(fields))) form.beginsWith(now);
}

/**
 * What stood in fields of the other forms before something was typed into them that the server has not got yet. Once
 * it takes something, all is saved: nobody is asked about what is done.
 */
const before = new Map<Field, string>();

/** What only looks for something: it is typed again in a moment. */
const LOOKS = '[role="combobox"], [data-looks] *';

const isField = (target: EventTarget | null): target is Field =>
  target instanceof HTMLInputElement || target instanceof HTMLTextAreaElement;

let pressed = 0;
/** How often a key or the page was pressed: what changes in a form before that was filled in, not typed. */
export const presses = (): number => pressed;

/** Notes what is typed into forms of pages. */
export function watchForms(page: Document): void {
  page.addEventListener('beforeinput', ({ target }) => {
    if (isField(target) && target.closest('main form') && !target.matches(LOOKS) && !before.has(target))
      before.set(target, target.value);
  });
  for (const press of ['keydown', 'pointerdown', 'click', 'beforeinput'])
    page.addEventListener(press, () => (pressed += 1), true);
}

/** It is let go on purpose. */
export function nothingUnsaved(): void {
  before.clear();
  for (const form of remembering) form.letGo();
}

/** The server took something. What a till tells of its basket by itself is no form of a page. */
export function took(path: string): void {
  if (path.startsWith('/counter/')) return;
  before.clear();
  for (const form of remembering) form.took();
}

/** What would be lost with this page, by the name of its form; nothing where there is none. */
export function unsavedForm(): string | undefined {
  for (const form of remembering) if (form.changed()) return `“${form.title()}”`;
  for (const field of before.keys()) if (!field.isConnected) before.delete(field);
  // What a scanner typed was taken out again.
  const [field] = [...before].find(([{ value }, stood]) => value !== stood) ?? [];
  const form = field?.closest('form');
  if (!form) return undefined;
  const titled = form.getAttribute('aria-labelledby');
  const title = titled ? document.getElementById(titled)?.textContent : form.getAttribute('aria-label');
  return title?.trim() ? `“${title.trim()}”` : 'What was typed';
}
