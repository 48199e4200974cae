/** What is promised to a customer, and the letter before its number. */
export const PROMISE_KINDS = { layaway: 'L', order: 'O', relay: 'R' } as const;

export type PromiseKind = keyof typeof PROMISE_KINDS;

/** What a promise of a kind is called. */
export const PROMISE_NAMES: Readonly<Record<PromiseKind, string>> = {
  layaway: 'Layaway',
  order: 'Order',
  relay: 'Relay',
};

/** A promise's number as printed and scanned: `L-0007`. */
export const promiseNumber = (kind: PromiseKind, count: number): string =>
  `${PROMISE_KINDS[kind]}-${String(count).padStart(4, '0')}`;

/** Reads the number of a promise. @returns `null` when the text is none */
export function parsePromiseNumber(text: string): { kind: PromiseKind; count: number } | null {
  const match = /^([A-Z])-(\d{4,9})$/i.exec(text.trim());
  const letter = match?.[1]?.toUpperCase();
  const kind = (Object.keys(PROMISE_KINDS) as PromiseKind[]).find((one) => PROMISE_KINDS[one] === letter);
  return kind && match ? { kind, count: Number(match[2]) } : null;
}
