type Field = HTMLInputElement | HTMLTextAreaElement;

/**
 * What stood in fields of forms before something was typed into them that the server has not got yet. Once it takes
 * something, all is saved: nobody is asked about what is done.
 */
const before = new Map<Field, string>();

/** What only looks for something: it is typed again in a moment. */
const LOOKS = '[role="combobox"], [data-looks] *';

const isField = (target: EventTarget | null): target is Field =>
  target instanceof HTMLInputElement || target instanceof HTMLTextAreaElement;

/** Notes what is typed into forms of pages. */
export function watchForms(page: Document): void {
  page.addEventListener('beforeinput', ({ target }) => {
    if (isField(target) && target.closest('main form') && !target.matches(LOOKS) && !before.has(target))
      before.set(target, target.value);
  });
}

/** It was saved, or is let go on purpose. */
export const nothingUnsaved = (): void => before.clear();

/** The server took something. What a till tells of its basket by itself is no form of a page. */
export function took(path: string): void {
  if (!path.startsWith('/counter/')) nothingUnsaved();
}

/** What would be lost with this page, by the name of its form; nothing where there is none. */
export function unsavedForm(): string | undefined {
  for (const field of before.keys()) if (!field.isConnected) before.delete(field);
  // What a scanner typed was taken out again.
  const [field] = [...before].find(([{ value }, stood]) => value !== stood) ?? [];
  const form = field?.closest('form');
  if (!form) return undefined;
  const titled = form.getAttribute('aria-labelledby');
  const title = titled ? document.getElementById(titled)?.textContent : form.getAttribute('aria-label');
  return title?.trim() ? `“${title.trim()}”` : 'What was typed';
}
