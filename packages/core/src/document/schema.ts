import * as yup from 'yup';
import { ANCHOR_BOUNDS, anchorSchema, MAX_COORDINATE, MAX_KNOTS } from '../unit/kinds.js';
import { findUnit, unitsOf } from '../unit/registry.js';
import { parametersSchema } from '../unit/schema.js';
import type { Stage } from '../unit/unit.js';
import { DISPLAY_UNITS, DOCUMENT_FORMAT, DOCUMENT_VERSION, MAX_BULGE, PICTURE_PLANES } from './document.js';
import { isVisible } from './visible.js';

/** Limits that keep a hostile or broken file from filling the memory. */
export const LIMITS = {
  name: 200,
  props: 2_000,
  pictures: 200,
  curves: 20_000,
  pointsPerCurve: 10_000,
  pieces: 5_000,
  shapesPerPiece: 32,
  variantsPerPiece: 100,
  profiles: 1_000,
  pathsPerProfile: 200,
  pointsPerProfile: 5_000,
  materials: 1_000,
  regions: 1_000,
  slotsPerPiece: 32,
  elementsPerPiece: 100_000,
  keyedPerPiece: 64,
  /** Text of the parameters of a unit that is not known. */
  unknownUse: 100_000,
  /** World coordinates, metres. */
  coordinate: MAX_COORDINATE,
} as const;

/** Least and greatest value of what is by the thousand. */
export const BOUNDS = {
  coordinate: [-LIMITS.coordinate, LIMITS.coordinate],
  thickness: [1e-4, 1e4],
  roll: [-1e4, 1e4],
  triangle: ANCHOR_BOUNDS.triangle,
  barycentric: ANCHOR_BOUNDS.shares,
  element: [0, 0xffffffff],
  elementSize: [1e-6, 1e6],
  bulge: [-MAX_BULGE, MAX_BULGE],
} as const;

const number = (min: number, max: number) =>
  yup
    .number()
    .required()
    .test(
      'finite',
      ({ path }) => `${path} must be a finite number`,
      (value) => Number.isFinite(value),
    )
    .min(min)
    .max(max);
const coordinate = number(...BOUNDS.coordinate);
const optional = (min: number, max: number) =>
  yup
    .number()
    .min(min)
    .max(max)
    .test(
      'finite',
      ({ path }) => `${path} must be a finite number`,
      (value) => value === undefined || Number.isFinite(value),
    );
const point = yup.tuple([coordinate, coordinate, coordinate]).required();
const id = yup
  .string()
  .min(1)
  .max(64)
  .matches(/^[\w-]+$/, ({ path }) => `${path} may hold letters, digits, - and _ only`)
  .required();
/** Names are shown, so they must be visible and short. */
export const nameSchema = yup
  .string()
  .strict()
  .trim()
  .min(1)
  .max(LIMITS.name)
  .test(
    'visible',
    ({ path }) => `${path} must have a visible character, and no control or direction characters`,
    (value) => value === undefined || isVisible(value),
  )
  .required();
const colour = yup
  .string()
  .matches(/^#[0-9a-f]{6}$/, ({ path }) => `${path} must be a colour like #2c6a50`)
  .required();

const anchor = anchorSchema();

/** A list whose items are gone through by themselves (see `openDocument`). */
const list = () => yup.array().required();

const quaternion = yup
  .tuple([number(-1.01, 1.01), number(-1.01, 1.01), number(-1.01, 1.01), number(-1.01, 1.01)])
  .required();

const prop = yup
  .object({
    id,
    name: nameSchema,
    mesh: yup
      .string()
      .matches(/^[0-9a-f]{64}$/, ({ path }) => `${path} must be a SHA-256 in hex`)
      .required(),
    placement: yup
      .object({
        position: point,
        rotation: quaternion,
        scale: number(1e-9, 1e9),
      })
      .noUnknown()
      .required(),
    visible: yup.boolean().required(),
    colour,
  })
  .noUnknown();

const picture = yup
  .object({
    id,
    name: nameSchema,
    image: yup
      .string()
      .matches(/^[0-9a-f]{64}$/, ({ path }) => `${path} must be a SHA-256 in hex`)
      .required(),
    plane: yup.string().oneOf(PICTURE_PLANES).required(),
    position: point,
    width: number(1e-6, LIMITS.coordinate),
    aspect: number(1e-4, 1e4),
    opacity: number(0, 1),
    visible: yup.boolean().required(),
    locked: yup.boolean().required(),
  })
  .noUnknown();

/** A point of a drawn line. */
export const pointSchema = yup
  .object({
    position: point,
    anchor,
    corner: yup.boolean().required(),
    radius: number(...BOUNDS.thickness),
    roll: optional(...BOUNDS.roll),
  })
  .noUnknown()
  .required();

const curve = yup
  .object({
    id,
    name: nameSchema,
    closed: yup.boolean().required(),
    points: list(),
  })
  .noUnknown()
  .required();

const unknownParameters = yup
  .mixed()
  .test(
    'object',
    ({ path }) => `${path} must be an object of at most ${LIMITS.unknownUse.toLocaleString('en')} characters`,
    (value) =>
      typeof value === 'object' &&
      value !== null &&
      !Array.isArray(value) &&
      JSON.stringify(value).length <= LIMITS.unknownUse,
  )
  .required();

/** Uses that were checked and found sound, as text: most pieces of a project are made alike. */
const sound = new Set<string>();
const MAX_VALID = 10_000;

/** A use of a unit of one stage. What is just like one that was sound before is not checked again. */
function useSchema(stage: Stage, extra: yup.ObjectShape = {}): yup.Schema {
  const anything = yup.mixed().required();
  return yup.lazy((value: { unit?: unknown } | undefined) => {
    const text = `${stage} ${JSON.stringify(value)}`;
    if (sound.has(text)) return anything;
    const schema = oneUseSchema(stage, extra, value);
    if (!schema.isValidSync(value)) return schema;
    if (sound.size >= MAX_VALID) sound.clear();
    sound.add(text);
    return anything;
  }) as unknown as yup.Schema;
}

/** The id of the unit decides what its parameters must be. */
function oneUseSchema(stage: Stage, extra: yup.ObjectShape, value: { unit?: unknown } | undefined): yup.Schema {
  const unit = typeof value?.unit === 'string' ? findUnit(value.unit) : undefined;
  // a unit of a later Kelp is kept as it is, so that nothing is lost; a unit of another stage is a mistake
  const known = unitsOf(stage).map((candidate) => candidate.id);
  return yup
    .object({
      unit: yup
        .string()
        .min(1)
        .max(64)
        .test(
          'stage',
          ({ path, value: v }) =>
            `${path}: no ${stage} unit is called "${String(v).slice(0, 60)}"; available: ${known.join(', ')}`,
          () => !unit || unit.stage === stage,
        )
        .required(),
      version: yup.number().integer().min(1).max(1_000_000).optional(),
      parameters: unit && unit.stage === stage ? parametersSchema(unit.parameters) : unknownParameters,
      ...extra,
    })
    .noUnknown()
    .strict()
    .required();
}

/** An element that was changed by hand. */
export const elementSchema = yup
  .object({
    id: number(...BOUNDS.element).integer(),
    dropped: yup.boolean().optional(),
    move: yup.tuple([coordinate, coordinate, coordinate]).optional().default(undefined),
    turn: yup.number().min(BOUNDS.roll[0]).max(BOUNDS.roll[1]).optional(),
    size: yup.number().min(BOUNDS.elementSize[0]).max(BOUNDS.elementSize[1]).optional(),
    prop: yup.string().max(64).optional(),
  })
  .noUnknown()
  .required();

const stages = {
  path: useSchema('path'),
  shape: yup
    .array(useSchema('shape', { enabled: yup.boolean().required() }))
    .max(LIMITS.shapesPerPiece)
    .required(),
  make: useSchema('make'),
  dress: dressSchema(),
  elements: yup.array().optional(),
  keyed: yup
    .array(
      yup
        .object({
          stage: yup.string().oneOf(['path', 'shape', 'make']).required(),
          index: yup.number().integer().min(0).max(LIMITS.shapesPerPiece),
          unit: yup.string().min(1).max(64).required(),
          parameter: yup.string().min(1).max(64).required(),
          knot: yup.number().integer().min(0).max(MAX_KNOTS),
          from: number(-1e9, 1e9),
          to: number(-1e9, 1e9),
          way: yup.string().oneOf(['back', 'once']).required(),
        })
        .noUnknown()
        .strict()
        .required(),
    )
    .max(LIMITS.keyedPerPiece)
    .optional(),
  bake: yup
    .object({ density: number(0.05, 20), tangents: yup.boolean().optional() })
    .noUnknown()
    .required(),
};

/** Slots by name; what each wears. */
function dressSchema(): yup.Schema {
  const own = useSchema('dress');
  return yup.lazy((value: Record<string, unknown> | undefined) => {
    const slots = typeof value === 'object' && value !== null ? Object.keys(value) : [];
    const shape = Object.fromEntries(
      ['main', ...slots.slice(0, LIMITS.slotsPerPiece)].map((slot) => [
        slot,
        yup.lazy((dress: unknown) =>
          typeof dress === 'object' && dress !== null && 'material' in dress
            ? yup.object({ material: id }).noUnknown().strict().required()
            : own,
        ) as unknown as yup.Schema,
      ]),
    );
    return yup
      .object(shape)
      .noUnknown(({ path }) => `${path} has more than ${LIMITS.slotsPerPiece} slots`)
      .test(
        'names',
        ({ path }) => `${path}: a slot name may hold letters, digits, spaces, - and _ only`,
        () => slots.every((slot) => /^[\w -]{1,64}$/.test(slot)),
      )
      .strict()
      .required();
  }) as unknown as yup.Schema;
}

/** A point of an outline. */
export const outlinePointSchema = yup
  .object({ x: coordinate, y: coordinate, corner: yup.boolean().required(), bulge: optional(...BOUNDS.bulge) })
  .noUnknown()
  .required();

const profile = yup
  .object({
    id,
    name: nameSchema,
    paths: yup
      .array(yup.object({ closed: yup.boolean().required(), points: list() }).noUnknown().required())
      .max(LIMITS.pathsPerProfile)
      .required(),
  })
  .noUnknown();

const material = yup.object({ id, name: nameSchema, dress: useSchema('dress') }).noUnknown();

const region = yup
  .object({
    id,
    name: nameSchema,
    form: yup.string().oneOf(['ball', 'box']).required(),
    position: point,
    size: yup.tuple([number(1e-6, 1e6), number(1e-6, 1e6), number(1e-6, 1e6)]).required(),
    rotation: quaternion,
    edge: number(0, 1e6),
  })
  .noUnknown();

const variant = yup
  .object({
    id,
    name: nameSchema,
    stages: yup.object(stages).noUnknown().required(),
    curves: list(),
  })
  .noUnknown();

const piece = yup
  .object({
    id,
    name: nameSchema,
    visible: yup.boolean().required(),
    detail: yup.string().oneOf(['path', 'draft']).optional(),
    locked: yup.boolean().optional(),
    ...stages,
    variants: yup
      .array(variant.required())
      .max(LIMITS.variantsPerPiece)
      .optional()
      .test(
        'distinct',
        ({ path }) => `${path}: two entries have the same id`,
        (all) => !all || new Set(all.map((one) => one?.id)).size === all.length,
      ),
    ignored: yup
      .array(
        yup
          .object({ code: yup.string().min(1).max(64).required(), reason: yup.string().max(LIMITS.name).defined() })
          .noUnknown(),
      )
      .max(100)
      .optional(),
  })
  .noUnknown();

/** The lists of a document: what is in each, and how much of it there may be. */
export const itemSchemas = {
  props: { schema: prop.required(), most: LIMITS.props },
  pictures: { schema: picture.required(), most: LIMITS.pictures },
  curves: { schema: curve, most: LIMITS.curves },
  profiles: { schema: profile.required(), most: LIMITS.profiles },
  materials: { schema: material.required(), most: LIMITS.materials },
  regions: { schema: region.required(), most: LIMITS.regions },
  pieces: { schema: piece.required(), most: LIMITS.pieces },
} as const satisfies Record<string, { schema: yup.Schema; most: number }>;

/** A document without what is in its lists. */
export const documentSchema = yup
  .object({
    format: yup.string().oneOf([DOCUMENT_FORMAT]).required(),
    version: yup.number().oneOf([DOCUMENT_VERSION]).required(),
    name: nameSchema,
    displayUnit: yup.string().oneOf(DISPLAY_UNITS).required(),
    props: list(),
    pictures: list(),
    curves: list(),
    profiles: list(),
    materials: list(),
    regions: list(),
    clock: yup
      .object({ seconds: number(0.01, 36_000), loop: yup.boolean().required() })
      .noUnknown()
      .required(),
    pieces: list(),
  })
  .noUnknown(({ unknown }) => `A project has no field called ${unknown}`)
  .strict()
  .required();
