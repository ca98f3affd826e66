import { KelpError } from '../errors.js';
import { DOCUMENT_FORMAT, DOCUMENT_VERSION, FIRST_CLOCK } from './document.js';

/** Lifts a document from version `from` to the next one. */
export interface UpgradeStep {
  from: number;
  upgrade(document: Record<string, unknown>): Record<string, unknown>;
}

/** In rising order, one step a version. */
const STEPS: readonly UpgradeStep[] = [
  // a hanging line can swing to a side; pictures to draw from
  { from: 1, upgrade: (document) => ({ pictures: [], ...withShapeParameter(document, 'sag', 'swing', 0) }) },
  // a dressing for each slot; profiles, materials, regions and one clock
  {
    from: 2,
    upgrade: (document) => ({
      profiles: [],
      materials: [],
      regions: [],
      clock: FIRST_CLOCK,
      ...document,
      ...(Array.isArray(document['pieces']) ? { pieces: document['pieces'].map(withSlots) } : {}),
    }),
  },
];

type Json = Record<string, unknown>;

/** A piece whose one dressing is that of its main slot, in its variants too. */
function withSlots(piece: Json | null): unknown {
  const slots = (stages: Json) => ('dress' in stages ? { ...stages, dress: { main: stages['dress'] } } : stages);
  if (typeof piece !== 'object' || piece === null) return piece;
  const { variants } = piece;
  if (!Array.isArray(variants)) return slots(piece);
  const lifted = variants.map((variant: Json | null) =>
    typeof variant?.['stages'] === 'object' && variant['stages'] !== null
      ? { ...variant, stages: slots(variant['stages'] as Json) }
      : variant,
  );
  return { ...slots(piece), variants: lifted };
}

/** Gives every use of a shape unit a parameter that it did not have yet. Broken parts are left for the check to name. */
function withShapeParameter(document: Json, unit: string, name: string, value: unknown): Json {
  if (!Array.isArray(document['pieces'])) return document;
  return {
    ...document,
    pieces: document['pieces'].map((piece: Json | null) =>
      Array.isArray(piece?.['shape'])
        ? {
            ...piece,
            shape: piece['shape'].map((use: Json | null) =>
              use?.['unit'] === unit ? { ...use, parameters: { [name]: value, ...(use['parameters'] as Json) } } : use,
            ),
          }
        : piece,
    ),
  };
}

/**
 * Runs the steps that a document's version asks for. What the newest version looks like is not checked here.
 * @throws KelpError INVALID_DOCUMENT when it is no Kelp project at all, NEWER_DOCUMENT when a later Kelp wrote it
 */
export function upgradeDocument(
  raw: unknown,
  steps: readonly UpgradeStep[] = STEPS,
  newest: number = DOCUMENT_VERSION,
): unknown {
  if (typeof raw !== 'object' || raw === null || Array.isArray(raw))
    throw new KelpError('INVALID_DOCUMENT', 'Not a Kelp project: the file must hold one JSON object', [
      { path: '', message: 'must be an object' },
    ]);
  let document = raw as Record<string, unknown>;
  if (document['format'] !== DOCUMENT_FORMAT)
    throw new KelpError('INVALID_DOCUMENT', `Not a Kelp project: "format" must be "${DOCUMENT_FORMAT}"`, [
      { path: 'format', message: `must be "${DOCUMENT_FORMAT}"` },
    ]);
  const version = document['version'];
  if (typeof version !== 'number' || !Number.isInteger(version) || version < 1)
    throw new KelpError('INVALID_DOCUMENT', 'The project has no version number', [
      { path: 'version', message: 'must be a whole number from 1' },
    ]);
  if (version > newest)
    throw new KelpError(
      'NEWER_DOCUMENT',
      `The project was saved by a newer Kelp (version ${version}; this one reads up to ${newest}). Update Kelp to open it.`,
      [{ path: 'version', message: `must be ${newest} or less` }],
    );
  for (const step of steps)
    if (document['version'] === step.from) document = { ...step.upgrade(document), version: step.from + 1 };
  return document;
}
