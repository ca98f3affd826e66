/** Units that a build adds to the house's own. None: a build for trying recipes puts its own list here. */
export const FURTHER: readonly unknown[] = [];
