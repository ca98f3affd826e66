/** Results of stages by place; each place keeps what it made last, under the key of everything it depends on. */
export interface BuildCache {
  /** `make` gets what the place held so far and may use its memory again: it is held no longer. */
  keep<T>(place: string, key: string, make: (old: T | undefined) => T): T;
  /** Forgets the places that begin with `prefix`. */
  forget(prefix: string): void;
}

export function createCache(): BuildCache {
  const kept = new Map<string, { key: string; value: unknown }>();
  return {
    keep<T>(place: string, key: string, make: (old: T | undefined) => T): T {
      const old = kept.get(place);
      if (old && old.key === key) return old.value as T;
      const value = make(old?.value as T | undefined);
      kept.set(place, { key, value });
      return value;
    },
    forget(prefix) {
      for (const place of kept.keys()) if (place.startsWith(prefix)) kept.delete(place);
    },
  };
}
