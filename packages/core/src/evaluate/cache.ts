import { joinKeys } from '../numeric/key.js';
import type { Reads } from '../surface/reads.js';

/** What a result was made from, besides its key: recorded while it is made, asked for again when it is wanted again. */
export interface Asked {
  reads: Reads;
  /** Pieces whose made parts were looked at, with the key these had. */
  made: Map<string, string>;
}

/** How the world answers: runs work while writing down what it asks, and gives the short text of the answers. */
export interface Answers {
  record<T>(work: () => T): { value: T; asked: Asked };
  keyOf(asked: Asked): string;
}

export interface Kept<T> {
  value: T;
  /** Changes whenever the value may have changed. Of a fixed length. */
  key: string;
}

/** Results of stages by piece and place; each place keeps what it made last. */
export interface BuildCache {
  /**
   * The kept value where `key` and all answers are as they were, else a new one. `make` gets what the place held so far
   * and may use its memory again: it is held no longer.
   */
  keep<T>(piece: string, place: string, key: string, answers: Answers, make: (old: T | undefined) => T): Kept<T>;
  /** Forgets all of a piece, or what one place of it holds. */
  forget(piece: string, place?: string): void;
  /** The value that a place holds, whatever it was made from. */
  last<T>(piece: string, place: string): T | undefined;
}

interface Entry {
  key: string;
  asked: Asked;
  answers: string;
  kept: Kept<unknown>;
}

export function createCache(): BuildCache {
  const pieces = new Map<string, Map<string, Entry>>();
  return {
    keep<T>(piece: string, place: string, key: string, answers: Answers, make: (old: T | undefined) => T): Kept<T> {
      let places = pieces.get(piece);
      if (!places) {
        places = new Map();
        pieces.set(piece, places);
      }
      const old = places.get(place);
      if (old && old.key === key && answers.keyOf(old.asked) === old.answers) return old.kept as Kept<T>;
      // should it fail, what it may have written over is not held any more
      places.delete(place);
      const { value, asked } = answers.record(() => make(old?.kept.value as T | undefined));
      const now = answers.keyOf(asked);
      const kept = { value, key: now === '' ? key : joinKeys(key, now) };
      places.set(place, { key, asked, answers: now, kept });
      return kept;
    },
    forget(piece, place) {
      if (place === undefined) pieces.delete(piece);
      else pieces.get(piece)?.delete(place);
    },
    last: <T>(piece: string, place: string) => pieces.get(piece)?.get(place)?.kept.value as T | undefined,
  };
}
