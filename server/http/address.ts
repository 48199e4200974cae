/** A number that stands in an address for something that is kept; 0, which nothing has, where it is none. */
export const idIn = (text: unknown): number => {
  const id = Number(text);
  return Number.isInteger(id) && id > 0 && id < 2 ** 31 ? id : 0;
};
