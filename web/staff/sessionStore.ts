import { defineStore } from 'pinia';
import { ref } from 'vue';
import type { Welcome } from '../../contract/setup.ts';
import type { Person, SignIn } from '../../contract/staff.ts';
import type { Right } from '../../core/staff/rights.ts';
import { useNoticeStore } from '../notices/noticeStore.ts';
import { newSession, read, whenSignedOut, write } from '../net/api.ts';
import { startHearing, stopHearing } from '../net/houseEvents.ts';
import { ApiProblem } from '../net/problem.ts';
import { shown } from '../net/shown.ts';
import { titleOfLastTyped, typesFromNow } from '../net/typedBefore.ts';

/** Where it stands, whatever becomes of the page, that this till was locked and the server has not heard of it. */
const LOCKED = 'mondrel.locked';

/** Who is signed in on this till. */
export const useSessionStore = defineStore('session', () => {
  const notices = useNoticeStore();
  const person = ref<Person | null>(null);
  /** Why it is not known yet who is here. */
  const trouble = ref('');
  const [welcome, showWelcome] = shown<Welcome | null>(null);

  /** Locked here: until somebody signs in nobody is here, whatever the server has heard of that. */
  let locked = localStorage.getItem(LOCKED) !== null;
  /** The session is being ended: who signs in meanwhile waits for that, or it would end theirs. */
  let ending = Promise.resolve();

  async function enter(who: Person): Promise<void> {
    newSession();
    // What was said to whoever was here before is of no use now.
    notices.clear();
    await startHearing();
    typesFromNow(who.staffId);
    person.value = who;
    const title = titleOfLastTyped();
    if (title) notices.say(`“${title}” is not kept yet. Open it again to put back what was typed.`);
  }

  whenSignedOut(() => {
    person.value = null;
    stopHearing();
  });

  /** Asks the server who is signed in, and what shop this is, until that is known. */
  async function find(): Promise<void> {
    if (localStorage.getItem(LOCKED)) await end();
    const [who] = await Promise.all([
      person.value || locked ? null : read<Person | null>('/staff/session'),
      welcome.value?.ready ? null : showWelcome(read<Welcome>('/setup/welcome')),
    ]);
    if (who && !locked) await enter(who);
  }

  async function signIn(entry: SignIn): Promise<void> {
    await ending;
    const who = await write<Person>('POST', '/staff/session', entry);
    locked = false;
    localStorage.removeItem(LOCKED);
    await enter(who);
  }

  /** Tells the server that nobody is here any more; what it does not hear is said again when the page is loaded. */
  function end(): Promise<void> {
    ending = write('DELETE', '/staff/session').then(
      () => localStorage.removeItem(LOCKED),
      (error: unknown) => {
        const nobody = error instanceof ApiProblem && error.details.type === 'not-signed-in';
        if (nobody) localStorage.removeItem(LOCKED);
      },
    );
    return ending;
  }

  /** Locking ends the session; the basket and the count sheet stay with the till. */
  async function lock(): Promise<void> {
    locked = true;
    localStorage.setItem(LOCKED, 'yes');
    person.value = null;
    stopHearing();
    await end();
  }

  /** Ends every session of who is signed in here, this one too. */
  async function signOutEverywhere(): Promise<void> {
    const staffId = person.value?.staffId;
    if (staffId === undefined) return;
    await write('POST', '/staff/sign-out-everywhere', { staffId });
    person.value = null;
    stopHearing();
  }

  const may = (right: Right) => person.value?.rights.includes(right) ?? false;

  return { person, trouble, welcome, find, signIn, lock, signOutEverywhere, may };
});
