// the core's types know neither a page nor Node; both have these
declare const atob: (base64: string) => string;
declare const WebAssembly: {
  Module: new (bytes: Uint8Array) => object;
  Instance: new (module: object, imports?: object) => { exports: object };
};

/** The one memory of a compiled kernel, which its caller lays out. */
export interface Memory {
  memory: { buffer: ArrayBuffer; grow(pages: number): void };
}

const PAGE = 65_536;

/** What a kernel written by `npm run kernel` exports. */
export const compiled = <T extends Memory>(text: string): T => fresh<T>(text)();

/** The same, with a memory of its own each time it is asked: what is laid out in it is given back with it. */
export function fresh<T extends Memory>(text: string): (imports?: object) => T {
  let module: object | undefined;
  return (imports) => {
    module ??= new WebAssembly.Module(Uint8Array.from(atob(text), (letter) => letter.charCodeAt(0)));
    return new WebAssembly.Instance(module, imports).exports as T;
  };
}

/** Makes the memory at least `bytes` long; arrays over it from before are then empty. */
export function makeRoom({ memory }: Memory, bytes: number): void {
  if (bytes > memory.buffer.byteLength) memory.grow(Math.ceil((bytes - memory.buffer.byteLength) / PAGE));
}

/** Lays arrays out in the kernel's memory, one after the other: each call gives the address of the next. */
export function layout(): { reserve(bytes: number): number; end(): number } {
  let end = 1024;
  return {
    reserve(bytes) {
      const at = end;
      end += Math.ceil(bytes / 16) * 16;
      return at;
    },
    end: () => end,
  };
}
