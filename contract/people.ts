import type { PromiseRow } from './promises.ts';
import { object, string, whole, type InferType } from './yup.ts';
import type { GroupPrice } from '../core/counter/toPrice.ts';

/** A customer created on the spot: a name and one way to reach them are enough. */
export const newCustomerSchema = object({
  name: string().trim().required('What is the name?').max(120, 'A name has at most 120 characters.'),
  company: string().trim().max(120, 'At most 120 characters.').defined(),
  phone: string().trim().max(40, 'At most 40 characters.').defined(),
  mail: string()
    .trim()
    .max(120, 'At most 120 characters.')
    .matches(/^$|^\S+@\S+\.\S+$/, 'A mail address looks like name@place.example.')
    .defined(),
  birthMonth: whole().min(1).max(12).nullable().defined(),
  birthDay: whole()
    .min(1)
    .max(31)
    .nullable()
    .defined()
    .test('both', 'A birthday has a month and a day.', function (day) {
      return (day === null) === ((this.parent as { birthMonth: number | null }).birthMonth === null);
    }),
  note: string().trim().max(500, 'A note has at most 500 characters.').defined(),
  /** Whether they were created although somebody like them is known. */
  anyway: string()
    .oneOf(['yes', 'no'] as const)
    .required(),
});
export type NewCustomer = InferType<typeof newCustomerSchema>;

/** A customer as a list shows them. */
export interface FoundCustomer {
  id: number;
  name: string;
  company: string;
  phone: string;
  mail: string;
  groups: string[];
}

/** Who is known already, with the reason: comes with the problem `customer-known`. */
export interface LikelySame {
  customer: FoundCustomer;
  why: string;
}

/** A sale that a customer came for. */
export interface Visit {
  saleId: string;
  number: string;
  finishedAt: string;
  total: number;
  lines: { itemId: number; name: string; quantity: number }[];
}

/** What the Counter shows of a customer. */
export interface CustomerPanel extends FoundCustomer {
  birthMonth: number | null;
  birthDay: number | null;
  note: string;
  /** What they owe the shop; below zero the shop owes them. */
  owes: number;
  /** What the shop holds for them as store credit. */
  credit: number;
  visits: Visit[];
  /** What waits for them. */
  promises: PromiseRow[];
  /** How often they came. */
  visitCount: number;
  groupPrices: GroupPrice[];
  points: number;
  /** How often they have used offers that have a limit for each customer. */
  offerUses: { offerId: number; uses: number }[];
}
