import { compiled, layout, type Memory, makeRoom } from '../../numeric/compiled.js';
import { KERNEL } from './binary.js';
import type { Lattice } from './lattice.js';

/** What kernel/truss.as.ts exports; all that are no counts are addresses in its memory. */
interface Exports extends Memory {
  /** Bytes of what is known of a kind. */
  LOOK: { value: number };
  setLattice(
    kind: number,
    from: number,
    to: number,
    station: number,
    id: number,
    joint: number,
    outward: number,
    along: number,
    curve: number,
  ): void;
  measure(count: number, length: number): void;
  extremes(count: number, length: number, kinds: number, longest: number, least: number): void;
  /** Bytes of what is known of a kind as it is counted. */
  TALLY: { value: number };
  tally(count: number, length: number, table: number, perMetre: number): void;
  balls(count: number, radius: number, into: number): void;
  place(count: number, length: number, looks: number): void;
  lines(
    count: number,
    length: number,
    wanted: number,
    sizes: number,
    position: number,
    along: number,
    radius: number,
    id: number,
    long: number,
  ): void;
}

export const kernel = compiled<Exports>(KERNEL);

/** The lattice that the kernel's memory holds, and where it ends there. */
let held: { lattice: WeakRef<Lattice>; end: number } | undefined;

/**
 * Puts a lattice into the kernel's memory, unless it is there.
 * @param bytes this much room is to be had behind it
 * @returns hands out that room, call by call: addresses
 */
export function hold(lattice: Lattice, bytes: number): (bytes: number) => number {
  if (held?.lattice.deref() !== lattice) {
    const { members, joint, outward } = lattice;
    const { along, curve } = lattice.stations;
    const lists = [lattice.kind, lattice.from, lattice.to, lattice.station, lattice.id].map((all) =>
      all.subarray(0, members),
    );
    const all = [...lists, joint, outward, along, curve];
    const { reserve, end } = layout();
    const at = all.map(({ byteLength }) => reserve(byteLength));
    makeRoom(kernel, end());
    all.forEach((array, k) => {
      new Uint8Array(kernel.memory.buffer).set(new Uint8Array(array.buffer, array.byteOffset, array.byteLength), at[k]);
    });
    kernel.setLattice(...(at as Parameters<Exports['setLattice']>));
    held = { lattice: new WeakRef(lattice), end: end() };
  }
  makeRoom(kernel, held.end + bytes);
  let next = held.end;
  return (more) => {
    const at = next;
    next += more;
    return at;
  };
}
