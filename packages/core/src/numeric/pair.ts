import { hashText, randomAt } from './random.js';

/** What varies from one to the next: a least and a most, everything between as likely. */
export interface Pair {
  least: number;
  most: number;
}

export const isPair = (value: unknown): value is Pair =>
  typeof value === 'object' && value !== null && 'least' in value && 'most' in value;

/**
 * The value for one thing, by its stable id: the same (seed, id, name) gives the same value whatever becomes of its
 * neighbours, and a wider pair spreads the same draw further.
 * @param name of the parameter, so that two parameters of one thing are drawn apart
 */
export const pairAt = ({ least, most }: Pair, seed: number, id: number, name: string): number =>
  least + (most - least) * randomAt(seed, id, hashText(name));
