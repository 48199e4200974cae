import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { eventually } from '../../contract/testing/eventually.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { useSessionStore } from './sessionStore.ts';

const net = vi.hoisted(() => ({ read: vi.fn(), write: vi.fn(), signedOut: () => {} }));
vi.mock('../net/api.ts', () => ({
  read: net.read,
  write: net.write,
  newSession: () => {},
  whenSignedOut: (then: () => void) => {
    net.signedOut = then;
  },
}));
const hearing = vi.hoisted(() => ({ startHearing: vi.fn(), stopHearing: vi.fn() }));
vi.mock('../net/houseEvents.ts', () => hearing);

const NOOR = { staffId: 1, name: 'Noor', role: 'cashier', rights: ['sale.make'] };

beforeEach(() => {
  setActivePinia(createPinia());
  for (const one of [net.read, net.write, hearing.startHearing, hearing.stopHearing]) one.mockReset();
});

describe('who is signed in', () => {
  it('is asked with what shop this is, until both are known', async () => {
    const session = useSessionStore();
    const answers: Record<string, unknown> = { '/staff/session': null, '/setup/welcome': { ready: false } };
    net.read.mockImplementation((path: string) => Promise.resolve(answers[path]));
    await session.find();
    expect(session.person).toBeNull();
    answers['/setup/welcome'] = { ready: true };
    answers['/staff/session'] = NOOR;
    await session.find();
    expect(session.person).toEqual(NOOR);
    expect(hearing.startHearing).toHaveBeenCalledOnce();
    await session.find();
    expect(net.read).toHaveBeenCalledTimes(4);
  });

  it('is in once the line is there, so that pages need not read twice', async () => {
    const session = useSessionStore();
    let lineIsThere = (): void => {};
    hearing.startHearing.mockReturnValueOnce(new Promise<void>((resolve) => (lineIsThere = resolve)));
    net.write.mockResolvedValue(NOOR);
    const signedIn = session.signIn({ pin: '1357', tillId: 1 });
    await eventually(() => expect(hearing.startHearing).toHaveBeenCalledOnce());
    expect(session.person).toBeNull();
    lineIsThere();
    await signedIn;
    expect(session.person).toEqual(NOOR);
  });

  it('may do what their rights say; nobody may do anything', async () => {
    const session = useSessionStore();
    expect(session.may('figures.see')).toBe(false);
    net.write.mockResolvedValue({ ...NOOR, rights: ['figures.see'] });
    await session.signIn({ pin: '1357', tillId: 1 });
    expect([session.may('figures.see'), session.may('books.see')]).toEqual([true, false]);
  });

  it('does not read what was said to whoever was here before', async () => {
    const session = useSessionStore();
    useNoticeStore().failed('The drawer is short.');
    net.write.mockResolvedValue(NOOR);
    await session.signIn({ pin: '1357', tillId: 1 });
    expect(useNoticeStore().notice).toBeNull();
  });
});

describe('leaving', () => {
  beforeEach(async () => {
    net.write.mockResolvedValueOnce(NOOR);
    await useSessionStore().signIn({ pin: '1357', tillId: 1 });
  });

  it('locks the page also where the server cannot be reached', async () => {
    const session = useSessionStore();
    net.write.mockRejectedValueOnce(new Error('gone'));
    await session.lock();
    expect(session.person).toBeNull();
    expect(hearing.stopHearing).toHaveBeenCalledOnce();
  });

  it('happens by itself where the server knows of no session any more', () => {
    const session = useSessionStore();
    net.signedOut();
    expect(session.person).toBeNull();
    expect(hearing.stopHearing).toHaveBeenCalledOnce();
  });

  it('everywhere is asked of the server before this page is left', async () => {
    const session = useSessionStore();
    net.write.mockRejectedValueOnce(new Error('gone'));
    await expect(session.signOutEverywhere()).rejects.toThrow('gone');
    expect(session.person).toEqual(NOOR);
    net.write.mockResolvedValueOnce({});
    await session.signOutEverywhere();
    expect(net.write.mock.lastCall).toEqual(['POST', '/staff/sign-out-everywhere', { staffId: 1 }]);
    expect(session.person).toBeNull();
  });

  it('is nobody once the till is locked, also where the server has not heard of that yet', async () => {
    const session = useSessionStore();
    net.write.mockResolvedValue(NOOR);
    await session.signIn({ pin: '1357', tillId: 1 });
    net.write.mockRejectedValueOnce(new Error('The server does not answer.'));
    await session.lock();
    net.read.mockResolvedValue(NOOR);
    await session.find();
    expect(session.person).toBeNull();
    await session.signIn({ pin: '1357', tillId: 1 });
    expect(session.person).toEqual(NOOR);
  });
});
