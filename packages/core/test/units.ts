import { type CurveSet, newUse, Surroundings, unitOf } from '../src/index.js';
import type { BuildContext } from '../src/unit/unit.js';

/** Runs one unit on nothing but what is given; findings go to `told`. */
export function build(
  stage: 'path' | 'shape',
  id: string,
  parameters: Record<string, unknown>,
  context: Partial<BuildContext> & { input?: CurveSet; told?: string[] } = {},
): CurveSet {
  const use = newUse(stage, id);
  const unit = unitOf(stage, id) as {
    build(input: CurveSet | undefined, parameters: object, context: BuildContext): CurveSet;
  };
  return unit.build(context.input, { ...use.parameters, ...parameters }, {
    surroundings: new Surroundings(new Map()),
    curves: new Map(),
    piece: () => undefined,
    profile: () => undefined,
    region: () => undefined,
    picture: () => undefined,
    edits: new Map(),
    step: () => {},
    share: 1,
    density: 1,
    thickness: 0.01,
    breadth: 0.01,
    report: ({ code }) => context.told?.push(code),
    ...context,
  } as BuildContext);
}
