import fc from 'fast-check';

/** Numbers and words at which readers break. */
const AWKWARD = [
  '',
  '-1',
  '0',
  '1e999',
  '-1e-999',
  '4294967296',
  '2147483648',
  '9007199254740993',
  'NaN',
  'null',
  '1,5',
  '[[[[',
  '{"a":',
  '"',
  '\u0000',
  '\ud800',
  '\u202e',
  '<!--',
  '&lol;',
  '%',
  '../../x',
];
/** Values that are JSON, and seldom what is asked for. */
const VALUES = [
  'null',
  '-1',
  '0',
  '1',
  '3.5',
  '1e308',
  '-1e-300',
  '4294967295',
  'true',
  '""',
  '"__proto__"',
  '[]',
  '[[]]',
  '{}',
  '{"length":1e9}',
  '[null]',
  '"line"',
  `"${'a'.repeat(500)}"`,
];
const MAX_COPIES = 400;

type Spoiling = (bytes: Uint8Array) => Uint8Array;

const share = fc.double({ min: 0, max: 1, noNaN: true, maxExcluded: true });

const joined = (...parts: Uint8Array[]): Uint8Array => Uint8Array.from(Buffer.concat(parts));

/** One thing that is done to a file. */
const spoiling: fc.Arbitrary<Spoiling> = fc.oneof(
  // bytes that are others
  fc.array(fc.tuple(share, fc.nat(255)), { minLength: 1, maxLength: 8 }).map((changes) => (bytes: Uint8Array) => {
    const out = bytes.slice();
    for (const [at, value] of changes) out[Math.floor(at * out.length)] = value;
    return out;
  }),
  // a whole number that is another
  fc
    .tuple(share, fc.constantFrom(0, 1, 0xff, 0x7fffffff, 0x80000000, 0xffffffff))
    .map(([at, value]) => (bytes: Uint8Array) => {
      if (bytes.length < 4) return bytes;
      const out = bytes.slice();
      new DataView(out.buffer).setUint32(Math.floor(at * (out.length - 3)), value, true);
      return out;
    }),
  // cut off
  share.map((at) => (bytes: Uint8Array) => bytes.slice(0, Math.floor(at * bytes.length))),
  // a part left out, or many times over
  fc.tuple(share, share, fc.nat(MAX_COPIES)).map(([from, to, copies]) => (bytes: Uint8Array) => {
    const [a, b] = [from, to].map((at) => Math.floor(at * bytes.length)).sort((x, y) => x - y);
    const part = bytes.subarray(a, Math.min(b, a + 4000));
    return joined(bytes.subarray(0, a), ...Array<Uint8Array>(copies).fill(part), bytes.subarray(a + part.length));
  }),
  // a number of a text that is something else
  fc.tuple(share, fc.constantFrom(...AWKWARD)).map(([at, word]) => (bytes: Uint8Array) => {
    const said = Buffer.from(bytes).toString('latin1');
    const from = said.slice(Math.floor(at * said.length)).search(/-?\d+(\.\d+)?/);
    if (from < 0) return bytes;
    const start = Math.floor(at * said.length) + from;
    const end = start + (/^-?\d+(\.\d+)?/.exec(said.slice(start))?.[0].length ?? 0);
    return joined(bytes.subarray(0, start), new TextEncoder().encode(word), bytes.subarray(end));
  }),
  // a value of JSON that is another: it stays JSON
  fc.tuple(share, fc.constantFrom(...VALUES)).map(([at, value]) => (bytes: Uint8Array) => {
    const said = Buffer.from(bytes).toString('latin1');
    const places = [...said.matchAll(/[:[,]\s*("[^"]*"|-?\d[\d.e+-]*|true|false)/g)];
    const [whole, old] = places[Math.floor(at * places.length)] ?? ['', ''];
    if (!whole) return bytes;
    const start = (places[Math.floor(at * places.length)].index ?? 0) + whole.length - old.length;
    return joined(bytes.subarray(0, start), new TextEncoder().encode(value), bytes.subarray(start + old.length));
  }),
  // something put in between
  fc.tuple(share, fc.uint8Array({ maxLength: 40 })).map(([at, more]) => (bytes: Uint8Array) => {
    const start = Math.floor(at * bytes.length);
    return joined(bytes.subarray(0, start), more, bytes.subarray(start));
  }),
);

/** A sound file made unsound: one to four things are done to it, one after another. */
export const spoilt = (bytes: Uint8Array): fc.Arbitrary<Uint8Array> =>
  fc.array(spoiling, { minLength: 1, maxLength: 4 }).map((all) => all.reduce((now, spoil) => spoil(now), bytes));

/** This many are drawn at once: more would be most of the memory that is measured. */
const DRAWN = 50;

/** Goes through this many values; each is reported with what draws it again. */
export async function eachOf<T>(
  values: fc.Arbitrary<T>,
  runs: number,
  seed: number,
  visit: (value: T, how: string) => Promise<void>,
): Promise<void> {
  for (let first = 0; first < runs; first += DRAWN) {
    const numRuns = Math.min(DRAWN, runs - first);
    for (const [k, value] of fc.sample(values, { numRuns, seed: seed + first }).entries())
      await visit(value, `--seed ${seed}, run ${first + k}`);
  }
}
