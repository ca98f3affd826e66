import { type CurveSet, newUse, Surroundings, unitOf } from '../src/index.js';
import type { Made } from '../src/unit/carriers.js';
import type { BuildContext } from '../src/unit/unit.js';

type Given = Partial<BuildContext> & { input?: CurveSet; reported?: string[] };

/** Runs one unit on nothing but what is given; findings go to `reported`. */
export const build = (stage: 'path' | 'shape', id: string, parameters: Record<string, unknown>, context?: Given) =>
  run<CurveSet>(stage, id, parameters, context);

/** The same of what runs along a line. */
export const made = (id: string, parameters: Record<string, unknown>, context?: Given) =>
  run<Made>('make', id, parameters, context);

function run<T>(
  stage: 'path' | 'shape' | 'make',
  id: string,
  parameters: Record<string, unknown>,
  context: Given = {},
): T {
  const use = newUse(stage, id);
  const unit = unitOf(stage, id) as unknown as {
    build(input: CurveSet | undefined, parameters: object, context: BuildContext): T;
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
    forView: false,
    density: 1,
    thickness: 0.01,
    breadth: 0.01,
    report: ({ code }) => context.reported?.push(code),
    ...context,
  } as BuildContext);
}
