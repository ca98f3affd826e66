import { type Finding, type KelpDocument, notIgnored, type Outlined, referencesOf } from '@kelp/core';
import type { PieceBuild } from './protocol.js';

/** All pieces are made for so long, milliseconds, before it is looked how they meet. */
const QUIET = 200;

/**
 * Where pieces run through each other, which none of them knows by itself: asked of a worker once all are made, and reported
 * with what each piece found out about itself.
 */
export class Meetings {
  /** What each piece found out about itself. */
  private readonly own = new Map<string, readonly Finding[]>();
  private met: ReadonlyMap<string, readonly Finding[]> = new Map();
  /** What was asked about last. */
  private asked: readonly unknown[] = [];
  private timer: ReturnType<typeof setTimeout> | undefined;

  /** A piece that was made, with what is known of the others. */
  added(build: PieceBuild, document: KelpDocument | null): PieceBuild {
    this.own.set(build.piece, build.findings);
    return this.reported(build, document);
  }

  forget(piece: string): void {
    this.own.delete(piece);
  }

  /**
   * Looks how the pieces meet, once nothing has changed for a moment.
   * @param now what is made then, and null while something is being made
   * @param ask asks a worker
   * @param take called with the builds that are others now
   */
  look(
    now: () => { document: KelpDocument; builds: ReadonlyMap<string, PieceBuild> } | null,
    ask: (pieces: Outlined[]) => Promise<ReadonlyMap<string, Finding[]>>,
    take: (changed: readonly PieceBuild[]) => void,
  ): void {
    clearTimeout(this.timer);
    this.timer = setTimeout(async () => {
      const standing = now();
      if (!standing) return;
      const pieces = standing.document.pieces.flatMap((piece): Outlined[] => {
        const build = piece.visible ? standing.builds.get(piece.id) : undefined;
        if (!build) return [];
        const named = new Set(referencesOf(piece).pieces);
        return [{ id: piece.id, name: piece.name, skeleton: build.skeleton, named }];
      });
      const signs = pieces.flatMap(({ name, skeleton, named }) => [name, skeleton, [...named].join()]);
      if (signs.length !== this.asked.length || signs.some((sign, i) => sign !== this.asked[i])) {
        this.asked = signs;
        try {
          const met = await ask(pieces);
          // who was asked since then knows better
          if (this.asked !== signs) return;
          this.met = met;
        } catch {
          // the worker was let go: it is asked again with the next change
          this.asked = [];
          return;
        }
      }
      const later = now();
      if (!later) return;
      const changed = [...later.builds.values()].flatMap((build) => {
        const reported = this.reported(build, later.document);
        return JSON.stringify(reported.findings) === JSON.stringify(build.findings) ? [] : [reported];
      });
      if (changed.length > 0) take(changed);
    }, QUIET);
  }

  close(): void {
    clearTimeout(this.timer);
  }

  private reported(build: PieceBuild, document: KelpDocument | null): PieceBuild {
    const met = this.met.get(build.piece);
    const own = this.own.get(build.piece) ?? build.findings;
    const piece = met && document?.pieces.find(({ id }) => id === build.piece);
    return { ...build, findings: [...own, ...(met && piece ? notIgnored(piece, met) : [])] };
  }
}
