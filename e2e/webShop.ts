/** Orders a practice pad at the web shop, as its form does. @returns what the web shop calls the order */
export async function orderAtWebShop(
  { webShop }: { webShop: string },
  typed: Record<string, string> = {},
): Promise<string> {
  const form = {
    'item:PAD-08': '1',
    name: 'Ottilie Brandreth',
    mail: 'ottilie@reader.example',
    way: 'collect',
    place: '1',
    day: '2026-03-03',
    time: '12:00',
    pay: 'now',
    do: 'order',
    ...typed,
  };
  const answer = await fetch(`${webShop}/order`, { method: 'POST', body: new URLSearchParams(form) });
  const reference = /\/orders\/(.+)$/.exec(answer.url)?.[1];
  if (!reference) throw new Error(`nothing was ordered: ${await answer.text()}`);
  return reference;
}
