import { Color } from 'three';

/** Towards the paper, where something else is chosen. */
export const faded = (colour: string, paper: string, share: number): string =>
  `#${new Color(colour).lerp(new Color(paper), share).getHexString()}`;
