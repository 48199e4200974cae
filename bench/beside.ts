import { timed } from './measure.ts';

const ALONE = 200;

/** How long one thing takes while nothing else goes on, in milliseconds. */
export async function alone(look: () => Promise<unknown>): Promise<number[]> {
  const samples: number[] = [];
  for (let round = 0; round < ALONE; round++) samples.push(await timed(look));
  return samples;
}

/** How long one thing takes, again and again, while another one goes on, and how long that takes, in milliseconds. */
export async function beside<Made>(
  look: () => Promise<unknown>,
  work: () => Promise<Made>,
): Promise<{ samples: number[]; took: number; made: Made }> {
  const samples: number[] = [];
  let going = true;
  let took = 0;
  const began = performance.now();
  const done = work().finally(() => {
    going = false;
    took = performance.now() - began;
  });
  while (going) samples.push(await timed(look));
  return { made: await done, took, samples };
}
