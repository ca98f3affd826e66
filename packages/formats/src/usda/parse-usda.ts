import { KelpError } from '@kelp/core';

/** What a property holds: all numbers of it in their order, and all texts and paths. */
export interface UsdaValue {
  numbers: number[];
  words: string[];
}

/** One prim: what is between its braces. */
export interface UsdaPrim {
  kind: string;
  name: string;
  properties: Map<string, UsdaValue>;
  /** Of properties that say how they lie over a mesh: constant, vertex, faceVarying … */
  interpolation: Map<string, string>;
  children: UsdaPrim[];
}

export interface UsdaFile {
  head: Map<string, UsdaValue>;
  prims: UsdaPrim[];
  /** It names other files, whose parts are not in it. */
  refers: boolean;
}

/** Prims stand no deeper in each other than this, nor lists. */
const MAX_DEPTH = 200;
/** A comment, a long text, a text, a path to another file, one to another prim, a name, a number, a sign. */
const TOKEN =
  /\s+|#[^\n]*|\/\*[\s\S]*?\*\/|"""[\s\S]*?"""|'''[\s\S]*?'''|"(?:[^"\\\n]|\\.)*"|'(?:[^'\\\n]|\\.)*'|@[^@\n]*@|<[^>\n]*>|[A-Za-z_][\w:.]*|[-+]?(?:\d+\.?\d*|\.\d+)(?:[eE][-+]?\d+)?|[-+]inf|[()[\]{}=,;:]/gy;
const LISTED = new Set(['prepend', 'append', 'add', 'delete', 'reorder']);
const QUALIFIED = new Set(['custom', 'uniform', 'varying', 'config']);

/**
 * Reads the text format of USD (openusd.org: "USD Glossary" and the grammar of its text file format): prims with their
 * properties; of what varies with time the first value. Variants are left out.
 * @throws KelpError BAD_FILE with the line that is wrong
 */
export function parseUsda(fileName: string, text: string): UsdaFile {
  if (!/^#usda 1\.\d/.test(text))
    throw new KelpError('BAD_FILE', `${fileName} does not start with "#usda 1.0": it is not a USD text file.`);
  return new Parser(fileName, text).file();
}

class Parser {
  private at = 0;
  private token = '';
  private refers = false;

  constructor(
    private readonly fileName: string,
    private readonly text: string,
  ) {
    this.next();
  }

  file(): UsdaFile {
    const head = this.token === '(' ? this.metadata() : new Map<string, UsdaValue>();
    const prims: UsdaPrim[] = [];
    while (this.token !== '') {
      const prim = this.prim(0);
      if (prim) prims.push(prim);
    }
    return { head, prims, refers: this.refers };
  }

  /** Goes on to the next token; '' at the end. */
  private next(): string {
    const old = this.token;
    for (;;) {
      if (this.at >= this.text.length) {
        this.token = '';
        return old;
      }
      TOKEN.lastIndex = this.at;
      const found = TOKEN.exec(this.text)?.[0];
      if (found === undefined) throw this.wrong(`unexpected ${JSON.stringify(this.text[this.at])}`);
      this.at += found.length;
      if (/^[\s#]|^\/\*/.test(found)) continue;
      this.token = found;
      return old;
    }
  }

  private take(wanted: string): void {
    if (this.token !== wanted)
      throw this.wrong(`${JSON.stringify(wanted)} is missing before ${JSON.stringify(this.token.slice(0, 40))}`);
    this.next();
  }

  private wrong(why: string): KelpError {
    const line = this.text.slice(0, this.at).split('\n').length;
    return new KelpError('BAD_FILE', `${this.fileName}, line ${line}: ${why}. Export it again.`);
  }

  /** A prim; undefined for what only says that something is to be left out. */
  private prim(depth: number): UsdaPrim | undefined {
    if (depth > MAX_DEPTH) throw this.wrong(`a prim is nested more than ${MAX_DEPTH} deep`);
    const specifier = this.next();
    if (specifier === 'reorder') {
      this.property(undefined);
      return undefined;
    }
    if (!['def', 'over', 'class'].includes(specifier))
      throw this.wrong(`${JSON.stringify(specifier.slice(0, 40))} does not start a prim`);
    const kind = /^["']/.test(this.token) ? '' : this.next();
    const out: UsdaPrim = {
      kind,
      name: plain(this.next()),
      properties: new Map(),
      interpolation: new Map(),
      children: [],
    };
    if (this.token === '(') this.metadata();
    this.take('{');
    while (this.token !== '}') this.content(out, depth);
    this.next();
    return specifier === 'def' ? out : undefined;
  }

  private content(prim: UsdaPrim, depth: number): void {
    if (this.token === ';') this.next();
    else if (['def', 'over', 'class'].includes(this.token)) {
      const child = this.prim(depth + 1);
      if (child) prim.children.push(child);
    } else if (this.token === 'variantSet') {
      this.next();
      this.next();
      this.take('=');
      this.skipped();
    } else this.property(prim);
  }

  /** `[custom] [uniform] type name = value ( metadata )`, or a relationship. */
  private property(prim: UsdaPrim | undefined): void {
    while (QUALIFIED.has(this.token) || LISTED.has(this.token)) this.next();
    if (!/^[A-Za-z_]/.test(this.token))
      throw this.wrong(`${JSON.stringify(this.token.slice(0, 40))} does not start a property`);
    this.next();
    if (this.token === '[') {
      this.next();
      this.take(']');
    }
    // nothing but a name: nameChildren = …
    const name = /^[A-Za-z_]/.test(this.token) ? this.next() : '';
    if (this.token === '=') {
      this.next();
      const value = this.value();
      // of what varies with time the first value; one that was given without time goes before
      const plainName = name.replace(/\.timeSamples$/, '');
      if (name === plainName || !prim?.properties.has(plainName)) prim?.properties.set(plainName, value);
    }
    if (this.token !== '(') return;
    const how = this.metadata().get('interpolation')?.words[0];
    if (how) prim?.interpolation.set(name, how);
  }

  /** `( name = value … )`; a text by itself is a comment. */
  private metadata(): Map<string, UsdaValue> {
    const out = new Map<string, UsdaValue>();
    this.take('(');
    while (this.token !== ')') {
      if (this.token === ';' || /^["']/.test(this.token)) {
        this.next();
        continue;
      }
      while (LISTED.has(this.token)) this.next();
      if (!/^[A-Za-z_]/.test(this.token))
        throw this.wrong(`${JSON.stringify(this.token.slice(0, 40))} does not start metadata`);
      const name = this.next();
      this.take('=');
      out.set(name, this.value());
    }
    this.next();
    return out;
  }

  /** A value with all that is in it, lists and tuples one behind the other; of samples over time the first one. */
  private value(): UsdaValue {
    if (this.token === '{') return this.samples();
    const out: UsdaValue = { numbers: [], words: [] };
    let depth = 0;
    do {
      const token = this.next();
      if (token === '') throw this.wrong('a value does not end');
      if (token === '[' || token === '(') depth++;
      else if (token === ']' || token === ')') depth--;
      else if (token === ',') {
        if (depth === 0) throw this.wrong('a comma is next to a value');
      } else if (/^[-+.\d]/.test(token)) out.numbers.push(Number(token.replace('inf', 'Infinity')));
      else out.words.push(plain(token));
      if (token.startsWith('@')) this.refers = true;
      if (depth > MAX_DEPTH) throw this.wrong(`lists are nested more than ${MAX_DEPTH} deep`);
    } while (depth > 0);
    // a path within another file
    if (out.words.length > 0 && this.token.startsWith('<')) this.next();
    return out;
  }

  /** `{ 0: value, 1: value }`; and dictionaries, of which nothing is asked. */
  private samples(): UsdaValue {
    this.take('{');
    let first: UsdaValue | undefined;
    if (/^[-+.\d]/.test(this.token)) {
      this.next();
      this.take(':');
      first = this.value();
    }
    this.rest();
    return first ?? { numbers: [], words: [] };
  }

  private skipped(): void {
    this.take('{');
    this.rest();
  }

  /** On to behind the brace that is open. */
  private rest(): void {
    for (let depth = 1; depth > 0; ) {
      const token = this.next();
      if (token === '') throw this.wrong('a brace is not closed');
      if (token === '{') depth++;
      else if (token === '}') depth--;
    }
  }
}

/** A text without its quotation marks, a path without its brackets. */
const plain = (token: string): string => token.replace(/^("""|'''|["'<@])([\s\S]*?)("""|'''|["'>@])$/, '$2');
