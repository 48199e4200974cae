import type { Request } from 'express';

/** Where a request comes from, as tries at PINs and numbers are counted. */
export const sourceOf = ({ ip }: Request): string => ip ?? '';
