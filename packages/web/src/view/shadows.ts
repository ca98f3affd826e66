import { keptChoice } from '../state/kept-choice.js';

/** Things in the view cast shadows, unless the person does without in this browser: they are half the work of drawing. */
export const { toggle: toggleShadows, use: useShadows } = keptChoice('kelp-shadows', ['cast', 'none']);
