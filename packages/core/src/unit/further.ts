/** Units that a build adds to Kelp’s own. None: a build for trying recipes puts its own list here. */
export const FURTHER: readonly unknown[] = [];
