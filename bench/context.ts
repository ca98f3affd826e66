import { type BuildContext, Surroundings } from '@kelp/core';

/** What a unit may ask, where there is nothing: no props, no other pieces. */
export const bareContext = (thickness: number, surroundings = new Surroundings(new Map())): BuildContext => ({
  surroundings,
  curves: new Map(),
  piece: () => undefined,
  profile: () => undefined,
  region: () => undefined,
  picture: () => undefined,
  edits: new Map(),
  forView: false,
  density: 1,
  thickness,
  breadth: thickness,
  step: () => {},
  report: () => {},
});
