/** The list with `id` put last, or taken out where it was in. */
export const toggled = (chosen: readonly string[], id: string): string[] =>
  chosen.includes(id) ? chosen.filter((other) => other !== id) : [...chosen, id];

/**
 * What is chosen after a click in a list: with Ctrl one more or one less, with Shift all from the last chosen one to
 * this one, else this one alone. The last of the answer is the one whose numbers are shown.
 */
export function afterClick(
  listed: readonly string[],
  chosen: readonly string[],
  id: string,
  keys: { ctrl: boolean; shift: boolean },
): string[] {
  if (keys.ctrl) return toggled(chosen, id);
  const from = listed.indexOf(chosen.at(-1) ?? '');
  if (!keys.shift || from < 0) return [id];
  const to = listed.indexOf(id);
  return [...listed.slice(Math.min(from, to), Math.max(from, to) + 1).filter((other) => other !== id), id];
}
