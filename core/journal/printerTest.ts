import type { Paper } from './paper.ts';
import { CODE_PAGES, type PrinterSetup } from './printerSetup.ts';

/** Letters of many places: those that the printer lacks come out in plain letters. */
const LETTERS = 'Añejo façade Größe Ørsted Łódź Žižka çağ Ελλάδα Привет “quoted” – −5.00 €';

/** A paper that shows at a glance whether a printer is set up as it is. */
export function printerTest(facts: { shop: string; till: number; when: string; setup: PrinterSetup }): Paper {
  const { shop, till, when, setup } = facts;
  const { columns, codePage, cutter, pulse, kind, host, port } = setup;
  // Counts up to the last column: a line that breaks, or ends early, shows the wrong width.
  const ruler = Array.from({ length: columns }, (_, at) => String((at + 1) % 10)).join('');
  return {
    title: 'Test page',
    rows: [
      { kind: 'title', text: shop },
      { kind: 'centre', text: `Test page of till ${till}` },
      { kind: 'text', text: when },
      { kind: 'rule' },
      { kind: 'text', text: ruler },
      { kind: 'pair', left: 'Width', right: `${columns} columns` },
      { kind: 'pair', left: 'Address', right: kind === 'network' ? `${host}:${port}` : 'stand-in' },
      { kind: 'pair', left: 'Cutter', right: cutter ? 'yes' : 'no' },
      { kind: 'pair', left: 'Cash drawer', right: pulse ? 'opens now' : 'none' },
      { kind: 'text', text: `Letters: ${CODE_PAGES[codePage]}` },
      { kind: 'text', text: LETTERS },
      { kind: 'pair', left: 'Total', right: '1,234.50', strong: true },
      { kind: 'gap' },
      { kind: 'barcode', text: `${till}-0001` },
    ],
  };
}
