/** What a chain is made of: proportions in wire, ball or roller diameters; sizes from a table in metres. */
export interface ChainKind {
  value: string;
  label: string;
  form: 'link' | 'stud' | 'curb' | 'roller' | 'beads' | 'own';
  /** Of what is sold by a table: radius of wire or roller, metres. */
  radius?: number;
  /** From link to link, and how wide a link is (of a roller chain, between its inner plates), in diameters. */
  pitch: number;
  width: number;
}

const millimetres = (
  value: string,
  label: string,
  form: ChainKind['form'],
  [d, pitch, width]: readonly [number, number, number],
): ChainKind => ({
  value,
  label,
  form,
  radius: d / 2000,
  pitch: pitch / d,
  width: width / d,
});

/**
 * Proportions of free kinds are common practice, no source. Short link: diameter, pitch and outer width of DIN 766; roller
 * chain: roller diameter, pitch and inner width of ISO 606; the digits are from memory of both tables.
 */
export const CHAIN_KINDS: readonly ChainKind[] = [
  { value: 'short', label: 'Short link', form: 'link', pitch: 3.05, width: 3.4 },
  { value: 'long', label: 'Long link', form: 'link', pitch: 5, width: 3.6 },
  { value: 'stud', label: 'Stud link', form: 'stud', pitch: 4, width: 3.6 },
  { value: 'curb', label: 'Curb', form: 'curb', pitch: 2.9, width: 3.5 },
  { value: 'beads', label: 'Beads', form: 'beads', pitch: 1.3, width: 1 },
  { value: 'roller', label: 'Roller chain', form: 'roller', pitch: 1.49, width: 0.91 },
  { value: 'own', label: 'Prop', form: 'own', pitch: 1, width: 1 },
  millimetres('din766-6', 'Short link 6 × 18.5', 'link', [6, 18.5, 20.4]),
  millimetres('din766-8', 'Short link 8 × 24', 'link', [8, 24, 27.2]),
  millimetres('din766-10', 'Short link 10 × 28', 'link', [10, 28, 34]),
  millimetres('roller-06b', 'Roller 06B', 'roller', [6.35, 9.525, 5.72]),
  millimetres('roller-08b', 'Roller 08B', 'roller', [8.51, 12.7, 7.75]),
  millimetres('roller-10b', 'Roller 10B', 'roller', [10.16, 15.875, 9.65]),
  millimetres('roller-12b', 'Roller 12B', 'roller', [12.07, 19.05, 11.68]),
  millimetres('roller-16b', 'Roller 16B', 'roller', [15.88, 25.4, 17.02]),
];

export const chainKind = (value: string): ChainKind =>
  CHAIN_KINDS.find((kind) => kind.value === value) ?? CHAIN_KINDS[0];

/** Kinds whose sizes are free to choose. */
export const FREE_KINDS = CHAIN_KINDS.filter(({ radius }) => radius === undefined).map(({ value }) => value);
