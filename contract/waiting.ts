import { object, string, whole, type InferType } from './yup.ts';
import type { Basket } from '../core/counter/basket.ts';
import { basketSchema } from './counter.ts';

/** Puts the basket of a till aside. */
export const holdSchema = object({
  basket: basketSchema.required(),
  name: string().trim().max(60, 'A name has at most 60 characters.').defined(),
  note: string().trim().max(200, 'A note has at most 200 characters.').defined(),
  /** Below zero where more comes back than is bought. */
  total: whole().required(),
  /** The till it is sent to, if it is meant for one. */
  forTill: whole().nullable().defined(),
});
export type Hold = InferType<typeof holdSchema>;

/** A basket that waits. */
export interface HeldBasket {
  id: string;
  /** Its number as printed, `W-0007`. */
  number: string;
  name: string;
  note: string;
  basket: Basket;
  total: number;
  heldAt: string;
  heldBy: string;
  /** The number of the till it was held on. */
  heldOn: number;
  forTill: number | null;
}
