import type { Preset } from '../../unit/unit.js';

/** Starting points of `belt`; the first is what a new piece gets. */
export const BELT_PRESETS: readonly Preset[] = [
  { id: 'flat-belt', label: 'Flat belt', synonyms: ['drive belt'], parameters: {} },
  {
    id: 'v-belt',
    label: 'V-belt',
    synonyms: ['fan belt'],
    parameters: { kind: 'vee', width: 0.013, thickness: 0.008, face: 1.9, spokes: 4 },
  },
  {
    id: 'toothed-belt',
    label: 'Toothed belt',
    synonyms: ['timing belt'],
    parameters: { kind: 'toothed', width: 0.025, thickness: 0.005, wheel: 'disc' },
  },
  {
    id: 'roller-drive',
    label: 'Chain drive',
    synonyms: ['bicycle chain', 'sprocket'],
    parameters: { kind: 'roller', width: 0.0078, thickness: 0.0085, wheel: 'disc', face: 0.85, hub: 0.3 },
  },
  {
    id: 'track',
    label: 'Track',
    synonyms: ['tank tread', 'crawler'],
    parameters: { kind: 'shoes', width: 0.3, thickness: 0.02, pitch: 0.1, face: 0.8, spokes: 6 },
  },
  {
    id: 'slat-conveyor',
    label: 'Slat conveyor',
    synonyms: ['conveyor belt', 'assembly line'],
    parameters: { kind: 'slats', width: 0.5, thickness: 0.03, pitch: 0.08, face: 0.92, wheel: 'disc' },
  },
];
