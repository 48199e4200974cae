import { Problem } from '../http/problem.ts';

export const noCustomer = (): Problem => new Problem('no-customer', 'There is no such customer.');
