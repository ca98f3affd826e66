import { type AlongValue, greatest, isLane, mapAlong } from '../../numeric/lane.js';
import { type Blend, blendOf, crossesBetween } from '../../section/blend/blend.js';
import { FORMS, type Form, type FormNumbers, formSection } from '../../section/forms.js';
import { hullOf, leastReach } from '../../section/hull.js';
import { outlinePath } from '../../section/outline-path.js';
import { ownSection } from '../../section/own-section.js';
import { withSeam } from '../../section/seam.js';
import type { Section } from '../../section/section.js';
import type { BuildContext } from '../../unit/unit.js';
import type { SweepSpec } from '../steering.js';
import type { Placed } from './reach.js';

/** The section is a profile of the project. */
export const OWN = 'own';
/** It stays what it is. */
export const SAME = 'same';
const SAME_PICTURE = 'M-1-.25H.9V.25H-1Z';
const OWN_PICTURE = 'M-1 .9L-.2-1L.3-.2L1-.5L.6.9Z';
/** Numbers by which sections are distinguished. */
const PICTURED: FormNumbers = { width: 1, sides: 32, points: 6, wall: 0.2, depth: 0.35, rounding: 0.15 };
const TOLD_APART: Record<string, Partial<FormNumbers>> = {
  'half-round': { width: 2 },
  crescent: { width: 2 },
  gear: { points: 10 },
};

/** What a section is chosen from, and what it becomes. */
export const SECTIONS = [...FORMS, { value: OWN, label: 'Custom profile' }] as const;

export interface SweptSection extends Omit<FormNumbers, 'width'> {
  form: string;
  profile: string;
  becomes: string;
  later: string;
  thenBecomes: string;
  thenProfile: string;
  lastBecomes: string;
  lastProfile: string;
  seam: number;
  share: AlongValue;
  radius: AlongValue;
  width: AlongValue;
}

/** Picture of a section in a list, as a path. */
export const pictureOf = (form: string): string =>
  form === SAME
    ? SAME_PICTURE
    : form === OWN
      ? OWN_PICTURE
      : outlinePath(formSection(form as Form, { ...PICTURED, ...TOLD_APART[form] }));

/** Its sections one after the other: up to the first that stays the same. */
export function stagesOf(p: SweptSection): { form: string; profile: string }[] {
  const later = [
    { form: p.becomes, profile: p.later },
    { form: p.thenBecomes, profile: p.thenProfile },
    { form: p.lastBecomes, profile: p.lastProfile },
  ];
  const same = later.findIndex(({ form }) => form === SAME);
  return [{ form: p.form, profile: p.profile }, ...(same < 0 ? later : later.slice(0, same))];
}

/** What is steered, but for where its top looks. */
export function steeredOf(p: SweptSection & Placed, context: BuildContext): SweepSpec {
  const width = greatest(p.width);
  const stages = stagesOf(p).map(({ form, profile }) => sectionOf(form, profile, p, context));
  const [{ section: first, isOwn }] = stages;
  const blend = stages.length > 1 ? blendOf(stages.map((stage) => stage.section)) : undefined;
  const section = blend?.stages[0] ?? withSeam(first, p.seam);
  const outline = hullOf(...placesOf(blend?.stages ?? [section]));
  const isRound =
    !isOwn && !blend && ['round', 'tube'].includes(p.form) && p.width === 1 && p.rise === 0 && p.aside === 0;
  return {
    section,
    size: p.radius,
    broad: isLane(p.width) ? mapAlong(p.width, (value) => value / width) : undefined,
    rise: p.rise,
    aside: p.aside,
    becomes: blend && { blend, share: p.share },
    flatness: Math.max(width, 1 / width),
    isRound,
    least: blend ? Math.min(...blend.stages.map(({ x, y }) => leastReach(hullOf(x, y)))) : leastReach(outline),
    outline: isRound ? undefined : outline,
  };
}

/** A section by its name; round where there is no profile yet. */
function sectionOf(form: string, profileId: string, p: SweptSection, context: BuildContext) {
  const width = greatest(p.width);
  const profile = form === OWN ? context.profile(profileId) : undefined;
  const own = profile && ownSection(profile, width, context.density).section;
  const known = form === OWN ? 'round' : (form as Form);
  return { section: own ?? formSection(known, { ...p, width }, context.density), isOwn: own !== undefined };
}

/** The places of all sections. */
const placesOf = (sections: readonly Section[]): [number[], number[]] => [
  sections.flatMap(({ x }) => [...x]),
  sections.flatMap(({ y }) => [...y]),
];

/** What is wrong with a profile of the project, in words. */
export function reportProfile(form: string, id: string, width: AlongValue, context: BuildContext): void {
  if (form !== OWN) return;
  const profile = context.profile(id);
  const tell = (code: string, message: string) => context.report({ code, severity: 'warning', message });
  if (!profile) {
    tell('profile-missing', 'No profile is chosen: a round section is used. Choose one.');
    return;
  }
  const { section, left, crossing } = ownSection(profile, greatest(width), context.density);
  if (!section)
    tell(
      'profile-empty',
      `"${profile.name}" has no outline: a round section is used. Choose a profile with an outline or a line.`,
    );
  else if (left > 0)
    tell(
      'profile-open',
      `${left} of the ${profile.paths.length} paths of "${profile.name}" are open or enclose nothing and are ignored. Close them.`,
    );
  if (crossing)
    tell(
      'profile-crosses',
      `The outline of "${profile.name}" intersects itself at ${crossing.map((value) => (1000 * value).toFixed(1)).join(', ')} mm. Remove the crossing.`,
    );
}

/** Reports sections that cannot go over into each other. */
export function reportBlend({ becomes }: SweptSection, blend: Blend | undefined, context: BuildContext): void {
  if (becomes === SAME) return;
  if (!blend)
    context.report({
      code: 'profiles-unlike',
      severity: 'warning',
      message:
        'The sections have different numbers of holes or parts: the first one is used. Choose sections with equally many outlines.',
    });
  else if (crossesBetween(blend))
    context.report({
      code: 'blend-crosses',
      severity: 'warning',
      message: 'The outline intersects itself between two sections. Choose sections that are more alike.',
    });
}
