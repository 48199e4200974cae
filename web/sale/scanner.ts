import { onScopeDispose } from 'vue';
import { ENTRY } from '../keys/entry.ts';

/** Keys of a scanner follow each other faster than anybody types. */
const FASTER_MS = 40;
const SHORTEST = 6;
/** Between keys that people typed and a scan there is so long a pause: a few of theirs may come fast, too. */
const PAUSE_MS = 300;
/** What labels hold (the characters of Code 39); people type words with small letters. */
const ON_LABELS = /^[\dA-Z .$/+%*-]+$/;

type Field = HTMLInputElement | HTMLTextAreaElement;

function isField(target: EventTarget | null): target is Field {
  return target instanceof HTMLInputElement || target instanceof HTMLTextAreaElement;
}

/** Forms that ask for a code, the innermost last. */
const askers: { take: (code: string) => void; when: () => boolean }[] = [];

/** For as long as the component lives, what is scanned goes to it and not into the basket, wherever the focus is. */
export function useScans(take: (code: string) => void, when: () => boolean = () => true): void {
  const asker = { take, when };
  askers.push(asker);
  onScopeDispose(() => askers.splice(askers.indexOf(asker), 1));
}

const asking = () => askers.findLast(({ when }) => when());

/**
 * Hears a scanner (fast keystrokes ending in Enter) wherever the focus is, except inside a field that was
 * clicked on purpose while no form asks for a code. What the scanner typed into another field is taken out of it again.
 * @param onScan gets the code; with `3*` already typed into the entry field, that stands in front of it
 * @returns a function that stops listening
 */
export function listenForScans(onScan: (code: string) => void): () => void {
  let code = '';
  let last = 0;
  let byHand = false;
  let before: { field: Field; value: string } | undefined;
  let onPurpose: EventTarget | null = null;

  function pointerDown({ target }: PointerEvent): void {
    onPurpose = isField(target) && target.name !== ENTRY ? target : null;
  }

  function keyDown(event: KeyboardEvent): void {
    const { target, key, timeStamp } = event;
    if (event.ctrlKey || event.altKey || event.metaKey || event.isComposing) return;
    if (onPurpose && target === onPurpose && !asking()) return;
    if (key === 'Enter') {
      if (!byHand && code.length >= SHORTEST && ON_LABELS.test(code) && timeStamp - last < FASTER_MS * 2)
        finish(event);
      last = 0;
      return;
    }
    if (key.length !== 1) {
      // Capitals come with Shift; what comes after any other key begins anew.
      if (key !== 'Shift') last = 0;
      return;
    }
    const gap = timeStamp - last;
    if (gap <= PAUSE_MS) {
      if (gap > FASTER_MS) byHand = true;
    } else {
      code = '';
      byHand = false;
      // Where nothing has the focus, the entry field gets it with the first key.
      const field = isField(target) ? target : entryField();
      before = field ? { field, value: field.value } : undefined;
    }
    code += key;
    last = timeStamp;
  }

  function finish(event: KeyboardEvent): void {
    // A key that means something to the page (+, −) came just before and was not typed.
    const written = before?.field.value ?? '';
    if (written.length >= SHORTEST && code.endsWith(written)) code = written;
    const inEntry = before?.field.name === ENTRY;
    const typed = before?.value ?? '';
    // Typed whole into the empty entry field, it goes the way of everything that is typed there.
    const whole = before?.field.value === typed + code;
    const asker = asking();
    if (inEntry && whole && typed === '' && !asker) return;
    event.preventDefault();
    event.stopImmediatePropagation();
    const quantity = inEntry && typed.trimEnd().endsWith('*') ? typed : '';
    if (before) put(before.field, quantity ? '' : typed);
    // The focus may have gone to the entry field in the middle of the scan.
    const entry = entryField();
    if (entry && entry !== before?.field && code.endsWith(entry.value)) put(entry, '');
    if (asker) asker.take(code);
    else onScan(quantity + code);
  }

  window.addEventListener('keydown', keyDown, true);
  window.addEventListener('pointerdown', pointerDown, true);
  return () => {
    window.removeEventListener('keydown', keyDown, true);
    window.removeEventListener('pointerdown', pointerDown, true);
  };
}

function entryField(): HTMLInputElement | null {
  return document.querySelector<HTMLInputElement>(`input[name="${ENTRY}"]`);
}

function put(field: Field, value: string): void {
  field.value = value;
  field.dispatchEvent(new Event('input', { bubbles: true }));
}
