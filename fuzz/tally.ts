/** What came of the cases of one kind. */
export class Tally {
  /** How many were taken in, and how many refused. */
  taken = 0;
  refused = 0;
  /** The slowest, milliseconds, and how it can be made again. */
  slowest = { ms: 0, how: '' };
  readonly faults: string[] = [];

  constructor(readonly kind: string) {}

  add(ms: number, how: string, came: 'taken' | 'refused' | { fault: string }): void {
    if (ms > this.slowest.ms) this.slowest = { ms, how };
    if (came === 'taken') this.taken++;
    else if (came === 'refused') this.refused++;
    else this.faults.push(`${this.kind}, ${how}: ${came.fault}`);
    if (ms > MAX_MS) this.faults.push(`${this.kind}, ${how}: took ${Math.round(ms)} ms`);
  }

  toString(): string {
    const { ms, how } = this.slowest;
    return `${this.kind.padEnd(34)} ${String(this.taken).padStart(7)} taken ${String(this.refused).padStart(7)} refused   slowest ${ms.toFixed(0).padStart(5)} ms  ${how}`;
  }
}

/** No case may take longer, milliseconds. */
const MAX_MS = 2000;
