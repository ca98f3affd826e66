import { KelpError } from '@kelp/core';
import {
  type CurveFile,
  type Inspection,
  inspectModel,
  MAX_FILE_BYTES,
  type Model,
  type Project,
  readArchive,
  readCurves,
  readModel,
  recipeIn,
} from '@kelp/formats';

export interface ReadModelFile {
  kind: 'model';
  name: string;
  model: Model;
  inspection: Inspection;
}
export interface ReadCurveFile {
  kind: 'curves';
  name: string;
  file: CurveFile;
}
/** A bake that holds the project it came from. */
export interface ReadLiveFile {
  kind: 'live';
  name: string;
  project: Project;
}
export type ReadFile = ReadModelFile | ReadCurveFile | ReadLiveFile;

const MB = 2 ** 20;
const ONLY_CURVES = /\.(svg|csv|tsv|txt)$/i;

/**
 * Reads a dropped or chosen file and looks it over: a mesh where it has faces, curves where it has lines.
 * @param plain what a bake holds besides its meshes is passed over
 * @throws KelpError with a sentence for the person
 */
export async function readFile(
  file: File,
  onStage: (words: string) => void = () => {},
  plain = false,
): Promise<ReadFile> {
  const { name, size } = file;
  // before its bytes are asked for: they may be more than there is memory
  if (size > MAX_FILE_BYTES)
    throw new KelpError(
      'TOO_LARGE',
      `${name} has ${Math.round(size / MB).toLocaleString('en')} MB; Kelp reads up to ${MAX_FILE_BYTES / MB} MB`,
    );
  const bytes = new Uint8Array(await file.arrayBuffer());
  const live = plain ? undefined : recipeIn(name, bytes);
  if (live) return { kind: 'live', name, project: readArchive(name, live) };
  onStage('Unpacking');
  if (ONLY_CURVES.test(name)) return { kind: 'curves', name, file: await readCurves(name, bytes) };
  try {
    const model = await readModel(name, bytes);
    onStage('Checking');
    return { kind: 'model', name, model, inspection: inspectModel(model) };
  } catch (error) {
    if (!(error instanceof KelpError) || error.code !== 'EMPTY_MESH') throw error;
    const curves = await readCurves(name, bytes).catch(() => undefined);
    // no lines either: the first words say best what is missing
    if (!curves) throw error;
    return { kind: 'curves', name, file: curves };
  }
}
