import { array, lazy, object, string, whole } from './yup.ts';
import { TILE_COLOURS, TILE_JOBS, type Shelf, type TileJob } from '../core/counter/shelves.ts';

const base = {
  id: string().uuid().required(),
  colour: string().oneOf(TILE_COLOURS).required(),
};
const KINDS = {
  item: object({
    ...base,
    kind: string()
      .oneOf(['item'] as const)
      .required(),
    itemId: whole().required(),
  }),
  category: object({
    ...base,
    kind: string()
      .oneOf(['category'] as const)
      .required(),
    category: string().max(60).required(),
  }),
  discount: object({
    ...base,
    kind: string()
      .oneOf(['discount'] as const)
      .required(),
    presetId: whole().required(),
  }),
  job: object({
    ...base,
    kind: string()
      .oneOf(['job'] as const)
      .required(),
    job: string()
      .oneOf(Object.keys(TILE_JOBS) as TileJob[])
      .required(),
  }),
};
const unknownKind = object({
  kind: string().oneOf(['item', 'category', 'discount', 'job']).required('There is no such tile.'),
});

type Kind = keyof typeof KINDS;
const kindOf = (tile: unknown) =>
  typeof tile === 'object' && tile && 'kind' in tile && String(tile.kind) in KINDS
    ? KINDS[tile.kind as Kind]
    : unknownKind;

const inBin = lazy(kindOf);
const binSchema = object({
  ...base,
  kind: string()
    .oneOf(['bin'] as const)
    .required(),
  name: string().trim().required('Name the bin.').max(30, 'A bin has a short name: at most 30 characters.'),
  tiles: array().of(inBin).max(60).required(),
});
const onShelf = lazy((tile: unknown) =>
  typeof tile === 'object' && tile && 'kind' in tile && tile.kind === 'bin' ? binSchema : kindOf(tile),
);

export const shelvesSchema = object({
  shelves: array()
    .of(
      object({
        id: string().uuid().required(),
        name: string()
          .trim()
          .required('Name the shelf.')
          .max(30, 'A shelf has a short name: at most 30 characters.'),
        tillId: whole().nullable().defined(),
        tiles: array().of(onShelf).max(60, 'A shelf holds at most 60 tiles.').required(),
      }),
    )
    .max(20, 'There are at most 20 shelves.')
    .required(),
  revision: whole().min(0).required(),
});

export interface StoredShelves {
  shelves: Shelf[];
  revision: number;
}
