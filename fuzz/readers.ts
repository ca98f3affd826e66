import { KelpError } from '@kelp/core';
import {
  decodeProp,
  encodeProp,
  pictureInfo,
  propMesh,
  readArchive,
  readCurves,
  readModel,
  readProjectText,
  readShades,
} from '@kelp/formats';
import { type Seed, seeds } from './corpus.js';
import { eachOf, spoilt } from './spoil.js';
import { Tally } from './tally.js';

type Reader = (name: string, bytes: Uint8Array) => unknown;

/** A model as an import stores it, and as it is read again. */
const model: Reader = async (name, bytes) => {
  const read = await readModel(name, bytes);
  const { bytes: kept } = await encodeProp(propMesh(read.objects, { unit: 'm', up: 'y' }));
  return decodeProp(kept);
};

const READERS: Record<string, Reader[]> = {
  'project text': [(name, bytes) => readProjectText(name, new TextDecoder().decode(bytes))],
  archive: [readArchive],
  GLB: [model],
  glTF: [model, readCurves],
  OBJ: [model, readCurves],
  USDA: [model, readCurves],
  'GLB packed': [model],
  'STL text': [model],
  STL: [model],
  'PLY text': [model],
  PLY: [model],
  SVG: [readCurves],
  CSV: [readCurves],
  PNG: [pictureInfo, readShades],
  JPEG: [pictureInfo, readShades],
};

/**
 * Gives every reader files that were sound once. Each ends with what it read or a KelpError, within two seconds.
 * @param runs this many files, shared out evenly
 */
export async function fuzzReaders(runs: number, seed: number): Promise<Tally[]> {
  const all = (await seeds()).flatMap((file) => READERS[file.kind].map((read) => ({ file, read })));
  const tallies = new Map<string, Tally>();
  for (const { file, read } of all) {
    const tally = tallies.get(file.kind) ?? new Tally(file.kind);
    tallies.set(file.kind, tally);
    await one(file, read, tally, Math.ceil(runs / all.length), seed);
  }
  return [...tallies.values()];
}

async function one({ name, bytes }: Seed, read: Reader, tally: Tally, runs: number, seed: number): Promise<void> {
  // the sound file itself comes first: what no reader takes in would prove nothing
  await read(name, bytes);
  await eachOf(spoilt(bytes), runs, seed, async (broken, how) => {
    const began = performance.now();
    try {
      await read(name, broken);
      tally.add(performance.now() - began, how, 'taken');
    } catch (error) {
      const known = error instanceof KelpError;
      tally.add(
        performance.now() - began,
        how,
        known ? 'refused' : { fault: String((error as Error)?.stack ?? error) },
      );
    }
  });
}
