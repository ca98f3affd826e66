/** Control characters, line ends, directions of writing, halves of characters: in a name they hide or turn what is beside them. */
const HIDDEN = /[\p{Cc}\p{Cs}\u061c\u200e\u200f\u2028-\u202e\u2066-\u2069\ufeff]/gu;
/** What has a form of its own: no blank, no mark on another, nothing without a picture. */
const FORM = /[^\p{Z}\p{C}\p{M}]/u;
/** Letters that are drawn as nothing. */
const BLANK_LETTERS = /[\u115f\u1160\u2800\u3164\uffa0]/g;

/** Whether all of a text can be seen where it is. An empty one is for others to judge. */
export const isVisible = (text: string): boolean =>
  text === '' || (text.search(HIDDEN) < 0 && FORM.test(text.replace(BLANK_LETTERS, '')));

/** The text without what cannot be seen; empty where nothing is left to see. */
export function visible(text: string): string {
  const seen = text.replace(HIDDEN, '');
  return FORM.test(seen.replace(BLANK_LETTERS, '')) ? seen : '';
}
