import { formSection } from '../../section/forms.js';
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

export const PROFILE_OPTIONS = PROFILES.map(({ value, label }) => ({ value, label }));
export const profileOf = (value: string): MemberProfile => PROFILES.find((one) => one.value === value) ?? PROFILES[0];

/** Kilogrammes of a cubic metre: steel and aluminium by EN 1993-1-1 and EN 1999-1-1, timber C24 by EN 338 (from memory). */
export const STUFFS = [
  { value: 'steel', label: 'Steel', density: 7850 },
  { value: 'aluminium', label: 'Aluminium', density: 2700 },
  { value: 'timber', label: 'Timber', density: 420 },
] as const;
