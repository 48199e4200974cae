import type { Step } from '../core/staff/approval.ts';
import type { Right } from '../core/staff/rights.ts';
import type { FigureProblem, StoredBasket, UsedUpProblem } from './counter.ts';
import type { OpenShift } from './drawer.ts';
import type { LikelySame } from './people.ts';
import type { StoredShelves } from './shelves.ts';

/** Every kind of problem that the server answers with, and its HTTP status. */
export const PROBLEMS = {
  answered: 409,
  'backup-failed': 503,
  'basket-changed': 409,
  'basket-held': 409,
  'basket-not-empty': 409,
  'basket-taken': 409,
  'cannot-correct': 409,
  'cannot-forget': 409,
  'cannot-keep-card': 409,
  'cannot-void': 409,
  'card-replaced': 409,
  'changed-meanwhile': 409,
  'channel-closed': 403,
  closed: 409,
  'code-used': 409,
  'count-changed': 409,
  'countersign-needed': 403,
  'customer-known': 409,
  'disk-full': 507,
  'drawer-open': 409,
  'expected-changed': 409,
  failed: 500,
  'figures-differ': 409,
  held: 409,
  'key-used': 422,
  'left-over': 409,
  'money-taken': 409,
  'no-basket': 404,
  'no-card': 404,
  'no-cash-move': 404,
  'no-code': 404,
  'no-codes': 409,
  'no-group': 404,
  'no-import': 404,
  'no-customer': 404,
  'group-in-use': 409,
  'import-running': 409,
  'no-count': 404,
  'no-delivery': 404,
  'no-item': 404,
  'no-order': 404,
  'no-supplier': 404,
  'no-transfer': 404,
  'no-key': 400,
  'no-labels': 404,
  'no-offer': 404,
  'no-open-drawer': 409,
  'no-opening': 404,
  'no-person': 404,
  'no-promise': 404,
  'no-picture': 404,
  'no-rehearsal': 404,
  'no-right': 403,
  'no-sale': 404,
  'no-shift': 404,
  'no-tender': 404,
  'no-terminal': 404,
  'no-till': 404,
  'no-void': 404,
  'nobody-left': 409,
  'not-allowed': 403,
  'not-available': 409,
  'not-an-address': 400,
  'not-found': 404,
  'not-json': 400,
  'not-signed-in': 401,
  'not-valid': 422,
  'number-taken': 409,
  'offer-ended': 409,
  'offer-not-live': 409,
  'offer-used-up': 409,
  'other-origin': 403,
  'other-till': 403,
  'paid-elsewhere': 409,
  'paper-settled': 409,
  'payment-changed': 409,
  'payment-open': 409,
  'pin-taken': 422,
  'promise-changed': 409,
  'rate-began': 409,
  'refund-under-way': 409,
  refused: 409,
  'rehearsal-running': 409,
  'returned-meanwhile': 409,
  'sale-finished': 409,
  'serial-gone': 409,
  'shelves-changed': 409,
  'shop-exists': 409,
  'too-large': 413,
  'too-many': 409,
  'too-much-taken': 409,
  'units-asked': 422,
  'unknown-host': 421,
  'unknown-till': 422,
  unreachable: 503,
  wait: 429,
  'wrong-key': 401,
  'wrong-pin': 401,
} as const satisfies Record<string, number>;

export type ProblemType = keyof typeof PROBLEMS;

/** What somebody with more rights has to approve. */
export interface CountersignNeeded {
  right: Right;
  /** The id of the basket, cash move or sale that it is about. */
  about: string;
  steps: readonly Step[];
}

/** Figures or things that belong to a problem, by its kind. */
export interface ProblemData {
  'basket-changed': StoredBasket | null;
  'basket-held': StoredBasket | null;
  'count-changed': OpenShift | null;
  /** With the basket as it is stored, where one was refused. */
  'countersign-needed': { needed: CountersignNeeded } & Partial<StoredBasket>;
  'customer-known': LikelySame;
  'expected-changed': { expected: number };
  'figures-differ': FigureProblem;
  'money-taken': StoredBasket | null;
  'offer-used-up': UsedUpProblem;
  'payment-open': StoredBasket | null;
  'sale-finished': StoredBasket | null;
  'shelves-changed': StoredShelves;
  /** The goods of which each unit is known by its serial number. */
  'units-asked': { itemId: number; name: string };
  wait: { seconds: number };
  'wrong-pin': { seconds: number };
}

export type DataOf<Type extends ProblemType> = Type extends keyof ProblemData ? ProblemData[Type] : never;

/** An error as RFC 9457 describes it, with a sentence for people and, for forms, the fields. */
export interface ProblemDetails<Type extends ProblemType = ProblemType> {
  type: Type;
  /** What is wrong, in one sentence. */
  title: string;
  status: number;
  /** What to do about it. */
  detail?: string;
  /** What is wrong with which field of a form. */
  fields?: { field: string; message: string }[];
  /** Figures or things that belong to the problem. */
  data?: DataOf<Type>;
}
