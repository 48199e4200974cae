import { array, number, object, string, whole } from './yup.ts';

/** How large a picture may be as it is sent, and its longer side in dots: the browser makes it no larger. */
export const MOST_PICTURE_BYTES = 1_000_000;
export const MOST_PICTURE_SIDE = 1_600;
export const MOST_PICTURES = 12;

/** A picture of an item, as base64. @property instead the picture whose place it takes, as one that was turned */
export const newPictureSchema = object({
  content: string()
    .required('There is no picture.')
    .max(Math.ceil((MOST_PICTURE_BYTES * 4) / 3) + 4, 'The picture is too large.')
    .matches(/^[A-Za-z0-9+/]+={0,2}$/, 'This is no picture.'),
  instead: whole().nullable().default(null),
});

/** The pictures of an item in their order; what is left out is taken away. @property seen those that were looked at */
export const picturesSchema = object({
  seen: array().of(number().integer().required()).max(MOST_PICTURES).required(),
  pictures: array().of(number().integer().required()).max(MOST_PICTURES).required(),
});
