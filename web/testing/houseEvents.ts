/** What happens in the house, for tests in the place of `net/houseEvents.ts`: it is heard when a test tells it. */
interface Told {
  kind: string;
  [more: string]: unknown;
}

let listener: (event: Told) => void = () => {};

export function hear(heard: (event: Told) => void): () => void {
  listener = heard;
  return () => {};
}

/** Tells it to whoever began to listen last. */
export const tell = (event: Told): void => listener(event);
