/** Results of stages by place; each place keeps what it made last, under the key of everything it depends on. */
export interface BuildCache {
  keep<T>(place: string, key: string, make: () => T): T;
  /** Forgets the places that begin with `prefix`. */
  forget(prefix: string): void;
}

export function createCache(): BuildCache {
  const kept = new Map<string, { key: string; value: unknown }>();
  return {
    keep<T>(place: string, key: string, make: () => T): T {
      const old = kept.get(place);
      if (old && old.key === key) return old.value as T;
      const value = make();
      kept.set(place, { key, value });
      return value;
    },
    forget(prefix) {
      for (const place of kept.keys()) if (place.startsWith(prefix)) kept.delete(place);
    },
  };
}
