import { lastOfMonth } from '../../core/day.ts';
import type { Period } from '../../core/figures/period.ts';
import type { ReportName, RowKind } from '../../core/figures/reports.ts';

/** Where the sales or moves behind a row are shown; nothing where there is no such page. */
export function wayDown(
  name: ReportName,
  rows: RowKind,
  key: string,
  { from, to, till }: Period & { till: number },
): string | null {
  const journal = (asked: Record<string, string>) =>
    `/journal?${new URLSearchParams({ from, to, ...(till ? { tillId: String(till) } : {}), ...asked }).toString()}`;
  switch (rows) {
    case 'day':
      return journal({ from: key, to: key });
    case 'month': {
      const first = `${key}-01`;
      const last = lastOfMonth(first);
      return journal({ from: first < from ? from : first, to: last > to ? to : last });
    }
    case 'till':
      return journal({ tillId: key });
    case 'person':
      return journal({ staffId: key, ...(name === 'voids' ? { kind: 'void' } : {}) });
    case 'means':
      return journal({ typeId: key });
    case 'customer':
    case 'account':
      return `/people/${key}`;
    case 'shift':
      return `/drawer/shifts/${key}`;
    case 'item':
      return `/goods/${key}`;
    case 'category':
      return `/figures/reports/items?${new URLSearchParams({ from, to, category: key }).toString()}`;
    case 'supplier':
      return key === '0'
        ? null
        : `/figures/reports/items?${new URLSearchParams({ from, to, supplier: key }).toString()}`;
    case 'place':
      return `/figures/reports/days?${new URLSearchParams({ from, to, place: key }).toString()}`;
    case 'hour':
    case 'weekday':
    case 'rate':
      return journal({});
    case 'words':
      if (name === 'returns') return journal({ kind: 'return' });
      if (name === 'orders' || name === 'deposits') return '/waiting';
      if (name === 'gift-cards' || name === 'gift-cards-sold') return '/gift-cards';
      return name === 'openings' ? '/drawer/shifts' : name === 'groups' ? '/people/groups' : journal({});
  }
}
