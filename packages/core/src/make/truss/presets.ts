import type { Preset } from '../../unit/unit.js';
import { WELDED } from './parameters.js';

/** Starting points of `truss`; the first is what a new piece gets. */
export const TRUSS_PRESETS: readonly Preset[] = [
  { id: 'triangle-truss', label: 'Three chords', synonyms: ['stage truss'], parameters: {} },
  {
    id: 'box-truss',
    label: 'Four chords',
    synonyms: ['stage truss', 'gantry'],
    parameters: { form: 'square', ends: 'braced', chord: 0.17, web: 0.06, frame: 0.07, stuff: 'aluminium' },
  },
  {
    id: 'flat-truss',
    label: 'Flat girder',
    synonyms: ['roof truss', 'rafter'],
    parameters: {
      form: 'flat',
      webs: 'one-way',
      lineAt: 'top',
      chordProfile: 'square',
      webProfile: 'square',
      frameProfile: 'square',
      chord: 0.11,
      web: 0.07,
      frame: 0.07,
      bay: 0.9,
      joint: 'plate',
      plate: 2.6,
    },
  },
  {
    id: 'ball-lattice',
    label: 'Ball lattice',
    synonyms: ['space frame'],
    parameters: {
      form: 'square',
      ends: 'braced',
      on: 'edge',
      webs: 'zigzag',
      joint: 'ball',
      chord: 0.08,
      web: 0.055,
      frame: 0.055,
      bay: 0.8,
    },
  },
  {
    id: 'tower',
    label: 'Tower',
    synonyms: ['mast', 'pylon', 'crane'],
    parameters: {
      form: 'square',
      webs: 'crossed',
      chordProfile: 'angle',
      webProfile: 'angle',
      frameProfile: 'angle',
      chord: 0.08,
      web: 0.05,
      frame: 0.05,
      bay: 1.1,
      depth: {
        ease: 'straight',
        knots: [
          { at: 0, value: 0.42 },
          { at: 1, value: 0.18 },
        ],
      },
    },
    sample: {
      parameters: {
        depth: {
          ease: 'straight',
          knots: [
            { at: 0, value: 0.13 },
            { at: 1, value: 0.05 },
          ],
        },
      },
    },
  },
  {
    id: 'ladder',
    label: 'Ladder',
    synonyms: ['rungs'],
    parameters: { form: 'flat', turn: Math.PI / 2, webs: 'none', ends: 'open', bay: 0.7, chord: 0.1, frame: 0.075 },
  },
  {
    id: 'gangway',
    label: 'Gangway',
    synonyms: ['bridge', 'walkway'],
    parameters: {
      form: 'square',
      lineAt: 'bottom',
      width: 0.9,
      webs: 'one-way',
      topWebs: 'none',
      bottomWebs: 'crossed',
      chordProfile: 'square',
      webProfile: 'square',
      frameProfile: 'square',
      chord: 0.07,
      web: 0.04,
      frame: 0.045,
      bay: 0.9,
      stuff: 'aluminium',
    },
  },
  {
    id: 'welded-truss',
    label: 'Welded',
    synonyms: ['roll cage'],
    parameters: { joint: WELDED, chord: 0.15, web: 0.09, frame: 0.09 },
  },
  {
    id: 'hand-rail',
    label: 'Hand rail',
    synonyms: ['railing', 'fence', 'balustrade'],
    parameters: { form: 'flat', lineAt: 'bottom', webs: 'none', chord: 0.06, frame: 0.05, bay: 1.4 },
  },
];
