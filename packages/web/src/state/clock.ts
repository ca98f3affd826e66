import { useSyncExternalStore } from 'react';

/** The project's time while it runs. Moves at every frame: too often for the store. */
interface ClockState {
  playing: boolean;
  /** How far it is in its loop, 0 … 1. */
  phase: number;
}

let state: ClockState = { playing: false, phase: 0 };
const listeners = new Set<() => void>();

/**
 * When a run began, and from where: the phase is computed from these alone, never added up frame by frame, so that it is after
 * an hour as right as after a second.
 */
let run: { at: number; phase: number } | undefined;

export function setClock(next: Partial<ClockState>): void {
  state = { ...state, ...next };
  run = undefined;
  for (const listener of listeners) listener();
}

/**
 * Goes on to where a clock that runs is at a time.
 * @param now milliseconds of any steady clock
 * @param length of the loop, seconds
 */
export function runClock(now: number, length: number, loop: boolean): void {
  run ??= { at: now, phase: state.phase };
  const phase = phaseAt(now, run, length);
  if (phase >= 1 && !loop) {
    setClock({ playing: false, phase: 1 });
    return;
  }
  state = { ...state, phase: phase - Math.floor(phase) };
  for (const listener of listeners) listener();
}

/** Loops that have gone by: above 1 after the first. */
export const phaseAt = (now: number, begun: { at: number; phase: number }, length: number): number =>
  begun.phase + (now - begun.at) / 1000 / length;

export const clockNow = (): ClockState => state;

/** Calls back at once and whenever the clock moves. @returns what ends it */
export function onClock(listener: (state: ClockState) => void): () => void {
  const tell = () => listener(state);
  tell();
  listeners.add(tell);
  return () => listeners.delete(tell);
}

const subscribe = (listener: () => void) => {
  listeners.add(listener);
  return () => listeners.delete(listener);
};

export const useClock = (): ClockState => useSyncExternalStore(subscribe, () => state);

/** Whether it is anywhere but at its beginning. */
export const useClockMoved = (): boolean => useSyncExternalStore(subscribe, () => state.phase > 0);
