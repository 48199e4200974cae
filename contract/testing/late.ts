/** An answer, or a refusal, that comes when it is told to: for tests. */
export function late<T>(): {
  promise: Promise<T>;
  come: (answer: T) => void;
  fail: (problem: Error) => void;
} {
  let come: (answer: T) => void = () => {};
  let fail: (problem: Error) => void = () => {};
  const promise = new Promise<T>((resolve, reject) => ([come, fail] = [resolve, reject]));
  return { promise, come, fail };
}
