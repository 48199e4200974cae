import { object, string, whole, type InferType } from './yup.ts';

/** So many rows stand on a page of a list that is asked for page by page. */
export const LIST_PAGE = 100;

/** A list that is looked through by words and asked for page by page, counted from 0. */
export const listQuerySchema = object({
  find: string().trim().max(120, 'At most 120 characters.').default(''),
  page: whole().min(0).max(1_000_000).default(0),
});
export type ListQuery = InferType<typeof listQuerySchema>;
