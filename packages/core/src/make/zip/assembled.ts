import { curveCount } from '../../curve/curve-set.js';
import { type Mesh, mergeMeshes } from '../../mesh/mesh.js';
import type { AlongValue } from '../../numeric/lane.js';
import { childId } from '../../numeric/random.js';
import type { Surroundings } from '../../surface/surroundings.js';
import type { Mark, Part } from '../../unit/carriers.js';
import { Cloth } from '../elements/cloth.js';
import type { FramedLines } from '../elements/framed-lines.js';
import { propElement } from '../elements/prop-element.js';
import { type Place, placedPart, standAt, toothStands } from './fittings.js';
import { alongHalf, gapeOf, halvesOf, toothPlaces, type Zone, zonesOf } from './halves.js';
import { ownPull, ownTooth } from './own-parts.js';
import { TEETH, ZIP_SIZES } from './parameters.js';
import { pullMesh, sliderMesh, stopMesh } from './slider.js';
import { tapeMesh } from './tape.js';
import { coilLine, coilMesh, toothMesh } from './teeth.js';

/** Teeth of one piece at most. */
export const MAX_TEETH = 200_000;
/** No zip is shorter; a slider stands so far from the end of a closed one, a stop so far from an end. In half widths. */
export const MIN_LENGTH = 8;
const PARKED = 3.2;
const STOPPED = 0.7;

export interface ZipChoice {
  size: string;
  radius: number;
  teeth: string;
  tooth: string;
  opening: AlongValue;
  tape: number;
  facing: string;
  pitch: number;
  thickness: number;
  columns: number;
  reach: number;
  pull: string;
  pullProp: string;
  pullLength: number;
  stops: boolean;
}

/** Half the width of its closed teeth, metres. */
export const halfOf = ({ size, radius }: Pick<ZipChoice, 'size' | 'radius'>): number =>
  (ZIP_SIZES.find(({ value }) => value === size)?.width ?? 2 * radius) / 2;

interface Asked {
  /** What it lies on, and where props that teeth and pulls are made from are found. */
  surroundings: Surroundings;
  props: Surroundings | undefined;
  density: number;
}

/** All of the zips on some lines. */
export function zipped(framed: FramedLines, p: ZipChoice, { surroundings, props, density }: Asked) {
  const half = halfOf(p);
  const pitch = pitchOf(p);
  const thick = half * p.thickness;
  const side = p.facing === 'in' ? turnedOver(framed) : framed;
  const cloth = new Cloth(side, surroundings, half * p.reach, p.facing === 'in');
  const sides = Math.max(6, Math.round(14 * density));
  const columns = Math.max(1, Math.round(p.columns * density));
  const { lines, lengths } = side;
  const tapes: Mesh[] = [];
  const coils: ReturnType<typeof coilLine>[] = [];
  const stands = { teeth: [] as Place[], sliders: [] as Place[], stops: [] as Place[], shut: [] as Place[] };
  const short: number[] = [];
  let [teeth, cut] = [0, false];
  for (let c = 0; c < curveCount(lines) && !cut; c++) {
    if (!(lengths[c] > MIN_LENGTH * half)) {
      short.push(c);
      continue;
    }
    cut = teeth + (2 * lengths[c]) / (pitch * half) > MAX_TEETH;
    if (cut) break;
    const gape = gapeOf(p.opening, 2 * half, lengths[c]);
    const zones = zonesOf(gape, lengths[c], half);
    const ends = lines.closed[c] === 1 ? [] : endsOf(zones, lengths[c], half);
    for (const one of halvesOf(side, c, cloth, gape, half)) {
      tapes.push(tapeMesh(side, c, cloth, gape, one.side, { half, out: half * p.tape, thick, columns, density }));
      const at = toothPlaces(one, zones, pitch * half);
      teeth += at.length;
      // very many: more than may be handed to a call at once
      if (p.teeth !== 'coil') for (const stand of toothStands(one, at, c, thick)) stands.teeth.push(stand);
      else if (at.length > 1) coils.push(coilLine(one, at, half, pitch, thick));
      const stops = p.stops ? ends.filter(({ shut }) => !shut).map(({ s }) => alongHalf(one, s)) : [];
      stands.stops.push(...toothStands(one, stops, c, thick));
    }
    const inMiddle = (s: number, way: number, name: number) =>
      standAt(cloth, c, s, way, thick, childId(lines.id[c], name));
    stands.sliders.push(...zones.slice(1).map(({ from, open }, k) => inMiddle(from, open ? 1 : -1, 100 + k)));
    // closed all along, its slider stands at the end
    if (zones.length === 1 && !zones[0].open && ends.length > 0)
      stands.sliders.push(inMiddle(lengths[c] - PARKED * half, 1, 100));
    const shut = p.stops ? ends.filter((end) => end.shut) : [];
    stands.shut.push(...shut.map(({ s, way }, k) => inMiddle(s, way, 200 + k)));
  }
  const element = (id: string) => (props ? propElement(id, props) : undefined);
  const parts: Part[] =
    tapes.length > 0 ? [{ kind: 'mesh', id: 'tape', name: 'Tape', slot: 'main', mesh: mergeMeshes(tapes) }] : [];
  if (coils.length > 0)
    parts.push({
      kind: 'mesh',
      id: 'teeth',
      name: 'Coils',
      slot: 'teeth',
      mesh: coilMesh(coils, Math.max(5, sides >> 1)),
    });
  const placed = (id: string, name: string, slot: string, mesh: () => Mesh, places: readonly Place[]) =>
    parts.push(...(places.length > 0 ? placedPart({ id, name, slot }, mesh(), half, places) : []));
  placed(
    'teeth',
    'Teeth',
    'teeth',
    () => (p.teeth === 'own' && ownTooth(element(p.tooth), pitch)) || toothMesh(p.teeth, pitch, sides),
    stands.teeth,
  );
  placed('slider', 'Slider', 'slider', () => sliderMesh(sides), stands.sliders);
  placed(
    'pull',
    'Pull',
    'slider',
    () => (p.pull === 'own' && ownPull(element(p.pullProp), p.pullLength)) || pullMesh(p.pull, p.pullLength, sides),
    p.pull === 'none' ? [] : stands.sliders,
  );
  placed('stops', 'Stops', 'slider', () => stopMesh(false), stands.stops);
  placed('shut', 'Closed ends', 'slider', () => stopMesh(true), stands.shut);
  return { parts, teeth, short, cut, marks: sliderMarks(stands.sliders) };
}

/** From tooth to tooth of one half, in half widths. */
const pitchOf = ({ teeth, pitch }: ZipChoice): number =>
  (TEETH.find(({ value }) => value === teeth)?.pitch ?? 1) * pitch;

/** The ends of an open line: held shut where the zip is closed, but for the end at which a slider has gone all the way. */
function endsOf(zones: readonly Zone[], length: number, half: number): { s: number; way: number; shut: boolean }[] {
  const [first, last] = [zones[0], zones[zones.length - 1]];
  const closed = zones.length === 1 && !first.open;
  return [
    { s: STOPPED * half, way: 1, shut: !first.open },
    { s: length - STOPPED * half, way: -1, shut: !last.open && !closed },
  ];
}

/** The same lines seen from the other side of the cloth. */
const turnedOver = (framed: FramedLines): FramedLines => ({ ...framed, up: framed.up.map((value) => -value) });

const sliderMarks = (stands: readonly { id: number; curve: number; along: number }[]): Mark[] =>
  stands.length === 0
    ? []
    : [
        {
          kind: 'joint',
          label: 'Sliders',
          id: Uint32Array.from(stands, ({ id }) => id),
          curve: Uint32Array.from(stands, ({ curve }) => curve),
          along: Float32Array.from(stands, ({ along }) => along),
        },
      ];
