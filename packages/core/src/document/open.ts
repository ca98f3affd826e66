import * as yup from 'yup';
import { type Issue, KelpError } from '../errors.js';
import type { KelpDocument } from './document.js';
import { tidyNames } from './name.js';
import { isElement, isOutlinePoint, isPoint } from './quick.js';
import { repairUses } from './repair.js';
import { documentSchema, elementSchema, itemSchemas, LIMITS, outlinePointSchema, pointSchema } from './schema.js';
import { upgradeDocument } from './upgrade.js';

/** A document, and what had to be done to it, in words. */
export interface OpenedDocument {
  document: KelpDocument;
  notes: string[];
}

/**
 * Takes what came from a file or the network, lifts it and its units to what they are now and checks every field.
 * References to props and curves that are not there are allowed, and so are units that are not known: a finding reports
 * them, the rest still works.
 * @throws KelpError INVALID_DOCUMENT, with one issue a wrong field (the first 20), or NEWER_DOCUMENT
 */
export function openDocument(raw: unknown): OpenedDocument {
  // before anything is made of it: what is far too long is not lifted first
  const tooLong = Object.entries(itemSchemas).flatMap(([name, { most }]) => lengthIssue(listIn(raw, name), name, most));
  if (tooLong.length > 0) throw invalid(tooLong);
  const repaired = repairUses(upgradeDocument(raw) as Record<string, unknown>);
  const { document, notes } = tidyNames(repaired.document);
  checkDocument(document);
  return { document: document as unknown as KelpDocument, notes: [...repaired.notes, ...notes] };
}

/** `openDocument` without the words. */
export const parseDocument = (raw: unknown): KelpDocument => openDocument(raw).document;

type Json = Record<string, unknown>;
type ItemCheck = (item: unknown, path: string) => void;

/** This many wrong fields are reported; nothing is looked at after them. */
const MAX_ISSUES = 20;

/** Ends the check once enough is reported. */
class Enough extends Error {}

/**
 * Every field of a document. Lists are gone through item by item and no further than the first wrong fields: what a check
 * costs is linear in what is sound before them. Points and elements, of which there are many, are looked at by plain
 * comparisons first; the schema judges what those do not pass, and finds the words.
 */
function checkDocument(document: Json): void {
  const issues: Issue[] = [];
  try {
    addIssues(documentSchema, withoutLists(document, Object.keys(itemSchemas)), '', issues);
    for (const [name, { schema, most }] of Object.entries(itemSchemas)) {
      const item: ItemCheck = ITEMS[name]?.(issues) ?? ((value, path) => addIssues(schema, value, path, issues));
      checkList(document[name], name, most, item, issues);
    }
  } catch (error) {
    if (!(error instanceof Enough)) throw error;
  }
  if (issues.length > 0) throw invalid(issues);
}

const invalid = (issues: readonly Issue[]): KelpError =>
  new KelpError('INVALID_DOCUMENT', `The project is not valid: ${issues[0].message}`, issues);

const lengthIssue = (list: readonly unknown[] | undefined, path: string, most: number): Issue[] =>
  list && list.length > most
    ? [{ path, message: `${path} must have less than or equal to ${most} items, not ${list.length}` }]
    : [];

/** Kinds of items that have long lists in them. */
const ITEMS: Readonly<Record<string, (issues: Issue[]) => ItemCheck>> = {
  curves: curveCheck,
  profiles: (issues) => (profile, path) => {
    const paths = listIn(profile, 'paths')?.slice(0, LIMITS.pathsPerProfile + 1);
    const emptied = paths?.map((one) => withoutLists(one, ['points']));
    addIssues(itemSchemas.profiles.schema, emptied ? { ...(profile as Json), paths: emptied } : profile, path, issues);
    const point = quickly(isOutlinePoint, outlinePointSchema, issues);
    paths?.forEach((one, i) => {
      const points = listIn(one, 'points');
      if (points) checkList(points, `${path}.paths[${i}].points`, LIMITS.pointsPerProfile, point, issues, false);
    });
  },
  pieces: (issues) => {
    const curve = curveCheck(issues);
    const element = quickly(isElement, elementSchema, issues);
    const stages = (holder: unknown, path: string) => {
      const elements = listIn(holder, 'elements');
      if (elements) checkList(elements, `${path}.elements`, LIMITS.elementsPerPiece, element, issues, false);
    };
    return (piece, path) => {
      const variants = listIn(piece, 'variants')?.slice(0, LIMITS.variantsPerPiece + 1);
      const emptied = withoutLists(piece, ['elements']);
      const inside = variants?.map((variant) => {
        const out = withoutLists(variant, ['curves']);
        return isJson(out) && isJson(out['stages'])
          ? { ...out, stages: withoutLists(out['stages'], ['elements']) }
          : out;
      });
      addIssues(itemSchemas.pieces.schema, inside ? { ...(emptied as Json), variants: inside } : emptied, path, issues);
      stages(piece, path);
      variants?.forEach((variant, i) => {
        const at = `${path}.variants[${i}]`;
        if (isJson(variant)) stages(variant['stages'], `${at}.stages`);
        const curves = listIn(variant, 'curves');
        if (curves) checkList(curves, `${at}.curves`, LIMITS.curves, curve, issues);
      });
    };
  },
};

function curveCheck(issues: Issue[]): ItemCheck {
  const point = quickly(isPoint, pointSchema, issues);
  return (curve, path) => {
    addIssues(itemSchemas.curves.schema, withoutLists(curve, ['points']), path, issues);
    const points = listIn(curve, 'points');
    if (points) checkList(points, `${path}.points`, LIMITS.pointsPerCurve, point, issues, false);
  };
}

const quickly =
  (holds: (value: unknown) => boolean, schema: yup.Schema, issues: Issue[]): ItemCheck =>
  (value, path) => {
    if (!holds(value)) addIssues(schema, value, path, issues);
  };

function checkList(list: unknown, path: string, most: number, check: ItemCheck, issues: Issue[], named = true): void {
  // what is no list was reported with what it is in
  if (!Array.isArray(list)) return;
  const tooLong = lengthIssue(list, path, most);
  for (const issue of tooLong) tell(issue, issues);
  if (tooLong.length > 0) return;
  const ids = new Set<unknown>();
  for (let i = 0; i < list.length; i++) {
    check(list[i], `${path}[${i}]`);
    if (named && isJson(list[i])) ids.add((list[i] as Json)['id']);
  }
  if (named && ids.size < list.length) tell({ path, message: `${path}: two entries have the same id` }, issues);
}

/** What a schema has to say of a value. */
function addIssues(schema: yup.Schema, value: unknown, path: string, issues: Issue[]): void {
  try {
    // yup begins its paths with one that is given, though its types do not say so
    schema.validateSync(value, { abortEarly: false, strict: true, ...({ path } as object) });
  } catch (error) {
    if (!(error instanceof yup.ValidationError)) throw error;
    for (const one of error.inner.length > 0 ? error.inner : [error])
      tell({ path: one.path ?? path, message: one.message.slice(0, 300) }, issues);
  }
}

function tell(issue: Issue, issues: Issue[]): void {
  issues.push(issue);
  if (issues.length >= MAX_ISSUES) throw new Enough();
}

const isJson = (value: unknown): value is Json => typeof value === 'object' && value !== null && !Array.isArray(value);

const listIn = (value: unknown, name: string): unknown[] | undefined =>
  isJson(value) && Array.isArray(value[name]) ? (value[name] as unknown[]) : undefined;

/** The value with its long lists emptied: those are gone through by themselves. */
function withoutLists<T>(value: T, lists: readonly string[]): T {
  if (!isJson(value)) return value;
  const out: Json = { ...value };
  for (const name of lists) if (Array.isArray(out[name])) out[name] = [];
  return out as T;
}
