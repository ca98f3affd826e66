import { expect, it, vi } from 'vitest';
import { fuzzReaders } from '../../../fuzz/readers.js';
import { fuzzRoutes } from '../../../fuzz/routes.js';
import { testServer } from './test-server.js';

// A short run of `npm run fuzz`. Another seed a day would find more, and nobody could find it again.

const { url } = testServer();

it('every reader ends broken files with what it read or with a reason', async () => {
  vi.spyOn(console, 'error').mockImplementation(() => {});
  vi.spyOn(console, 'warn').mockImplementation(() => {});
  const tallies = await fuzzReaders(3000, 11);
  expect(tallies.flatMap(({ faults }) => faults)).toEqual([]);
  expect(tallies).toHaveLength(15);
  // what takes in nothing, or everything, proves nothing
  for (const { taken, refused } of tallies) expect(Math.min(taken, refused)).toBeGreaterThan(1);
});

it('every route answers broken requests, within two seconds', async () => {
  const tallies = await fuzzRoutes(url(), 1000, 11);
  expect(tallies.flatMap(({ faults }) => faults)).toEqual([]);
  const refused = tallies.filter(({ refused }) => refused > 0).length;
  expect(refused).toBeGreaterThan(tallies.length - 4);
});
