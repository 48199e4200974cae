import type { TestHouse } from './testHouse.ts';

type Hub = Pick<TestHouse, 'hub'>;

/** An order as a partner passes it on, on the page of the hub. */
export const PASSED = {
  partner: 'CORRAN',
  goods: 'A ukulele in a blue bag',
  part: '64.00',
  day: '2026-03-04',
  recipient: 'Aldous Penhale',
  street: 'Reed Street 8',
  postcode: '40100',
  city: 'Ostler',
  phone: '555-0144',
  wishes: 'Ring twice',
  card: 'Play on',
};

/** A partner passes an order on. @returns how the page answers */
export const passOn = ({ hub }: Hub, change: Partial<typeof PASSED> = {}): Promise<Response> =>
  fetch(`${hub ?? ''}/passed`, {
    method: 'POST',
    body: new URLSearchParams({ ...PASSED, ...change }),
    redirect: 'manual',
  });

/** What the page of the hub says of an order; nothing where it has none of that number. */
export async function atHub({ hub }: Hub, number: string): Promise<string> {
  const page = await (await fetch(`${hub ?? ''}/`)).text();
  return new RegExp(`id="order-${number}".*?</article>`, 's').exec(page)?.[0] ?? '';
}

/** The partner says something of an order. @returns whether the hub has it */
export async function sayAtHub(test: Hub, number: string, kind: string, words = ''): Promise<boolean> {
  const reference = /action="\/orders\/([^"]+)"/.exec(await atHub(test, number))?.[1];
  if (reference === undefined) return false;
  const body = new URLSearchParams({ kind, words });
  const { status } = await fetch(`${test.hub ?? ''}/orders/${reference}`, {
    method: 'POST',
    body,
    redirect: 'manual',
  });
  return status === 303;
}
