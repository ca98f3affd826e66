// the core's types know neither a page nor Node; both have these
declare const atob: (base64: string) => string;
declare const WebAssembly: {
  Module: new (bytes: Uint8Array) => object;
  Instance: new (module: object) => { exports: object };
};

/** The one memory of a compiled kernel, which its caller lays out. */
export interface Memory {
  memory: { buffer: ArrayBuffer; grow(pages: number): void };
}

const PAGE = 65_536;

/** What a kernel written by `npm run kernel` exports. */
export const compiled = <T extends Memory>(text: string): T =>
  new WebAssembly.Instance(new WebAssembly.Module(Uint8Array.from(atob(text), (letter) => letter.charCodeAt(0))))
    .exports as T;

/** Makes the memory at least `bytes` long; arrays over it from before are then empty. */
export function makeRoom({ memory }: Memory, bytes: number): void {
  if (bytes > memory.buffer.byteLength) memory.grow(Math.ceil((bytes - memory.buffer.byteLength) / PAGE));
}
