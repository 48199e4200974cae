import { imageSize } from 'image-size';
import { MOST_PICTURE_BYTES, MOST_PICTURE_SIDE, MOST_PICTURES } from '../../contract/pictures.ts';
import type { Writer } from '../db/database.ts';
import { changedMeanwhile, fieldProblem, Problem } from '../http/problem.ts';
import { noItem, type By } from './items.ts';
import * as store from './pictureStore.ts';
import { lockItems, noteItemChanges, readItems } from './recordStore.ts';

const MEDIA_TYPES: Readonly<Record<string, string>> = { jpg: 'image/jpeg', png: 'image/png' };

/** What kind of picture bytes are, by what is in them. @throws Problem 422 */
function mediaTypeOf(content: Buffer): string {
  if (content.length > MOST_PICTURE_BYTES) throw fieldProblem('content', 'The picture is too large.');
  const no = fieldProblem('content', 'This is no picture that can be kept: only JPEG and PNG can.');
  try {
    const { type, width, height } = imageSize(content);
    const mediaType = MEDIA_TYPES[type ?? ''];
    if (!mediaType) throw no;
    if (Math.max(width, height) > MOST_PICTURE_SIDE)
      throw fieldProblem('content', `At most ${MOST_PICTURE_SIDE} dots wide and high.`);
    return mediaType;
  } catch (error) {
    // What cannot be read at all is refused in other words.
    throw error instanceof Problem ? error : no;
  }
}

/** Adds a picture to an item, or puts it where another one was. @throws Problem 404, 409, 422 */
export async function addPicture(
  sql: Writer,
  itemId: number,
  { content, instead }: { content: string; instead: number | null },
  by: By,
): Promise<void> {
  const mediaType = mediaTypeOf(Buffer.from(content, 'base64'));
  const had = await held(sql, itemId);
  if (instead !== null && !had.includes(instead)) throw changedMeanwhile();
  if (instead === null && had.length >= MOST_PICTURES)
    throw fieldProblem('content', `An item has at most ${MOST_PICTURES} pictures.`);
  const id = await store.addPicture(sql, mediaType, content);
  await put(
    sql,
    itemId,
    had,
    instead === null ? [...had, id] : had.map((one) => (one === instead ? id : one)),
    by,
  );
}

/**
 * Puts the pictures of an item in order; what is left out is taken away.
 * @param wanted with the ones that were looked at: none that another one has added meanwhile is taken away
 * @throws Problem 404, 409
 */
export async function putPictures(
  sql: Writer,
  itemId: number,
  { pictures, seen }: { pictures: readonly number[]; seen: readonly number[] },
  by: By,
): Promise<void> {
  const had = await held(sql, itemId);
  const same = had.length === seen.length && had.every((id, nth) => id === seen[nth]);
  if (!same || new Set(pictures).size < pictures.length || pictures.some((id) => !had.includes(id)))
    throw changedMeanwhile();
  await put(sql, itemId, had, pictures, by);
}

async function held(sql: Writer, itemId: number): Promise<number[]> {
  await lockItems(sql, [itemId]);
  if ((await readItems(sql, [itemId])).length === 0) throw noItem();
  return store.picturesOf(sql, itemId);
}

async function put(
  sql: Writer,
  itemId: number,
  had: readonly number[],
  pictures: readonly number[],
  by: By,
): Promise<void> {
  await store.putPictures(sql, itemId, pictures);
  const words = (ids: readonly number[]) =>
    ids.length === 1 ? 'one' : ids.length === 0 ? 'none' : `${ids.length}`;
  const what = had.length === pictures.length ? 'Pictures, their order' : 'Pictures';
  await noteItemChanges(
    sql,
    [{ id: itemId, changes: [{ what, was: words(had), became: words(pictures) }] }],
    by,
  );
}
