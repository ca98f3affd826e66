import { findUnit, newShape, searchText, unitAt, unitsOf, withPiece } from '@kelp/core';
import type { AppDispatch, AppState } from '../app/store.js';
import { GUIDE } from '../guide/pages.js';
import { DETAIL_WORDS, detailPieces } from '../manifest/piece-edits.js';
import { edit } from '../state/edits.js';
import { redone, undone } from '../state/project-slice.js';
import {
  bakingShown,
  checksShown,
  type Float,
  floatOpened,
  lookChanged,
  panelToggled,
  penTaken,
  pieceChosen,
  propChosen,
  tourMoved,
} from '../state/view-slice.js';
import { takePreset } from '../stem/take-preset.js';
import { toggleScheme } from '../theme/scheme.js';
import { toggleShadows } from '../view/shadows.js';

/** Something that can be done from the search, and from the keyboard where it has keys. */
export interface Action {
  id: string;
  label: string;
  /** Where it belongs, for the search. */
  group: string;
  /** Other words by which it is searched. */
  words?: string;
  /** Keys in the notation of react-hotkeys-hook; '' for none. Those that can be changed are stored by id. */
  keys?: string;
  run(dispatch: AppDispatch): void;
}

/** Pages of the guide, in a tab of their own: the project stays as it is. */
export const GUIDE_ACTIONS: readonly Action[] = GUIDE.map(({ id, title, words }) => ({
  id: `guide ${id}`,
  label: `Guide: ${title}`,
  words,
  group: 'Help',
  run: () => void globalThis.open(`/guide/${id}`, '_blank'),
}));

/** Actions that are always there, with their first keys. */
export const FIXED: readonly Action[] = [
  { id: 'undo', label: 'Undo', group: 'Edit', keys: 'mod+z', run: (d) => d(undone()) },
  { id: 'redo', label: 'Redo', group: 'Edit', keys: 'mod+shift+z', run: (d) => d(redone()) },
  { id: 'stroke', label: 'Stroke pen', group: 'Pens', keys: 's', run: (d) => d(penTaken('stroke')) },
  { id: 'points', label: 'Points pen', group: 'Pens', keys: 'p', run: (d) => d(penTaken('points')) },
  { id: 'throw', label: 'Throw pen', group: 'Pens', keys: 't', run: (d) => d(penTaken('throw')) },
  { id: 'string', label: 'String pen', group: 'Pens', keys: 'g', run: (d) => d(penTaken('string')) },
  { id: 'wheels', label: 'Wheels pen', group: 'Pens', keys: 'w', run: (d) => d(penTaken('wheels')) },
  { id: 'choose-nothing', label: 'Deselect all', group: 'Edit', keys: 'escape', run: (d) => d(pieceChosen(null)) },
  { id: 'form', label: 'Form look', group: 'View', keys: '1', run: (d) => d(lookChanged('form')) },
  { id: 'dressed', label: 'Dressed look', group: 'View', keys: '2', run: (d) => d(lookChanged('dressed')) },
  { id: 'mesh', label: 'Mesh look', group: 'View', keys: '3', run: (d) => d(lookChanged('mesh')) },
  { id: 'checker', label: 'Checker look', group: 'View', keys: '4', run: (d) => d(lookChanged('checker')) },
  { id: 'checks', label: 'Show checks', group: 'Panels', keys: 'c', run: (d) => d(checksShown(true)) },
  { id: 'bake', label: 'Show bake', group: 'Panels', keys: 'b', run: (d) => d(bakingShown(true)) },
  { id: 'tour', label: 'First-minute tour', group: 'Help', keys: '', run: (d) => d(tourMoved(0)) },
  { id: 'scheme', label: 'Light or dim theme', group: 'View', keys: '', run: () => toggleScheme() },
  {
    id: 'shadows',
    label: 'Toggle shadows (faster without)',
    group: 'View',
    keys: '',
    run: () => toggleShadows(),
  },
  {
    id: 'strip',
    label: 'Toggle the length strip',
    group: 'Panels',
    keys: 'l',
    run: (d) => d(panelToggled('strip')),
  },
  { id: 'stem', label: 'Toggle the Stem', group: 'Panels', keys: '', run: (d) => d(panelToggled('stem')) },
  {
    id: 'manifest',
    label: 'Toggle the Manifest',
    group: 'Panels',
    keys: '',
    run: (d) => d(panelToggled('manifest')),
  },
];

/** What depends on the project: its pieces and props, the shapes and numbers of the chosen piece. */
export function projectActions({ project, view }: AppState): Action[] {
  const { document } = project;
  if (!document) return [];
  const chosen = document.pieces.find(({ id }) => id === view.piece);
  const open = (float: Float) => (dispatch: AppDispatch) => dispatch(floatOpened(float));
  const stages: Float[] = ['path', 'shape', 'make', 'dress', 'bake'];
  return [
    ...document.pieces.map(({ id, name }) => ({
      id: `piece ${id}`,
      label: name,
      group: 'Pieces',
      run: (dispatch: AppDispatch) => dispatch(pieceChosen(id)),
    })),
    ...document.props.map(({ id, name }) => ({
      id: `prop ${id}`,
      label: name,
      group: 'Props',
      run: (dispatch: AppDispatch) => dispatch(propChosen(id)),
    })),
    ...(chosen
      ? [
          ...stages.map((stage) => ({
            id: `open ${stage}`,
            label: `Open ${stage}`,
            group: chosen.name,
            run: open(stage),
          })),
          ...(['path', 'draft', undefined] as const).map((detail) => ({
            id: `detail ${detail ?? 'full'}`,
            label: `Show ${DETAIL_WORDS[detail ?? 'full'].toLowerCase()}`,
            group: chosen.name,
            run: (dispatch: AppDispatch) => dispatch(detailPieces([chosen], detail)),
          })),
          ...unitsOf('make').flatMap((unit) =>
            unit.presets.map((preset) => ({
              id: `preset ${unit.id} ${preset.id}`,
              label: `Make ${preset.label} (${unit.label})`,
              words: searchText(unit, preset.id),
              group: `Make of ${chosen.name}`,
              run: (dispatch: AppDispatch) => dispatch(takePreset(chosen, unit.id, preset.id)),
            })),
          ),
          ...unitsOf('shape').map((unit) => ({
            id: `shape ${unit.id}`,
            label: `Add ${unit.label.toLowerCase()}: ${unit.purpose}`,
            words: searchText(unit),
            group: `Shape of ${chosen.name}`,
            run: (dispatch: AppDispatch) => {
              dispatch(
                edit(`Add ${unit.label.toLowerCase()} to ${chosen.name}`, (now) =>
                  withPiece(now, chosen.id, (piece) => ({ ...piece, shape: [...piece.shape, newShape(unit.id)] })),
                ),
              );
              dispatch(floatOpened('shape'));
            },
          })),
          ...(['path', 'make', 'dress'] as const).flatMap((stage) =>
            Object.entries(findUnit(unitAt(chosen, { stage })?.unit ?? '')?.parameters ?? {}).map(
              ([name, { label, help }]) => ({
                id: `parameter ${stage} ${name}`,
                label: `${label}: ${help}`,
                group: `Parameters of ${chosen.name}`,
                run: (dispatch: AppDispatch) => {
                  dispatch(floatOpened(stage));
                  focusControl(label);
                },
              }),
            ),
          ),
        ]
      : []),
  ];
}

/** Once the stage stands open, the keyboard goes to the control of that name. */
function focusControl(label: string): void {
  setTimeout(() => {
    const control = [...document.querySelectorAll<HTMLElement>('aside [aria-label]')].find(
      (element) => element.getAttribute('aria-label')?.startsWith(label) && element.matches('input, button, [role]'),
    );
    control?.focus();
  }, 300);
}
