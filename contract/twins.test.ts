import { describe, expectTypeOf, it } from 'vitest';
import type { Basket } from '../core/counter/basket.ts';
import type { PrinterSetup } from '../core/journal/printerSetup.ts';
import { basketSchema } from './counter.ts';
import { offerSchema, type OfferDraft } from './offers.ts';
import { printerSchema } from './printer.ts';
import type { InferType } from './yup.ts';

/** A field that is of one of several kinds is checked by a schema of its own. */
type OneOfSeveral = 'size' | 'rule';

/**
 * The names of all fields of a type, all the way down; whether a field may be missing does not count here. A schema
 * strips what it does not know: a field that is only in the core would be lost on its way without a word.
 */
type Fields<T> = T extends readonly (infer One)[]
  ? Fields<One>[]
  : T extends object
    ? { [Key in keyof T]-?: Key extends OneOfSeveral ? 'any' : Fields<NonNullable<T[Key]>> }
    : 'value';

describe('what goes over the line is what the core works with', () => {
  it('a basket', () => {
    expectTypeOf<Fields<InferType<typeof basketSchema>>>().toEqualTypeOf<Fields<Basket>>();
  });

  it('an offer', () => {
    expectTypeOf<Fields<InferType<typeof offerSchema>>>().toEqualTypeOf<Fields<OfferDraft>>();
  });

  it('the printer of a till', () => {
    expectTypeOf<Fields<InferType<typeof printerSchema>>>().toEqualTypeOf<Fields<PrinterSetup>>();
  });
});
