/**
 * Of questions that are asked again and again only the answer to the last one counts.
 * @returns what asks: the answer, or nothing where something else was asked meanwhile
 */
export function lastAnswer(): <Answer>(question: Promise<Answer>) => Promise<Answer | undefined> {
  let asked = 0;
  return async (question) => {
    const mine = ++asked;
    const answer = await question;
    return mine === asked ? answer : undefined;
  };
}
