/** A fact that was changed, in words; empty where nothing stood or stands. */
export interface RecordChange {
  what: string;
  was: string;
  became: string;
}

/** Facts with what they are called on the screen, in the order of the page. */
export type FactsInWords = readonly (readonly [what: string, value: string])[];

/** What differs between two states of the same facts. */
export function changesBetween(before: FactsInWords, after: FactsInWords): RecordChange[] {
  const was = new Map(before);
  return after.flatMap(([what, became]) => {
    const from = was.get(what) ?? '';
    return from === became ? [] : [{ what, was: from, became }];
  });
}
