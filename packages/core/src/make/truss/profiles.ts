import type { Profile } from '../../document/document.js';
import { formSection } from '../../section/forms.js';
import { ownSection, profileSize } from '../../section/own-section.js';
import type { Section } from '../../section/section.js';

/** What a member is cut from: its outline at unit half thickness, and what it weighs by. */
export interface MemberProfile {
  value: string;
  label: string;
  /** How a drawing names it, and whether with a wall. */
  sign: string;
  hollow: boolean;
  /** Drawn shut: a tube shows no bore where it is cut. */
  section(sides: number, wall: number): Section;
  /** Area of the material in a cut, at half thickness 1; `wall` as a share of that. */
  area(wall: number): number;
  /** Length of the outline, the outside alone: what is to be painted. */
  outline: number;
  /** Least radius of gyration at half thickness 1 (any handbook of sections). */
  gyration(wall: number): number;
}

const corners = { width: 1, points: 4, wall: 0.2, depth: 0.3, rounding: 0 };

export const PROFILES: readonly MemberProfile[] = [
  {
    value: 'tube',
    label: 'Round tube',
    sign: '⌀',
    hollow: true,
    section: (sides, wall) => formSection('round', { ...corners, sides, wall }),
    area: (wall) => Math.PI * (1 - (1 - wall) ** 2),
    outline: 2 * Math.PI,
    gyration: (wall) => Math.sqrt(1 + (1 - wall) ** 2) / 2,
  },
  {
    value: 'square',
    label: 'Square tube',
    sign: '□',
    hollow: true,
    section: (sides, wall) => formSection('box', { ...corners, sides, wall, rounding: 0.25 }),
    area: (wall) => 4 * (1 - (1 - wall) ** 2),
    outline: 8,
    gyration: (wall) => Math.sqrt((1 + (1 - wall) ** 2) / 3),
  },
  {
    value: 'angle',
    label: 'Angle',
    sign: 'L',
    hollow: true,
    section: (sides, wall) => formSection('angle', { ...corners, sides, wall: Math.max(wall, 0.05) }),
    area: (wall) => 4 * wall - wall * wall,
    outline: 8,
    // about the weak axis of equal legs, thin walls: leg / √24
    gyration: () => 2 / Math.sqrt(24),
  },
  {
    value: 'rod',
    label: 'Solid round',
    sign: '⌀',
    hollow: false,
    section: (sides, wall) => formSection('round', { ...corners, sides, wall }),
    area: () => Math.PI,
    outline: 2 * Math.PI,
    gyration: () => 0.5,
  },
  {
    value: 'beam',
    label: 'Solid square',
    sign: '□',
    hollow: false,
    section: (sides, wall) => formSection('box', { ...corners, sides, wall, rounding: 0.12 }),
    area: () => 4,
    outline: 8,
    gyration: () => 1 / Math.sqrt(3),
  },
];

/** A member is cut from a profile of the project. */
export const OWN = 'own';
export const PROFILE_OPTIONS = [
  ...PROFILES.map(({ value, label }) => ({ value, label })),
  { value: OWN, label: 'Custom profile' },
];
export const profileOf = (value: string): MemberProfile => PROFILES.find((one) => one.value === value) ?? PROFILES[0];

/** Kilogrammes of a cubic metre: steel and aluminium by EN 1993-1-1 and EN 1999-1-1, timber C24 by EN 338 (from memory). */
export const STUFFS = [
  { value: 'steel', label: 'Steel', density: 7850 },
  { value: 'aluminium', label: 'Aluminium', density: 2700 },
  { value: 'timber', label: 'Timber', density: 420 },
] as const;

/**
 * A profile of the project, so large that the longer side of its box is 2. Undefined where it encloses nothing.
 */
export function ownProfile(profile: Profile | undefined): MemberProfile | undefined {
  if (!profile) return undefined;
  if (!known.has(profile)) known.set(profile, memberOf(profile));
  return known.get(profile);
}

/** Profiles are replaced, never changed: each is measured once. */
const known = new WeakMap<Profile, MemberProfile | undefined>();

function memberOf(profile: Profile): MemberProfile | undefined {
  const size = profileSize(profile);
  if (!size) return undefined;
  const sectionAt = (density: number) => {
    const { section } = ownSection(profile, size.width, density);
    return section && !section.open ? scaled(section, 1 / Math.max(1, size.width)) : undefined;
  };
  const whole = sectionAt(1);
  if (!whole) return undefined;
  const { area, outline, gyration } = bendingOf(whole);
  return {
    value: OWN,
    label: profile.name,
    sign: profile.name,
    hollow: false,
    section: (sides) => sectionAt(Math.min(1, sides / FULL_SIDES)) ?? whole,
    area: () => area,
    outline,
    gyration: () => gyration,
  };
}

/** Sides of a round tube at which a profile of the project is divided as finely as it is swept. */
const FULL_SIDES = 12;

const scaled = (section: Section, by: number): Section => ({
  ...section,
  x: section.x.map((value) => by * value),
  y: section.y.map((value) => by * value),
  area: by * by * section.area,
  perimeter: by * section.perimeter,
  reach: by * section.reach,
  round: section.round && by === 1,
});

/**
 * Area, length of the outer outlines and least radius of gyration, from the edges round it (Green's theorem; any textbook of
 * strength of materials).
 */
export function bendingOf({ x, y, face }: Section): { area: number; outline: number; gyration: number } {
  const sums = { area: 0, x: 0, y: 0, xx: 0, yy: 0, xy: 0 };
  let outline = 0;
  let loop = { area: 0, length: 0 };
  face.forEach((i, f) => {
    const [ax, ay, bx, by] = [x[i], y[i], x[i + 1], y[i + 1]];
    const cross = ax * by - bx * ay;
    sums.area += cross / 2;
    sums.x += ((ax + bx) * cross) / 6;
    sums.y += ((ay + by) * cross) / 6;
    sums.xx += ((ax * ax + ax * bx + bx * bx) * cross) / 12;
    sums.yy += ((ay * ay + ay * by + by * by) * cross) / 12;
    sums.xy += ((ax * by + 2 * ax * ay + 2 * bx * by + bx * ay) * cross) / 24;
    loop.area += cross;
    loop.length += Math.hypot(bx - ax, by - ay);
    const next = face[f + 1];
    if (next !== undefined && Math.hypot(x[next] - bx, y[next] - by) < 1e-9) return;
    // holes run the other way round
    if (loop.area > 0) outline += loop.length;
    loop = { area: 0, length: 0 };
  });
  const { area } = sums;
  const xx = sums.xx - (sums.x * sums.x) / area;
  const yy = sums.yy - (sums.y * sums.y) / area;
  const xy = sums.xy - (sums.x * sums.y) / area;
  const least = (xx + yy) / 2 - Math.hypot((xx - yy) / 2, xy);
  return { area, outline, gyration: Math.sqrt(Math.max(0, least) / area) };
}
