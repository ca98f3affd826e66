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
    title: 'Choose a piece',
    text: 'Click the mooring line: in the view, or in the manifest on the right. Drag in the view to turn it, turn the wheel to come nearer.',
    done: ({ view }) => view.piece === 'mooring-line',
  },
  {
    title: 'Tune it',
    text: 'Open Make on the left and drag Radius. The view shows what the number measures, and follows at once.',
    done: (now, began) => now.project.past.length > began.project.past.length && /radius/i.test(newestStep(now)),
  },
  {
    title: 'Take it back',
    text: 'Ctrl+Z undoes any step. Nothing needs saving by hand: every edit is kept as you make it.',
    done: (now, began) => now.project.future.length > began.project.future.length,
  },
  {
    title: 'Draw a line',
    text: 'Take the Stroke pen, press on the deck, draw across it and let go. A cable lies along what you drew.',
    done: (now, began) =>
      (now.project.document?.pieces.length ?? 0) > (began.project.document?.pieces.length ?? 0) &&
      now.view.pen === null,
  },
  {
    title: 'See what is wrong',
    text: 'Open Checks. Pinches, cuts and bends that are too tight stand there with their place, and mostly with a fix.',
    done: ({ view }) => view.checks,
  },
  {
    title: 'Bake it',
    text: 'Open Bake: it says what the mesh will cost, makes it on the server and gives you the file.',
    done: ({ view }) => view.baking,
  },
];
