// Stands for node:fs and node:path, which a page does not have.
export {};
