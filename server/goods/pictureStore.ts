import { v4 as newName } from 'uuid';
import { one, type Reader, type Writer } from '../db/database.ts';

/** Keeps a picture. @param content as base64 */
export async function addPicture(sql: Writer, mediaType: string, content: string): Promise<number> {
  return one(
    await sql.query<{ id: number }>(
      "insert into picture (name, media_type, content) values ($1, $2, decode($3, 'base64')) returning id",
      [newName(), mediaType, content],
    ),
  ).id;
}

/** The pictures of an item, in their order. */
export async function picturesOf(sql: Reader, itemId: number): Promise<number[]> {
  const rows = await sql.query<{ id: number }>(
    'select picture_id as id from item_picture where item_id = $1 order by position',
    [itemId],
  );
  return rows.map(({ id }) => id);
}

/** Gives an item its pictures; tills show the first. Those that nothing shows are gone. */
export async function putPictures(sql: Writer, itemId: number, pictures: readonly number[]): Promise<void> {
  const had = await picturesOf(sql, itemId);
  await sql.query('delete from item_picture where item_id = $1', [itemId]);
  await sql.query(
    `insert into item_picture (item_id, position, picture_id)
     select $1, nth, id from unnest($2::integer[]) with ordinality as one (id, nth)`,
    [itemId, pictures],
  );
  await sql.query('update item set picture_id = $2, version = version + 1 where id = $1', [
    itemId,
    pictures[0] ?? null,
  ]);
  await sql.query(
    `delete from picture where id = any ($1::integer[])
       and not exists (select 1 from item_picture where picture_id = picture.id)
       and not exists (select 1 from item where picture_id = picture.id)`,
    [had],
  );
}
