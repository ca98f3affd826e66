import { safeStorage } from '../state/safe-storage.js';

/** Pictures of presets that come with the build, so that none is waited for. `npm run screenshots` draws them again. */
const FILES = import.meta.glob<string>('./presets/*.png', { eager: true, query: '?url', import: 'default' });

/** Set by who draws them: then those that are there are not shown. */
const DRAWN_ANEW = 'kelp-draw-presets';

export const keptPicture = (unit: string, preset: string): string | undefined =>
  safeStorage.getItem(DRAWN_ANEW) === null ? FILES[`./presets/${unit}-${preset}.png`] : undefined;
