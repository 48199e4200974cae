import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { eventually } from '../../contract/testing/eventually.ts';
import { ApiProblem } from '../net/problem.ts';
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

  it('stays nobody where the page is loaded again before the server has heard that the till was locked', async () => {
    net.write.mockRejectedValueOnce(new Error('The server does not answer.'));
    await useSessionStore().lock();
    let heard = false;
    net.read.mockImplementation((path: string) =>
      Promise.resolve(path === '/staff/session' && !heard ? NOOR : null),
    );
    net.write.mockImplementation((method: string) => {
      if (method === 'DELETE') heard = true;
      return Promise.resolve(NOOR);
    });
    setActivePinia(createPinia());
    const reloaded = useSessionStore();
    await reloaded.find();
    expect([heard, reloaded.person]).toEqual([true, null]);
    await reloaded.signIn({ pin: '1357', tillId: 1 });
    // It was said once: who is here now stays.
    setActivePinia(createPinia());
    net.read.mockResolvedValue(NOOR);
    await useSessionStore().find();
    expect(useSessionStore().person).toEqual(NOOR);
  });

  it('is ended until the server says so, or that nobody was here', async () => {
    const refused = (type: string) => new ApiProblem({ type, title: 'Refused.', status: 500 } as never);
    const ends = () => net.write.mock.calls.filter(([method]) => method === 'DELETE').length;
    net.write.mockRejectedValueOnce(refused('failed')).mockRejectedValueOnce(refused('not-signed-in'));
    const session = useSessionStore();
    await session.lock();
    await session.find();
    expect(ends()).toBe(2);
    await session.find();
    expect(ends()).toBe(2);
  });

  it('is nobody where it was asked before the till was locked who is here', async () => {
    setActivePinia(createPinia());
    const session = useSessionStore();
    net.write.mockResolvedValue({});
    let answer = (_who: unknown): void => {};
    net.read.mockImplementation((path: string) =>
      path === '/staff/session' ? new Promise((resolve) => (answer = resolve)) : Promise.resolve(null),
    );
    const found = session.find();
    await session.lock();
    answer(NOOR);
    await found;
    expect(session.person).toBeNull();
  });

  it('is over before the next one begins', async () => {
    const session = useSessionStore();
    let ended = (): void => {};
    net.write.mockImplementation((method: string) =>
      method === 'DELETE' ? new Promise<void>((resolve) => (ended = resolve)) : Promise.resolve(NOOR),
    );
    const locked = session.lock();
    const signedIn = session.signIn({ pin: '1357', tillId: 1 });
    expect(net.write.mock.lastCall?.[0]).toBe('DELETE');
    ended();
    await Promise.all([locked, signedIn]);
    expect(net.write.mock.lastCall?.[0]).toBe('POST');
    expect(session.person).toEqual(NOOR);
  });
});
