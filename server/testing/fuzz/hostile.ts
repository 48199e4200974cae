import type { Router } from 'express';
import type { AnySchema } from '../../../contract/yup.ts';
import { seeded } from '../../../demo/random.ts';
import type { Taking } from '../../http/write.ts';

/** One route of the application. */
export interface Route {
  method: 'GET' | 'POST' | 'PUT' | 'DELETE';
  /** With its parameters as they are written, e.g. `/journal/sales/:id`. */
  path: string;
  /** What its body is, where it says so. */
  takes: AnySchema | null;
}

interface Layer {
  route?: { path: string; methods: Record<string, boolean>; stack: { handle: Partial<Taking> }[] };
}

/** Every route of some routers, read off the routers themselves: a new one is among them by being there. */
export function routesOf(rooms: readonly (readonly [string, Router])[]): Route[] {
  return rooms.flatMap(([address, router]) =>
    (router.stack as unknown as Layer[]).flatMap(({ route }) =>
      route
        ? Object.keys(route.methods).map((method) => ({
            method: method.toUpperCase() as Route['method'],
            path: `${address}${route.path}`,
            takes: route.stack.map(({ handle }) => handle.takes).find(Boolean) ?? null,
          }))
        : [],
    ),
  );
}

/** What may be sent to a route. */
export interface Attack {
  address: string;
  headers: Record<string, string>;
  body: string | undefined;
}

const TEXTS = [
  '',
  ' ',
  '0',
  '-1',
  '2147483648',
  '9007199254740993',
  '1e309',
  'NaN',
  'null',
  '2026-02-31',
  '2026-13-01',
  '0000-00-00',
  '\0',
  'a\0b',
  '\ud800',
  '\udfff\ud800',
  '%',
  "' or 1=1 --",
  '"; drop table sale; --',
  '../../etc/passwd',
  '<script>',
  'é'.repeat(300),
  'x'.repeat(5_000),
  '00000000-0000-0000-0000-000000000000',
  '11111111-1111-4111-8111-111111111111',
  '{{7*7}}',
  '🎻',
];
const NUMBERS = [
  0, -1, 1, 0.5, -0.0001, 2_147_483_647, 2_147_483_648, -2_147_483_649, 9_007_199_254_740_991, 1e21, 1e300,
  -1e300,
];
const WORDS = [
  'id',
  'basket',
  'lines',
  'quantity',
  'parts',
  'reason',
  'pin',
  'tillId',
  'amount',
  'pieces',
  'expected',
  'name',
  'kind',
  'expectedTotal',
  'handed',
  'typeId',
  'number',
  'covers',
  'right',
  'basketId',
  'revision',
  'from',
  'to',
  'shelves',
  'customer',
  'discounts',
  'csv',
  'press',
  'press',
  'state',
  'rule',
  'conditions',
  'limits',
  'signature',
  'position',
  'saleId',
  'note',
  'by',
  'find',
  'page',
  'float',
  'others',
  'bagNumber',
  'witness',
  'role',
  'active',
];
const RAW = [
  '',
  '{',
  '[',
  'null',
  '1',
  '"x"',
  '[]',
  '{"a":',
  '\ufeff{}',
  '{"__proto__":{"admin":true}}',
  '[[[[[[[[[[[[[[[[]]]]]]]]]]]]]]]]',
  '{"a":1e999}',
];
const TYPES = [
  'application/json',
  'application/json',
  'application/json',
  'application/json; charset=klingon',
  'text/plain',
  'application/x-www-form-urlencoded',
  '',
];

/**
 * Makes attacks on a route, the same ones for the same seed. @param samples bodies that are nearly right, to be bent
 */
export function attacker(seed: number, samples: readonly object[]) {
  const random = seeded(seed);
  const upTo = (most: number) => Math.floor(random() * most);
  const pick = <One>(all: readonly One[]): One => all[upTo(all.length)] as One;

  function anything(depth = 0): unknown {
    const dice = upTo(depth > 3 ? 6 : 9);
    switch (dice) {
      case 0:
        return null;
      case 1:
        return random() < 0.5;
      case 2:
      case 3:
        return pick(NUMBERS);
      case 4:
      case 5:
        return pick(TEXTS);
      case 6:
        return Array.from({ length: pick([0, 1, 3, 3, 50, 2_000]) }, () =>
          pick<unknown>([1, '', null, {}, []]),
        );
      case 7:
        return Array.from({ length: upTo(4) }, () => anything(depth + 1));
      default:
        return someObject(depth + 1);
    }
  }

  function someObject(depth: number): object {
    const made: Record<string, unknown> = {};
    for (let at = upTo(8); at > 0; at--) {
      const key = random() < 0.05 ? pick(['__proto__', 'constructor', 'toString', '', '\0']) : pick(WORDS);
      Object.defineProperty(made, key, {
        value: anything(depth),
        enumerable: true,
        configurable: true,
        writable: true,
      });
    }
    return made;
  }

  /** A body that is nearly right, with one thing in it bent. */
  function bent(sample: unknown): unknown {
    if (random() < 0.15 || typeof sample !== 'object' || sample === null) return anything();
    if (Array.isArray(sample)) return sample.map((one) => (random() < 0.4 ? bent(one) : one));
    const keys = Object.keys(sample);
    const key = pick(keys);
    return {
      ...sample,
      [key]: key === undefined ? anything() : bent((sample as Record<string, unknown>)[key]),
    };
  }

  const encode = (text: string): string => {
    try {
      return encodeURIComponent(text);
    } catch {
      return '%ED%A0%80';
    }
  };

  return function attack({ method, path }: Route): Attack {
    const filled = path
      .replaceAll(/\{\.:\w+\}/g, () => pick(['', '.txt', '.pdf', '.csv', '.exe']))
      .replaceAll(/\{[^}]*\}/g, '')
      .replaceAll(/:\w+/g, () =>
        random() < 0.4
          ? pick(['1', '2', '00000000-0000-4000-8000-000000000000'])
          : encode(pick(TEXTS)) || '0',
      );
    const query =
      random() < 0.4
        ? `?${pick(WORDS)}=${encode(pick(TEXTS))}&${pick(['from', 'to', 'find', 'page', 'since', 'next', 'tillId'])}=${encode(pick(TEXTS))}`
        : '';
    const broken = random() < 0.02 ? pick(['%', '%zz', '%E0%A4%A', '%00']) : '';
    const writes = method !== 'GET';
    const dice = random();
    const body = !writes
      ? undefined
      : dice < 0.15
        ? pick(RAW)
        : JSON.stringify(dice < 0.6 && samples.length > 0 ? bent(pick(samples)) : anything());
    return {
      address: `${filled}${broken}${query}`,
      headers: {
        'content-type': pick(TYPES),
        'idempotency-key': random() < 0.95 ? uuid() : pick(['', 'x', '1']),
        'setup-seen': random() < 0.9 ? String(upTo(100)) : pick(['', 'x', '-1', '1e400', '9'.repeat(30)]),
        ...(random() < 0.03 ? { 'accept-encoding': pick(TEXTS).replaceAll(/[^\x20-\x7e]/g, '') } : {}),
      },
      body,
    };
  };

  function uuid(): string {
    const hex = (length: number) => Array.from({ length }, () => upTo(16).toString(16)).join('');
    return `${hex(8)}-${hex(4)}-4${hex(3)}-8${hex(3)}-${hex(12)}`;
  }
}
