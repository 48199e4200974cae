/** An answer that comes when it is told to: for tests. */
export function late<T>(): { promise: Promise<T>; come: (answer: T) => void } {
  let come: (answer: T) => void = () => {};
  const promise = new Promise<T>((resolve) => (come = resolve));
  return { promise, come };
}
