// Stands for node:fs, node:path and node:module, which a page does not have.
export {};
