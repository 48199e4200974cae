/** How the list of customers can be sorted, in the words of the screen. */
export const DIRECTORY_SORTS = {
  name: 'Name',
  seen: 'Last visit',
  points: 'Points',
  owes: 'Owes',
  added: 'Newest',
} as const;

export type DirectorySort = keyof typeof DIRECTORY_SORTS;

/** How many customers stand on one page of the list. */
export const DIRECTORY_PAGE = 50;
