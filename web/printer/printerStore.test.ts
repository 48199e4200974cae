import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { eventually } from '../../contract/testing/eventually.ts';
import type { OpenPaper, PrinterFacts } from '../../contract/printer.ts';
import { STAND_IN } from '../../core/journal/printerSetup.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { usePrinterStore } from './printerStore.ts';

const net = vi.hoisted(() => ({ read: vi.fn(), write: vi.fn() }));
vi.mock('../net/api.ts', () => net);
interface Told {
  kind: string;
  tillId?: number;
}
const house = vi.hoisted(() => ({ tell: undefined as ((event: Told) => void) | undefined }));
vi.mock('../net/houseEvents.ts', () => ({
  hear: (listener: (event: Told) => void) => {
    house.tell = listener;
    return () => {};
  },
}));
vi.mock('../shop/tillStore.ts', () => ({ useTillStore: () => ({ facts: { till: { id: 1 } } }) }));

const paper = (id: number, state: OpenPaper['state']): OpenPaper => ({
  id,
  state,
  words: `Receipt 1-000${id}`,
  askedAt: '2026-03-02T15:00:00Z',
});
const is = (facts: Partial<PrinterFacts>) =>
  net.read.mockResolvedValue({ setup: STAND_IN, trouble: null, open: [], ...facts });

beforeEach(() => {
  setActivePinia(createPinia());
  net.read.mockReset();
  net.write.mockReset();
});

async function told(tillId = 1): Promise<void> {
  house.tell?.({ kind: 'printer-changed', tillId });
  await eventually(() => Promise.resolve());
}

describe('the printer of a till', () => {
  it('is silent while all goes well, also while a paper is on its way', async () => {
    const printer = usePrinterStore();
    printer.follow();
    is({ open: [paper(1, 'printing')] });
    await told();
    await eventually(() => expect(printer.facts).not.toBeNull());
    expect(printer.count).toBe(0);
    expect(useNoticeStore().notice).toBeNull();
  });

  it('says trouble once, with how much waits, and nothing of other tills', async () => {
    const printer = usePrinterStore();
    const notices = useNoticeStore();
    printer.follow();
    is({ trouble: 'The printer is out of paper.', open: [paper(1, 'waiting'), paper(2, 'waiting')] });
    await told(2);
    expect(net.read).not.toHaveBeenCalled();
    await told();
    await eventually(() => expect(printer.count).toBe(2));
    expect(notices.notice?.text).toContain('out of paper');
    notices.clear();
    await told();
    await eventually(() => expect(net.read).toHaveBeenCalledTimes(2));
    expect(notices.notice).toBeNull();
  });

  it('asks about a paper that may not have come out, and settles it', async () => {
    const printer = usePrinterStore();
    printer.follow();
    is({ open: [paper(7, 'doubtful')] });
    await told();
    await eventually(() => expect(printer.count).toBe(1));
    expect(useNoticeStore().notice?.text).toContain('Receipt 1-0007 may not have come out whole');
    is({});
    await printer.settle(7, 'printed');
    expect(net.write).toHaveBeenCalledWith('POST', '/printer/jobs/7', { as: 'printed' });
    expect(printer.count).toBe(0);
  });
});
