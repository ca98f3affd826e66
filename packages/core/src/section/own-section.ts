import { type CurveSet, POINT } from '../curve/curve-set.js';
import { resample } from '../curve/resample.js';
import type { Profile } from '../document/document.js';
import { pathCurve } from './drawn-paths.js';
import { outlinePath } from './outline-path.js';
import { areaOf, contains, crossingOf } from './plane.js';
import { type Loop, type Run, reversed, sectionFromRuns } from './runs.js';
import type { Section } from './section.js';

/** Greatest turn from place to place of what is curved, at density 1; more places than these are sampled more coarsely. */
const TURN = 0.2;
const MAX_PLACES = 2000;
/** An outline that encloses less of its box than this is flat. */
const FLAT = 1e-4;

export interface OwnSection {
  /** Middle at 0, half its height 1; of open paths alone a sheet. Undefined where there is neither. */
  section?: Section;
  /** Paths that are left out, because they do not close or enclose nothing. */
  left: number;
  /** Where outlines cross, in the profile's own metres. */
  crossing?: [number, number];
}

/** What a profile of the project comes to at its own size: half its height, and how much wider than high it is. */
export interface ProfileSize {
  radius: number;
  width: number;
}

type Place = [number, number];

interface Outline {
  places: Place[];
  corner: boolean[];
}

/**
 * A profile of the project as a section: outlines that lie in an odd number of others are holes. Its middle is that of its box,
 * which is stretched to 2 high and 2·`width` wide.
 */
export function ownSection(profile: Profile, width: number, density: number): OwnSection {
  const key = `${width} ${density}`;
  const old = known.get(profile);
  if (old?.key === key) return old.own;
  const own = made(profile, width, density);
  known.set(profile, { key, own });
  return own;
}

/** The last of each profile: while something else of a piece is dragged it stays. */
const known = new WeakMap<Profile, { key: string; own: OwnSection }>();

function made(profile: Profile, width: number, density: number): OwnSection {
  const outlines = outlinesOf(profile, density);
  const left = profile.paths.length - outlines.length;
  if (outlines.length === 0) return sheetOf(profile, width, density);
  // the section's first axis is up, its second to the side
  const mapping = fitted(extentOf(outlines), width);
  const loops = outlines.map(({ places, corner }, i): Loop => {
    const depth = outlines.filter((other, k) => k !== i && contains(other.places, places[0])).length;
    const mapped = places.map(mapping);
    const turned = areaOf(mapped) > 0 !== (depth % 2 === 0);
    return {
      closed: true,
      runs: runsOf(turned ? mapped.toReversed() : mapped, turned ? corner.toReversed() : corner),
    };
  });
  return { section: sectionFromRuns(loops), left, crossing: crossingOf(outlines.map(({ places }) => places)) };
}

/** Its size as it was drawn; undefined where there is nothing to sweep. */
export function profileSize(profile: Profile): ProfileSize | undefined {
  const outlines = outlinesOf(profile, 1);
  const drawn = outlines.length > 0 ? outlines : openLines(profile, 1);
  if (drawn.length === 0) return undefined;
  const { wide, high } = extentOf(drawn);
  return { radius: high / 2, width: wide / high };
}

/** Pictures in a list are small: half as many places do. */
const PICTURED = 0.5;
const FRAME = 'M-1-1H1V1H-1ZM-.8-.8V.8H.8V-.8Z';

/** A profile as an SVG path within −1 to 1, as it sweeps; a frame where there is nothing to sweep. */
export function profilePicture(profile: Profile): string {
  const size = profileSize(profile);
  const section = size && made(profile, size.width, PICTURED).section;
  return section ? outlinePath(section) : FRAME;
}

/** A line that is straight one way counts as this much of its length the other way. */
const MIN_EXTENT = 0.01;

/** The middle of outlines, and how wide and high they are; neither is nothing. */
function extentOf(outlines: readonly Outline[]) {
  const { left, right, bottom, top } = boxOf(outlines);
  const least = MIN_EXTENT * Math.max(right - left, top - bottom);
  return {
    cx: (left + right) / 2,
    cy: (bottom + top) / 2,
    wide: Math.max(least, right - left),
    high: Math.max(least, top - bottom),
  };
}

/** Takes places of a drawing to those of a section 2 high and 2·`width` wide, whose first axis is up. */
const fitted =
  ({ cx, cy, wide, high }: ReturnType<typeof extentOf>, width: number) =>
  ([x, y]: Place): Place => [(2 / high) * (y - cy), ((2 * width) / wide) * (x - cx)];

/** A profile of open paths alone: it sweeps to sheets that are seen from both sides. */
function sheetOf(profile: Profile, width: number, density: number): OwnSection {
  const lines = openLines(profile, density);
  const left = profile.paths.length - lines.length;
  if (lines.length === 0) return { left };
  const mapping = fitted(extentOf(lines), width);
  const loops = lines.flatMap(({ places, corner }): Loop[] => {
    const runs: Run[] = [];
    let run: Place[] = [];
    places.map(mapping).forEach((place, k) => {
      run.push(place);
      if (k === 0 || (k < places.length - 1 && !corner[k])) return;
      runs.push(runOf(run));
      run = [place];
    });
    return [runs, reversed(runs)].map((both) => ({ runs: both, closed: false }));
  });
  return { section: sectionFromRuns(loops), left };
}

/** Its open paths as places, curves sampled. */
function openLines({ paths }: Profile, density: number): Outline[] {
  return paths.flatMap((path): Outline[] => {
    if (path.closed || path.points.length < 2) return [];
    const line = resample(pathCurve(path), { maxTurn: TURN / density });
    const { position } = line;
    const places = Array.from({ length: position.length / 3 }, (_, p): Place => [position[3 * p], position[3 * p + 1]]);
    const corner = places.map((_, p) => line.pointData[POINT.corner]?.[p] === 1);
    const { left, right, bottom, top } = boxOf([{ places, corner }]);
    return places.length > 1 && right - left + top - bottom > 0 ? [{ places, corner }] : [];
  });
}

function boxOf(outlines: readonly Outline[]) {
  const box = { left: Infinity, right: -Infinity, bottom: Infinity, top: -Infinity };
  for (const { places } of outlines)
    for (const [x, y] of places) {
      box.left = Math.min(box.left, x);
      box.right = Math.max(box.right, x);
      box.bottom = Math.min(box.bottom, y);
      box.top = Math.max(box.top, y);
    }
  return box;
}

/** Its closed paths as places, curves sampled; those that enclose nothing are left out. */
function outlinesOf({ paths }: Profile, density: number): Outline[] {
  const lines = paths.flatMap(({ closed, points }) => {
    if (!closed || points.length < 3) return [];
    const line = pathCurve({ closed, points });
    return line.closed.length === 1 ? [line] : [];
  });
  let turn = TURN / density;
  let sampled = lines.map((line) => resample(line, { maxTurn: turn }));
  const count = (all: readonly CurveSet[]) => all.reduce((sum, { position }) => sum + position.length / 3, 0);
  for (; count(sampled) > MAX_PLACES && turn < 2; turn *= 2)
    sampled = lines.map((line) => resample(line, { maxTurn: 2 * turn }));
  return sampled.flatMap((line) => {
    const places = Array.from(
      { length: line.position.length / 3 },
      (_, p): Place => [line.position[3 * p], line.position[3 * p + 1]],
    );
    const corner = places.map((_, p) => line.pointData[POINT.corner]?.[p] === 1);
    const box = boxOf([{ places, corner }]);
    return Math.abs(areaOf(places)) > FLAT * (box.right - box.left + box.top - box.bottom) ** 2
      ? [{ places, corner }]
      : [];
  });
}

/** An outline as smooth stretches from corner to corner; one stretch round where it has none. */
function runsOf(places: readonly Place[], corner: readonly boolean[]): Run[] {
  const count = places.length;
  const at = (i: number) => places[((i % count) + count) % count];
  const first = Math.max(0, corner.indexOf(true));
  const smooth = !corner.includes(true);
  const runs: Run[] = [];
  let run: Place[] = [at(first)];
  for (let i = first + 1; i <= first + count; i++) {
    run.push(at(i));
    if (i < first + count && !corner[i % count]) continue;
    runs.push(runOf(run, smooth ? [at(first - 1), at(first + 1)] : undefined));
    run = [at(i)];
  }
  return runs;
}

/** One stretch with the normals of the line through its places; `over` are those beyond its ends, where it goes on. */
function runOf(places: readonly Place[], over?: readonly [Place, Place]): Run {
  const last = places.length - 1;
  const step = (i: number): Place => unit([places[i + 1][0] - places[i][0], places[i + 1][1] - places[i][1]]);
  const way = (i: number): Place => {
    if (i > 0 && i < last) return unit(sum(step(i - 1), step(i)));
    if (over) {
      const before = unit([places[0][0] - over[0][0], places[0][1] - over[0][1]]);
      return unit(sum(before, step(0)));
    }
    // as much beyond its own step as the next place turns from it
    const own = step(i === 0 ? 0 : last - 1);
    if (last === 1) return own;
    const next = way(i === 0 ? 1 : last - 1);
    return unit([2 * own[0] - next[0], 2 * own[1] - next[1]]);
  };
  const ways = places.map((_, i) => way(i));
  return {
    x: places.map(([x]) => x),
    y: places.map(([, y]) => y),
    normalX: ways.map(([, y]) => y),
    normalY: ways.map(([x]) => -x),
  };
}

const sum = (a: Place, b: Place): Place => [a[0] + b[0], a[1] + b[1]];
const unit = ([x, y]: Place): Place => {
  const size = Math.hypot(x, y) || 1;
  return [x / size, y / size];
};
