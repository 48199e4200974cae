import { read } from './api.ts';

/** Which pages this window was loaded with: the server says it with each page. */
export const editionHere = (): string =>
  document.querySelector<HTMLMetaElement>('meta[name="edition"]')?.content ?? '';

/**
 * Loads a page from the server, with all of its program: what is rung up and kept on the way is there again. Without
 * a server the browser would put a page of its own in its place.
 * @returns whether the server is there
 */
export async function loadAnew(address: string): Promise<boolean> {
  try {
    await read('/health');
  } catch {
    return false;
  }
  location.assign(address);
  return true;
}
