/**
 * Makes a thing once for each key and keeps it for as long as the page lives. For materials: with the last one of its
 * kind a renderer throws away its program, and the page stands still while it is compiled anew.
 */
export function kept<T>(make: (key: string) => T): (key: string) => T {
  const made = new Map<string, T>();
  return (key) => {
    let thing = made.get(key);
    if (thing === undefined) {
      thing = make(key);
      made.set(key, thing);
    }
    return thing;
  };
}
