/** What a prim of the USD text format holds. */
export interface Prim {
  kind: string;
  name: string;
  properties: Map<string, { type: string; value: unknown; interpolation?: string }>;
  children: Prim[];
}

/** A reader of the USD text format by its grammar (openusd.org, USDA file format), as far as files of meshes and curves need it. */
export function readUsda(source: string): { header: Map<string, unknown>; prims: Prim[] } {
  const tokens =
    source.match(/"(?:[^"\\]|\\.)*"|<[^>]*>|[A-Za-z_][\w:.]*(?:\[\])?|-?\d+(?:\.\d+)?(?:[eE][-+]?\d+)?|[()[\]{}=,]/g) ??
    [];
  if (!/^#usda 1\.0\n/.test(source)) throw new Error('No head');
  const all: readonly string[] = tokens;
  let at = all.indexOf('(');
  const take = (wanted?: string) => {
    const token = tokens[at++];
    if (token === undefined || (wanted !== undefined && token !== wanted))
      throw new Error(`${wanted ?? 'more'} wanted, ${token} found`);
    return token;
  };
  const value = (): unknown => {
    const token = take();
    if (token !== '[' && token !== '(')
      return token.startsWith('"') ? JSON.parse(token) : /^[-\d]/.test(token) ? Number(token) : token;
    const end = token === '[' ? ']' : ')';
    const out: unknown[] = [];
    while (tokens[at] !== end) {
      out.push(value());
      if (tokens[at] !== end) take(',');
    }
    take(end);
    return out;
  };
  const metadata = () => {
    const out = new Map<string, unknown>();
    take('(');
    while (tokens[at] !== ')') {
      const name = take();
      // what is put before a list, not in its place
      const own = name === 'prepend' ? take() : name;
      take('=');
      out.set(own, value());
    }
    take(')');
    return out;
  };
  const prim = (): Prim => {
    take('def');
    const out: Prim = { kind: take(), name: JSON.parse(take()), properties: new Map(), children: [] };
    if (!/^[A-Za-z_]\w*$/.test(out.name)) throw new Error(`${out.name} is no name`);
    if (tokens[at] === '(') metadata();
    take('{');
    while (tokens[at] !== '}') {
      if (tokens[at] === 'def') {
        out.children.push(prim());
        continue;
      }
      if (tokens[at] === 'uniform') take();
      const [type, name] = [take(), take()];
      // an output is said to be there, and has no value
      const isGiven = tokens[at] === '=';
      if (isGiven) take();
      const held = isGiven ? value() : undefined;
      const more = tokens[at] === '(' ? metadata() : undefined;
      out.properties.set(name, { type, value: held, interpolation: more?.get('interpolation') as string | undefined });
    }
    take('}');
    return out;
  };
  const header = metadata();
  const prims: Prim[] = [];
  while (at < tokens.length) prims.push(prim());
  return { header, prims };
}
