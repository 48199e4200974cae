import { ref } from 'vue';
import type { Hello, HouseEvent } from '../../contract/events.ts';

/** What happens in the house, and that the line is there (again). */
export type Heard = HouseEvent | ({ kind: 'connected' } & Partial<Hello>);
type Listener = (event: Heard) => void;

const listeners = new Set<Listener>();
let source: EventSource | undefined;
/** Milliseconds after which nobody waits for the line any more: pages read afresh once it is there. */
const LINE_MS = 1000;
/** Milliseconds of silence after which the line is dead, though nobody has said so: three times the server is heard. */
const SILENT_MS = 15_000;
let silence: ReturnType<typeof setTimeout> | undefined;
let died = new AbortController();

/** Whether the server is heard. */
export const connected = ref(true);

/**
 * Aborts what is on its way once the line is found dead: it is not answered any more. Where nobody hears, nobody can
 * know.
 * @returns nothing where there is no line
 */
export const whileLineLives = (): AbortSignal | undefined => (source ? died.signal : undefined);

/** Hears what happens in the house; `connected` comes whenever the line is there (again), to read afresh. */
export function hear(listener: Listener): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

function heard(): void {
  clearTimeout(silence);
  silence = setTimeout(() => {
    connected.value = false;
    died.abort();
    died = new AbortController();
    void startHearing();
  }, SILENT_MS);
}

/**
 * Begins to hear, and waits for the line if it comes soon: what is read from then on is told when it changes, and
 * need not be read a second time.
 */
export function startHearing(): Promise<void> {
  source?.close();
  const line = new EventSource('/api/events');
  source = line;
  heard();
  line.addEventListener('hello', ({ data }: MessageEvent<string>) => {
    heard();
    connected.value = true;
    for (const listener of listeners)
      listener({ kind: 'connected', ...(JSON.parse(data) as Partial<Hello>) });
  });
  line.addEventListener('here', heard);
  line.addEventListener('message', ({ data }: MessageEvent<string>) => {
    heard();
    for (const listener of listeners) listener(JSON.parse(data) as HouseEvent);
  });
  line.addEventListener('error', () => {
    connected.value = false;
    // A refused line is closed for good; a lost one is tried again by the browser.
    if (line.readyState === EventSource.CLOSED) setTimeout(() => source === line && startHearing(), 2000);
  });
  return new Promise((resolve) => {
    for (const known of ['hello', 'error']) line.addEventListener(known, () => resolve(), { once: true });
    setTimeout(resolve, LINE_MS);
  });
}

export function stopHearing(): void {
  clearTimeout(silence);
  source?.close();
  source = undefined;
}
