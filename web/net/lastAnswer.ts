/**
 * Of questions that are asked again and again only the answer to the last one counts. Whoever asked before goes on
 * once that is there.
 * @returns what asks: the answer, or nothing where something else was asked meanwhile
 */
export function lastAnswer(): <Answer>(question: Promise<Answer>) => Promise<Answer | undefined> {
  let last: Promise<unknown> | undefined;
  return async (question) => {
    last = question;
    const answer = await question;
    for (let next = last; next !== question; next = last) {
      await next.catch(() => undefined);
      if (next === last) return undefined;
    }
    return answer;
  };
}
