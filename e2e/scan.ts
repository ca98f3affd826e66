import bunny from 'bunny';

export const SCAN_FACES = bunny.cells.length;

/** The open scanned mesh of the `bunny` package as an OBJ file, whose units nobody knows; cut, the faces whose places are all kept. */
export const scanFile = (keeps: (y: number) => boolean = () => true) => ({
  name: 'rabbit.obj',
  positions: bunny.positions,
  mimeType: 'text/plain',
  buffer: Buffer.from(
    [
      ...bunny.positions.map((p) => `v ${p.join(' ')}`),
      ...bunny.cells
        .filter((c) => c.every((i) => keeps(bunny.positions[i][1])))
        .map((c) => `f ${c.map((i) => i + 1).join(' ')}`),
    ].join('\n'),
  ),
});
