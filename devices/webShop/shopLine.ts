/** The shop has refused something, and would again. */
export class Refused extends Error {}

const PATIENCE_MS = 5_000;

/** What the shop says where it refuses. */
interface Problem {
  title?: string;
  fields?: { message: string }[];
}

/**
 * Asks the shop something as a channel does. @throws Refused where the shop does not want it, Error where it cannot
 * be asked
 */
export async function askShop<T>(
  shop: string,
  key: string,
  method: 'GET' | 'POST' | 'PUT',
  path: string,
  body?: object,
): Promise<T> {
  const answer = await fetch(`${shop}/api/channel${path}`, {
    method,
    headers: { authorization: `Bearer ${key}`, 'content-type': 'application/json' },
    ...(body && { body: JSON.stringify(body) }),
    signal: AbortSignal.timeout(PATIENCE_MS),
  }).catch(() => {
    throw new Error('The shop cannot be reached.');
  });
  const text = await answer.text();
  if (answer.ok) return JSON.parse(text) as T;
  if (answer.status >= 500) throw new Error(`The shop answers with ${answer.status}.`);
  const { title = '', fields = [] } = JSON.parse(text) as Problem;
  throw new Refused(fields.map(({ message }) => message).join(' ') || title);
}
