import { type CurveSet, curveCount } from '../../curve/curve-set.js';
import { greatest, mapAlong } from '../../numeric/lane.js';
import { pointOf } from '../../numeric/vector.js';
import { partCounts } from '../../part/part.js';
import { Surroundings } from '../../surface/surroundings.js';
import { madeOf } from '../../unit/carriers.js';
import type { Finding } from '../../unit/finding.js';
import { type BuildContext, defineUnit } from '../../unit/unit.js';
import { calmLines } from '../elements/calm-lines.js';
import { Cloth } from '../elements/cloth.js';
import type { FramedLines } from '../elements/framed-lines.js';
import { propElement, reportElement } from '../elements/prop-element.js';
import { halfOf, MAX_TEETH, MIN_LENGTH, type ZipChoice, zipped } from './assembled.js';
import { foldOf, gapeOf, samplesOn } from './halves.js';
import { TEETH, ZIP } from './parameters.js';

/** A vertex with its share of the faces. */
const VERTEX_BYTES = 56;
/** Places of all lines at which it is looked whether the halves fold. */
const MAX_SAMPLES = 300_000;
/** Halvings until the greatest opening that does not fold is found. */
const HALVINGS = 12;

const HALF_OPEN = {
  knots: [
    { at: 0, value: 8 },
    { at: 0.1, value: 7 },
    { at: 0.45, value: 0 },
  ],
  ease: 'smooth' as const,
};

export const zip = defineUnit({
  stage: 'make',
  id: 'zip',
  label: 'Zip',
  purpose: 'Two tapes with interlocking teeth, sliders and stops, lying on the cloth, closed or open.',
  synonyms: ['zipper', 'fastener', 'teeth', 'slider', 'fly'],
  shelf: 'elements',
  outfits: [
    {
      id: 'brass-zip',
      label: 'Brass on linen',
      wears: {
        main: { unit: 'plain', preset: 'linen' },
        teeth: { unit: 'plain', preset: 'brass' },
        slider: { unit: 'plain', preset: 'brass' },
      },
    },
    {
      id: 'dry-suit',
      label: 'Dry suit',
      wears: {
        main: { unit: 'patterned', preset: 'grained-rubber' },
        teeth: { unit: 'plain', preset: 'rubber' },
        slider: { unit: 'plain', preset: 'orange-jacket' },
      },
    },
    {
      id: 'tent',
      label: 'Tent',
      wears: {
        main: { unit: 'patterned', preset: 'webbing' },
        teeth: { unit: 'plain', preset: 'white-jacket' },
        slider: { unit: 'plain', preset: 'steel' },
      },
    },
  ],
  parameters: ZIP,
  presets: [
    { id: 'moulded-zip', label: 'Moulded', parameters: {} },
    { id: 'half-open-zip', label: 'Half open', synonyms: ['open zipper'], parameters: { opening: HALF_OPEN } },
    { id: 'metal-zip', label: 'Metal', parameters: { teeth: 'metal', pull: 'ring', opening: HALF_OPEN } },
    { id: 'coil-zip', label: 'Coil', parameters: { teeth: 'coil', size: '5', pull: 'toggle', opening: HALF_OPEN } },
    {
      id: 'suit-zip',
      label: 'Suit zip',
      synonyms: ['dry suit'],
      parameters: { size: '10', teeth: 'round', tape: 4.5, pull: 'toggle', pullLength: 8 },
    },
  ],
  slots: [
    { id: 'teeth', label: 'Teeth', wears: { unit: 'plain', preset: 'brass' } },
    { id: 'slider', label: 'Slider and stops', wears: { unit: 'plain', preset: 'steel' } },
  ],
  sample: {
    lines: ['over'],
    bar: 'board',
    before: [['cling', { reach: 1 }]],
    parameters: { size: 'free', radius: 0.009 },
  },
  thickness: (p) => halfOf(p) * p.thickness,
  breadth: (p) => halfOf(p) * (p.tape + greatest(p.opening)),
  // on a plain: what it lies on changes next to nothing of what it comes to
  cost(input, p, { density, surroundings }) {
    const air = { surroundings: new Surroundings(new Map()), props: surroundings, density };
    const vertices = zipped(linesOf(input, p), p, air).parts.reduce((sum, part) => sum + partCounts(part).vertices, 0);
    return { vertices, bytes: VERTEX_BYTES * vertices };
  },
  describe(p, length) {
    const kind = TEETH.find(({ value }) => value === p.teeth)?.label ?? '';
    return `${kind}, ${length(2 * halfOf(p))} wide${greatest(p.opening) > 0 ? ', open' : ''}`;
  },
  build(input, p, context) {
    const framed = linesOf(input, p);
    if (p.teeth === 'own') reportElement(p.tooth, propElement(p.tooth, context.surroundings), context.report);
    if (p.pull === 'own') reportElement(p.pullProp, propElement(p.pullProp, context.surroundings), context.report);
    const { parts, marks, teeth, short, cut } = zipped(framed, p, {
      ...context,
      surroundings: context.surroundings,
      props: context.surroundings,
      density: context.density,
    });
    reportLines(framed, short, cut, halfOf(p), context);
    const folded = foldFinding(framed, p);
    if (folded) context.report(folded);
    return madeOf(framed.lines, {
      parts,
      marks,
      measures: [
        { id: 'teeth', label: 'Teeth', quantity: 'count', value: teeth },
        { id: 'closed-width', label: 'Teeth, closed', quantity: 'length', value: 2 * halfOf(p) },
        { id: 'widest', label: 'Widest opening', quantity: 'length', value: 2 * halfOf(p) * greatest(p.opening) },
      ],
    });
  },
});

/** The tape reaches this many half widths to the side: its line is as calm as that asks for. */
const linesOf = (input: CurveSet, p: ZipChoice): FramedLines => calmLines(input, 1.5 * halfOf(p));

/** Whether the halves fold because they are too far apart for a bend, and how far they may. */
function foldFinding(framed: FramedLines, p: ZipChoice): Finding | undefined {
  if (!(greatest(p.opening) > 0)) return undefined;
  const half = halfOf(p);
  const cloth = new Cloth(framed, new Surroundings(new Map()), 0);
  let left = MAX_SAMPLES;
  for (let c = 0; c < curveCount(framed.lines) && left > 0; c++) {
    left -= samplesOn(framed.lengths[c], half);
    const folds = (share: number): number | undefined => {
      const gape = gapeOf(
        mapAlong(p.opening, (value) => share * value),
        2 * half,
        framed.lengths[c],
      );
      return foldOf(framed, c, cloth, gape, half, half * p.tape);
    };
    const worst = framed.lengths[c] > MIN_LENGTH * half ? folds(1) : undefined;
    if (worst === undefined) continue;
    let [low, high] = [0, 1];
    for (let round = 0; round < HALVINGS; round++) {
      const middle = (low + high) / 2;
      if (folds(middle) === undefined) low = middle;
      else high = middle;
    }
    const widest = 2 * half * greatest(p.opening);
    return {
      code: 'halves-cut',
      severity: 'warning',
      message: `Opening {value} (limit {limit}): too wide for the bends of the line, so the halves intersect. ${low > 0 ? 'Reduce the opening.' : 'Smooth the line, or make the tape narrower.'}`,
      place: cloth.planned(c, worst, 0).at,
      along: worst,
      size: { value: widest, limit: low * widest, kind: 'length' },
      fix: {
        label: 'Set the widest opening that fits',
        kind: 'set',
        stage: 'make',
        parameter: 'opening',
        value: mapAlong(p.opening, (value) => low * value),
      },
    };
  }
  return undefined;
}

function reportLines(
  { lines }: FramedLines,
  short: readonly number[],
  cut: boolean,
  half: number,
  { report }: BuildContext,
): void {
  if (short.length > 0)
    report({
      code: 'zip-short',
      severity: 'warning',
      message: `${short.length === 1 ? 'A line is' : `${short.length} lines are`} too short for this zip and stays empty. Draw a longer line, or choose a smaller size.`,
      place: pointOf(lines.position, lines.start[short[0]]),
      size: { value: 0, limit: MIN_LENGTH * half, kind: 'length' },
    });
  if (cut)
    report({
      code: 'too-many-elements',
      severity: 'warning',
      message: `More than ${MAX_TEETH.toLocaleString('en')} teeth: the rest of the lines stays empty. Choose a larger size.`,
      size: { value: MAX_TEETH, limit: MAX_TEETH, kind: 'count' },
    });
}
