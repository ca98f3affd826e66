import bunny from 'bunny';

export const SCAN_FACES = bunny.cells.length;

/** The open scanned mesh of the `bunny` package as an OBJ file, whose units nobody knows. */
export const scanFile = () => ({
  name: 'rabbit.obj',
  mimeType: 'text/plain',
  buffer: Buffer.from(
    [
      ...bunny.positions.map((p) => `v ${p.join(' ')}`),
      ...bunny.cells.map((c) => `f ${c.map((i) => i + 1).join(' ')}`),
    ].join('\n'),
  ),
});
