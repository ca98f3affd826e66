// The way of each strand in a braid of half-width 1, over its turns along the line: where across or about the line it is.

/** One strand of a braid at one place along the line, in half-widths of the braid. */
export interface Spot {
  x: number;
  y: number;
}

/** Where strand 0 crosses another one, at this many turns along the line; all crossings of one kind are alike. */
export interface Crossing {
  other: number;
  at: number;
}

/** How a braid is woven. */
export interface Weave {
  flat: boolean;
  /** Strands that are woven. */
  count: number;
  /** Crossings of one strand on one turn, or one way there and back. */
  crossings: number;
  kinds: readonly Crossing[];
  /** Strand 0 looks the same again after this many turns; whom it can come near in between. */
  period: number;
  beside: readonly number[];
  /**
   * @param turns along the line, 0 at its start
   * @param middle where the wave's middle is: distance from the line (tube), half the width to the outermost middles (flat)
   * @param waves how far it goes over and under at each kind of crossing
   */
  at(k: number, turns: number, middle: number, waves: ArrayLike<number>): Spot;
}

const TAU = 2 * Math.PI;

/**
 * A tube: half of the carriers go round one way, half the other. Strands a (forwards, number k) and b (number j) cross where
 * they are at the same angle; counted on along a strand, a is over where k + j + n·w is even, n strands going each way and w
 * turns between them. Two over two: where that, modulo 4, is 0 or 1, which needs an even n. The wave is the cosine
 * through these heights; for two over two it is flattened so that it stays up over both.
 */
export function tubeWeave(carriers: number, twoOverTwo: boolean): Weave {
  const each = carriers / 2;
  const over = twoOverTwo && each % 2 === 0;
  return {
    flat: false,
    count: carriers,
    crossings: 2 * each,
    kinds: [{ other: each, at: 0 }],
    period: (over ? 4 : 2) / (2 * each),
    // whom it meets within a period, and its neighbour on the same way
    beside: [...(each > 1 ? [1] : []), ...Array.from({ length: Math.min(each, over ? 4 : 2) }, (_, k) => each + k)],
    at(k, turns, middle, waves) {
      const way = k < each ? 1 : -1;
      const angle = TAU * ((k % each) / each + way * turns);
      const met = 2 * (k % each) + way * 2 * each * turns;
      const height = over ? flattened(Math.cos((Math.PI / 2) * (met - 0.5))) : Math.cos(Math.PI * met);
      const far = middle + way * waves[0] * height;
      return { x: far * Math.cos(angle), y: far * Math.sin(angle) };
    },
  };
}

/** A wave that is 1 from where the cosine is √½ on, and rises between with no kink. */
function flattened(wave: number): number {
  const steep = Math.max(-1, Math.min(1, wave * Math.SQRT2));
  return steep * (1.5 - 0.5 * steep * steep);
}

/**
 * Flat: every strand goes to and fro across the width, over and under by turns. Strands are evenly spaced in phase, so two
 * cross where their phases lie alike about the middle of a way: at c = 1 … n − 1, c being the phase from an edge in units of
 * π/n. Round an edge a strand goes from one side to the other.
 */
export function flatWeave(count: number): Weave {
  return {
    flat: true,
    count,
    crossings: 2 * (count - 1),
    kinds: Array.from({ length: count - 1 }, (_, k) => ({ other: k + 1, at: 0.25 - (k + 1) / (2 * count) })),
    period: 1,
    beside: Array.from({ length: count - 1 }, (_, k) => k + 1),
    at(k, turns, middle, waves) {
      const share = turns + k / count;
      const left = (((0.25 - share) % 1) + 1) % 1;
      // there and back, counted from the same edge
      const there = left < 0.5;
      const c = 2 * count * (there ? left : 1 - left);
      return { x: (there ? 1 : -1) * heightAt(c, count, waves), y: middle * triangular(TAU * share) };
    },
  };
}

/** Through the heights at the crossings, level at each, and through 0 at both edges. */
function heightAt(c: number, count: number, waves: ArrayLike<number>): number {
  const at = (n: number) => (n % 2 === 0 ? 1 : -1) * waves[n - 1];
  if (c < 1) return at(1) * Math.sin((Math.PI * c) / 2);
  if (c > count - 1) return at(count - 1) * Math.sin((Math.PI * (count - c)) / 2);
  const n = Math.min(count - 2, Math.floor(c));
  if (count < 3) return at(1);
  return at(n) + ((at(n + 1) - at(n)) * (1 - Math.cos(Math.PI * (c - n)))) / 2;
}

/** To and fro with soft turns: the first two terms of the triangle wave. */
const triangular = (phase: number): number => 0.9 * (Math.sin(phase) - Math.sin(3 * phase) / 9);
