import { expect, it } from 'vitest';
import { clockNow, onClock, phaseAt, runClock, setClock } from '../src/state/clock.js';

it('after an hour the clock stands where it would without one missed frame', () => {
  // frames come when they like: their lengths are never added up
  const began = 1000;
  let now = began;
  setClock({ phase: 0.25, playing: true });
  for (let k = 0; now < began + 3_600_000; k++) {
    runClock(now, 4, true);
    now += 16.1 + (k % 7) * 0.37;
  }
  runClock(now, 4, true);
  const loops = phaseAt(now, { at: began, phase: 0.25 }, 4);
  expect(loops).toBeCloseTo(0.25 + (now - began) / 4000, 12);
  expect(clockNow().phase).toBe(loops - Math.floor(loops));
});

it('without a loop it stops at the end, and reports who listens until they leave', () => {
  const heard: number[] = [];
  setClock({ phase: 0, playing: true });
  const leave = onClock(({ phase }) => heard.push(phase));
  runClock(0, 2, false);
  runClock(1000, 2, false);
  runClock(5000, 2, false);
  leave();
  setClock({ phase: 0.3 });
  expect(heard).toEqual([0, 0, 0.5, 1]);
  expect(clockNow().playing).toBe(false);
});
