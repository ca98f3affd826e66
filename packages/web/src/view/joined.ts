/** Where a label that may be joined with others stands, pixels, and how much it matters. */
export interface Joining {
  x: number;
  y: number;
  rank: number;
}

/** Room that a flag takes, pixels: nearer than that, two lie over each other. */
const WIDTH = 150;
const HEIGHT = 26;

/**
 * Of labels that would lie over each other, the one that matters most represents all.
 * @returns for each how many others it represents, or −1 where another represents it
 */
export function joined(labels: readonly Joining[]): number[] {
  const out = labels.map(() => -1);
  const order = [...labels.keys()].sort((a, b) => labels[b].rank - labels[a].rank || a - b);
  const leaders: number[] = [];
  for (const i of order) {
    const { x, y } = labels[i];
    const leader = leaders.find((k) => Math.abs(labels[k].x - x) < WIDTH && Math.abs(labels[k].y - y) < HEIGHT);
    if (leader !== undefined) out[leader]++;
    else {
      leaders.push(i);
      out[i] = 0;
    }
  }
  return out;
}
