import { ref } from 'vue';
import type { HouseEvent } from '../../contract/events.ts';

/** What happens in the house, and that the line is there (again). */
export type Heard = HouseEvent | { kind: 'connected' };
type Listener = (event: Heard) => void;

const listeners = new Set<Listener>();
let source: EventSource | undefined;

/** Whether the server is heard. */
export const connected = ref(true);

/** Hears what happens in the house; `connected` comes whenever the line is there (again), to read afresh. */
export function hear(listener: Listener): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

export function startHearing(): void {
  source?.close();
  source = new EventSource('/api/events');
  source.addEventListener('hello', () => {
    connected.value = true;
    for (const listener of listeners) listener({ kind: 'connected' });
  });
  source.addEventListener('message', ({ data }: MessageEvent<string>) => {
    for (const listener of listeners) listener(JSON.parse(data) as HouseEvent);
  });
  source.addEventListener('error', () => {
    connected.value = false;
    // A refused line is closed for good; a lost one is tried again by the browser.
    if (source?.readyState === EventSource.CLOSED) setTimeout(() => source && startHearing(), 2000);
  });
}

export function stopHearing(): void {
  source?.close();
  source = undefined;
}
