/** The nodes of a glTF: those that are in the scene themselves, and those of one piece below a node of its own. */
export class GltfNodes {
  readonly all: object[] = [];
  /** Nodes that are in the scene themselves; others hang below one. */
  readonly roots: number[] = [];
  private readonly pieces = new Map<string, { root: number; nodes: number[]; parent?: object }>();

  /** One that another names among its children. @returns its number */
  child(node: object): number {
    return this.all.push(node) - 1;
  }

  /**
   * Those of one piece are put below a node of its own, once there are several.
   * @param at the origin that they are measured from
   * @returns its number
   */
  root(node: object, piece?: string, at?: readonly number[]): number {
    const own: { translation?: number[] } = at ? { ...node, translation: [...at] } : node;
    const number = this.all.push(own) - 1;
    if (piece === undefined) {
      this.roots.push(number);
      return number;
    }
    // two pieces may have one name, but not one origin
    const key = JSON.stringify([piece, at]);
    const known = this.pieces.get(key);
    if (!known) {
      this.pieces.set(key, { root: this.roots.length, nodes: [number] });
      this.roots.push(number);
      return number;
    }
    known.nodes.push(number);
    delete own.translation;
    if (known.nodes.length === 2) {
      const first = this.all[known.nodes[0]] as { translation?: number[] };
      known.parent = { name: piece, children: known.nodes, ...(at ? { translation: [...at] } : {}) };
      delete first.translation;
      this.roots[known.root] = this.all.push(known.parent) - 1;
    }
    return number;
  }
}
