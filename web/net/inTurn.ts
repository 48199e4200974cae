/**
 * Does one thing after the other, each once the one before is through, however that ended: what is pressed faster than
 * it is stored begins where the press before has led.
 */
export function inTurn(): <Done>(work: () => Promise<Done>) => Promise<Done> {
  let before: Promise<unknown> = Promise.resolve();
  return (work) => {
    const done = before.then(work);
    before = done.catch(() => {});
    return done;
  };
}
