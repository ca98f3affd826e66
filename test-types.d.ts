// Packages that the tests use and that bring no types.
declare module 'bunny' {
  const mesh: { positions: [number, number, number][]; cells: [number, number, number][] };
  export default mesh;
}
declare module 'gltf-validator' {
  const validator: {
    validateBytes(bytes: Uint8Array): Promise<{
      issues: { numErrors: number; numWarnings: number; messages: { code: string }[] };
    }>;
  };
  export default validator;
}
