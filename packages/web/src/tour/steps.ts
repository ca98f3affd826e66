import type { AppState } from '../app/store.js';

export interface TourStep {
  title: string;
  text: string;
  /** True once the person has done it; `began` is the state in which the step came up. */
  done(now: AppState, began: AppState): boolean;
}

const newestStep = ({ project }: AppState): string => project.past.at(-1)?.label ?? '';

/** The first minute: each step ends by doing it. */
export const STEPS: readonly TourStep[] = [
  {
    title: 'Select a piece',
    text: 'Click the mooring line in the view, or in the Manifest on the right. Drag in the view to orbit, scroll to zoom.',
    done: ({ view }) => view.piece === 'mooring-line',
  },
  {
    title: 'Tune it',
    text: 'Open Make on the left and drag Radius. The view shows what the number measures, and updates at once.',
    done: (now, began) => now.project.past.length > began.project.past.length && /radius/i.test(newestStep(now)),
  },
  {
    title: 'Undo',
    text: 'Ctrl+Z undoes any step. Saving is automatic.',
    done: (now, began) => now.project.future.length > began.project.future.length,
  },
  {
    title: 'Draw a line',
    text: 'Choose the Stroke pen, press on the deck, drag across it and release. A cable lies along your line.',
    done: (now, began) =>
      (now.project.document?.pieces.length ?? 0) > (began.project.document?.pieces.length ?? 0) &&
      now.view.pen === null,
  },
  {
    title: 'Check for problems',
    text: 'Open Checks. It lists pinches, intersections and tight bends with their position, most of them with a fix.',
    done: ({ view }) => view.checks,
  },
  {
    title: 'Bake it',
    text: 'Open Bake: it shows the size of the mesh, bakes it on the server and gives you the file.',
    done: ({ view }) => view.baking,
  },
];
