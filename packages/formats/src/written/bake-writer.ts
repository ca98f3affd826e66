import type {
  BakedLines,
  BakedMesh,
  BakedMoving,
  BakedPlaced,
  BakedShaping,
  BakedStrands,
  TargetUnit,
} from '@kelp/core';
import type { PictureFiles } from '../gltf/textures.js';

/** Endings of the files that a bake writes. */
export const BAKE_FORMATS = ['glb', 'gltf', 'usda', 'obj', 'ply', 'stl', 'csv', 'svg'] as const;
export type BakeFormat = (typeof BAKE_FORMATS)[number];

/** Whether it is a glTF, as bytes or as text: in metres, +Y up and right-handed whatever its target is. */
export const isGltf = (format: BakeFormat): boolean => format === 'glb' || format === 'gltf';

/**
 * A file as its meshes and strands are made: what is written goes out at once and is not kept. In the file the head stands
 * first, then all of section 0, then all of section 1.
 */
export interface BakeWriter {
  add(mesh: BakedMesh): void;
  addStrands(strands: BakedStrands): void;
  /** The lines that pieces run along: formats of meshes have no use for them. */
  addLines?(lines: BakedLines): void;
  /** What is in many places, as one mesh with its places: formats without such have none. */
  addPlaced?(placed: BakedPlaced): void;
  /** The project that it came from, as an archive, and the settings of the bake: formats with no room for them have none. */
  addRecipe?(archive: Uint8Array, settings?: object): void;
  /** What moves with the clock, as it moves: formats that hold no motion have none. */
  addMoving?(moving: BakedMoving): void;
  /** What the clock leads through shapes. */
  addShapes?(shaping: BakedShaping): void;
  /** What the file begins with, once all is there. */
  head(): Uint8Array;
  /** This long is the head of a long file, bytes: what follows can go to its place before the head is known. */
  readonly room?: number;
  /** What stands beside the file, by its ending: materials, where a format has them apart. */
  beside?(): { ending: string; bytes: Uint8Array };
}

/** What a writer may need to know besides. */
export interface WriterTarget {
  /** The files of pictures that materials wear. */
  pictures?: PictureFiles;
  /** The unit and the way up of what is written, where a format says them. */
  unit?: TargetUnit;
  up?: 'y' | 'z';
  /** Meshes are compressed, where the format can; `encoderReady` must have been waited for. */
  compress?: boolean;
  /** Name of the file of materials beside this one. */
  library?: string;
}

/** Takes the bytes of a section in their order. */
export type Sections = (bytes: Uint8Array, section: 0 | 1) => void;

/** Texts are handed on in pieces of about this many characters. */
const PIECE = 1 << 18;

/** Gathers text, so that a million short lines are not a million writes. */
export class TextOut {
  private parts: string[] = [];
  private length = 0;
  private readonly encoder = new TextEncoder();

  constructor(
    private readonly sections: Sections,
    private readonly section: 0 | 1 = 0,
  ) {}

  write(text: string): void {
    this.parts.push(text);
    this.length += text.length;
    if (this.length > PIECE) this.flush();
  }

  flush(): void {
    if (this.parts.length === 0) return;
    this.sections(this.encoder.encode(this.parts.join('')), this.section);
    this.parts = [];
    this.length = 0;
  }
}

/** A number as single precision holds it, in as few digits as tell it apart. */
export const numberText = (value: number): string => String(+value.toPrecision(7));
