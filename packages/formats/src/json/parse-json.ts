import { KelpError } from '@kelp/core';

/** Nothing that Kelp reads is nested deeper: a document is about 12 deep, a scene of another program seldom 20. */
const MAX_DEPTH = 64;
/** This many values are read from one text: about eight of the largest documents. */
const MAX_VALUES = 8_000_000;

const [QUOTE, BACKSLASH, COMMA] = [0x22, 0x5c, 0x2c];
const OPENS = new Set([0x5b, 0x7b]);
const CLOSES = new Set([0x5d, 0x7d]);

/**
 * Reads JSON (RFC 8259), once it is clear that reading it costs no more than its length: a few bytes of brackets could
 * otherwise end a program that follows them.
 * @param name what it is, to begin a sentence with
 * @throws KelpError BAD_FILE when it is no JSON or too deep, TOO_LARGE when there are too many values in it
 */
export function parseJson(name: string, text: string): unknown {
  checkNesting(name, text);
  try {
    return JSON.parse(text);
  } catch (error) {
    throw new KelpError('BAD_FILE', `${name} is not valid JSON: ${(error as Error).message.slice(0, 200)}`);
  }
}

/** The first half of `parseJson`: depth and number of values, counted without reading any. */
export function checkNesting(name: string, text: string): void {
  let depth = 0;
  let values = 1;
  let inText = false;
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i);
    if (inText) {
      if (code === BACKSLASH) i++;
      else if (code === QUOTE) inText = false;
    } else if (code === QUOTE) inText = true;
    else if (code === COMMA) values++;
    else if (OPENS.has(code)) {
      values++;
      if (++depth > MAX_DEPTH)
        throw new KelpError(
          'BAD_FILE',
          `${name} is nested more than ${MAX_DEPTH} deep at character ${i}, deeper than any Kelp file`,
        );
    } else if (CLOSES.has(code)) depth--;
  }
  if (values > MAX_VALUES)
    throw new KelpError('TOO_LARGE', `${name} holds more than ${MAX_VALUES.toLocaleString('en')} values`);
}

/** UTF-8 as text. @throws KelpError BAD_FILE where the bytes are none */
export function textOf(name: string, bytes: Uint8Array): string {
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    throw new KelpError('BAD_FILE', `${name} is not UTF-8 text`);
  }
}
