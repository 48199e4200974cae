import { promiseTimeout } from '@vueuse/core';
import { onScopeDispose, shallowRef, type ShallowRef } from 'vue';
import { untilAnswered } from '../net/untilAnswered.ts';
import { sayOnceAway } from './look.ts';

/** So long after it was looked at a job is looked at again, in milliseconds. */
const LOOK_AGAIN_MS = 300;

interface FollowedJob<Job> {
  /** As it was seen last. */
  job: Readonly<ShallowRef<Job | null>>;
  /** Comes back when it is over, or nobody follows it any more. @throws ApiProblem where it is gone: then it is none */
  follow: (started: Job) => Promise<void>;
}

/**
 * Follows what the server does in its time, until that is over, another one is begun, or the page is left. While the
 * server is away, that is said once, and it is followed on when it is back.
 * @param look how it is looked at
 * @param going whether it goes on
 */
export function useJob<Job>(
  look: (job: Job) => Promise<Job>,
  going: (job: Job) => boolean,
): FollowedJob<Job> {
  const job: ShallowRef<Job | null> = shallowRef(null);
  let turn = 0;
  onScopeDispose(() => (turn += 1));

  async function follow(started: Job): Promise<void> {
    const mine = ++turn;
    const wanted = () => mine === turn;
    const away = sayOnceAway();
    try {
      let now: Job | undefined = started;
      while (now !== undefined && wanted()) {
        job.value = now;
        if (!going(now)) return;
        await promiseTimeout(LOOK_AGAIN_MS);
        const last: Job = now;
        now = wanted() ? await untilAnswered(() => look(last), away, wanted) : undefined;
      }
    } catch (error) {
      if (wanted()) job.value = null;
      throw error;
    }
  }

  return { job, follow };
}
