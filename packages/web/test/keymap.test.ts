import { beforeEach, describe, expect, it, vi } from 'vitest';

/** A browser's storage, or one that refuses everything. */
function storage(initial: Record<string, string>, broken = false): Pick<Storage, 'getItem' | 'setItem'> {
  const kept = new Map(Object.entries(initial));
  return {
    getItem: (key) => {
      if (broken) throw new Error('no storage');
      return kept.get(key) ?? null;
    },
    setItem: (key, value) => {
      if (broken) throw new Error('no storage');
      kept.set(key, value);
    },
  };
}
const load = async (initial: Record<string, string> = {}, broken = false) => {
  vi.resetModules();
  const local = storage(initial, broken);
  vi.stubGlobal('localStorage', local);
  return { ...(await import('../src/actions/keymap.js')), local };
};
beforeEach(() => vi.unstubAllGlobals());

describe('keys', () => {
  it('are the first ones until they are set, are kept, and belong to one action at a time', async () => {
    const { keysOf, setKeys, resetKeys, local } = await load();
    expect(keysOf('throw')).toBe('t');
    setKeys('throw', 's');
    expect([keysOf('throw'), keysOf('stroke')]).toEqual(['s', '']);
    const again = await load({ 'kelp-keys': local.getItem('kelp-keys') ?? '' });
    expect([again.keysOf('throw'), again.keysOf('stroke')]).toEqual(['s', '']);
    resetKeys();
    expect([keysOf('throw'), keysOf('stroke')]).toEqual(['t', 's']);
  });

  it.each([
    ['no JSON', '{'],
    ['a list', '[1, 2]'],
    ['unknown actions and numbers', '{"launch": "x", "throw": 7}'],
  ])('%s in the storage gives the first keys', async (_name, stored) => {
    const { keysOf } = await load({ 'kelp-keys': stored });
    expect(keysOf('throw')).toBe('t');
  });

  it('a browser without storage keeps them for the time being', async () => {
    const { keysOf, setKeys } = await load({}, true);
    setKeys('points', 'mod+shift+p');
    expect(keysOf('points')).toBe('mod+shift+p');
  });

  it('a press is written as it is stored, and read by people', async () => {
    const { pressed, keysText } = await load();
    const press = (key: string, more: object = {}) =>
      pressed({ key, ctrlKey: false, metaKey: false, shiftKey: false, altKey: false, ...more });
    expect(press('Shift', { shiftKey: true })).toBeUndefined();
    expect(press('Z', { ctrlKey: true, shiftKey: true })).toBe('mod+shift+z');
    expect(press(' ')).toBe('space');
    expect(keysText('mod+shift+z')).toBe('Ctrl+Shift+Z');
  });
});
