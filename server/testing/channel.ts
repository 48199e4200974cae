import type { ChannelOrder, ChannelState, Quote } from '../../contract/channels.ts';
import type { ProblemDetails } from '../../contract/problem.ts';
import { DEMO_CHANNEL_KEY } from '../../demo/data/channels.ts';
import type { TestHouse } from './testHouse.ts';

/** Asks the shop as a channel does. */
export async function askAsChannel<T = ChannelState & ProblemDetails>(
  { url }: Pick<TestHouse, 'url'>,
  method: string,
  path: string,
  body?: object,
  key = DEMO_CHANNEL_KEY,
): Promise<{ status: number; body: T }> {
  const answer = await fetch(`${url}/api/channel${path}`, {
    method,
    headers: { authorization: `Bearer ${key}`, 'content-type': 'application/json' },
    ...(body && { body: JSON.stringify(body) }),
  });
  return { status: answer.status, body: (await answer.json()) as T };
}

let counted = 2000;

/**
 * An order of a customer as the channel sends it, collected at the first place and paid unless something else is
 * said.
 */
export async function orderThere(
  test: Pick<TestHouse, 'url'>,
  change: Partial<ChannelOrder> = {},
  goods: readonly (readonly [number: string, quantity: number])[] = [['PAD-08', 1]],
): Promise<ChannelOrder> {
  const asked = { lines: goods.map(([number, quantity]) => ({ number, quantity })), postcode: null };
  const { lines, total, places } = (await askAsChannel<Quote>(test, 'POST', '/quotes', asked)).body;
  counted += 1;
  return {
    reference: `WEB-${counted}`,
    customer: { name: 'Ottilie Brandreth', mail: 'ottilie@reader.example', phone: '' },
    lines: lines.map(({ number, quantity, unitPrice }) => ({ number, quantity, unitPrice })),
    collect: { placeId: 1, ...(places[0]?.first ?? { day: '', time: '' }), collector: '' },
    ship: null,
    fee: 0,
    total,
    payment: { reference: `pay ${counted}`, amount: total },
    trouble: '',
    note: '',
    ...change,
  };
}
