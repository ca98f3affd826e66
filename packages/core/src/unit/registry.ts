import { patterned } from '../dress/patterned.js';
import { plain } from '../dress/plain.js';
import { hair } from '../dress/strands/hair.js';
import { KelpError } from '../errors.js';
import { belt } from '../make/belt/belt.js';
import { braid } from '../make/braid/braid.js';
import { bridge } from '../make/bridge/bridge.js';
import { cable } from '../make/cable/cable.js';
import { chain } from '../make/chain/chain.js';
import { coil } from '../make/coil/coil.js';
import { fill } from '../make/fill/fill.js';
import { laid } from '../make/laid/laid.js';
import { pipe } from '../make/pipe/pipe.js';
import { place } from '../make/place/place.js';
import { ribbon } from '../make/ribbon/ribbon.js';
import { stitch } from '../make/stitch/stitch.js';
import { strands } from '../make/strands/strands.js';
import { sweep } from '../make/sweep/sweep.js';
import { tendrils } from '../make/tendrils/tendrils.js';
import { truss } from '../make/truss/truss.js';
import { zip } from '../make/zip/zip.js';
import { across } from '../path/across/across.js';
import { carried } from '../path/carried.js';
import { contours } from '../path/contours.js';
import { drawn } from '../path/drawn.js';
import { edges } from '../path/edges.js';
import { figure } from '../path/figure.js';
import { grown } from '../path/grown/grown.js';
import { helix } from '../path/helix.js';
import { imported } from '../path/imported.js';
import { scattered } from '../path/scattered/scattered.js';
import { strung } from '../path/strung/strung.js';
import { wheels } from '../path/wheels/wheels.js';
import { cling } from '../shape/cling.js';
import { keepApart } from '../shape/keep-apart.js';
import { mirror } from '../shape/mirror.js';
import { offset } from '../shape/offset.js';
import { repeat } from '../shape/repeat.js';
import { resample } from '../shape/resample.js';
import { sag } from '../shape/sag.js';
import { slide } from '../shape/slide.js';
import { smooth } from '../shape/smooth.js';
import { clear } from '../shape/strands/clear.js';
import { clump } from '../shape/strands/clump.js';
import { comb, part } from '../shape/strands/comb.js';
import { curl } from '../shape/strands/curl.js';
import { cut } from '../shape/strands/cut.js';
import { droop } from '../shape/strands/droop.js';
import { frizz } from '../shape/strands/frizz.js';
import { gather } from '../shape/strands/gather.js';
import { layers } from '../shape/strands/layers.js';
import { trim } from '../shape/trim.js';
import { vary } from '../shape/vary.js';
import { wobble } from '../shape/wobble.js';
import { FURTHER } from './further.js';
import { defaultsOf, type Parameter, type ParameterValues } from './parameters.js';
import type { Stage, Unit } from './unit.js';

/** Every unit of Kelp. Adding one is adding its file and a line here. */
const UNITS: readonly unknown[] = [
  drawn,
  helix,
  figure,
  edges,
  contours,
  imported,
  scattered,
  grown,
  across,
  strung,
  wheels,
  carried,
  cling,
  sag,
  smooth,
  resample,
  wobble,
  vary,
  offset,
  trim,
  slide,
  mirror,
  repeat,
  keepApart,
  layers,
  clump,
  frizz,
  curl,
  cut,
  comb,
  part,
  droop,
  clear,
  gather,
  cable,
  sweep,
  coil,
  pipe,
  ribbon,
  tendrils,
  belt,
  laid,
  braid,
  bridge,
  fill,
  place,
  chain,
  stitch,
  zip,
  strands,
  truss,
  plain,
  patterned,
  hair,
  ...FURTHER,
];

/** Parameters have been checked against the declaration by the time `build` sees them, so their types may be forgotten. */
export const units = UNITS as readonly Unit[];

const byId = new Map(units.map((unit) => [unit.id, unit]));

export const unitsOf = <K extends Stage>(stage: K): readonly Unit<K>[] =>
  units.filter((unit) => unit.stage === stage) as unknown as Unit<K>[];

export const findUnit = (id: string): Unit | undefined => byId.get(id);

/** The unit, where there is one of that stage. */
export function knownUnit<K extends Stage>(stage: K, id: string): Unit<K> | undefined {
  const unit = byId.get(id);
  return unit?.stage === stage ? (unit as unknown as Unit<K>) : undefined;
}

/** @throws KelpError UNKNOWN_UNIT */
export function unitOf<K extends Stage>(stage: K, id: string): Unit<K> {
  const unit = knownUnit(stage, id);
  if (!unit)
    throw new KelpError(
      'UNKNOWN_UNIT',
      `No ${stage} unit is called "${id}"; available: ${unitsOf(stage)
        .map((u) => u.id)
        .join(', ')}`,
    );
  return unit;
}

/** The parameter of a make unit that is its size; one that takes drawn curves. By declaration, none where there is none. */
export const sizeParameter = (unit: string): string | undefined =>
  parameterWhere(unit, (parameter) => 'share' in parameter && parameter.share === 'size');
export const curvesParameter = (unit: string): string | undefined =>
  parameterWhere(unit, ({ kind }) => kind === 'curves');

const parameterWhere = (unit: string, is: (parameter: Parameter) => boolean): string | undefined =>
  Object.entries(byId.get(unit)?.parameters ?? {}).find(([, parameter]) => is(parameter))?.[0];

/** All parameters of a unit as one of its presets sets them; the first preset when none is named. */
export function presetParameters(unit: Unit, presetId?: string): ParameterValues {
  const preset = unit.presets.find((candidate) => candidate.id === presetId) ?? unit.presets[0];
  return { ...defaultsOf(unit.parameters), ...preset.parameters };
}
