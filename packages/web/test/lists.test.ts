import { describe, expect, it } from 'vitest';
import { entryText, listCsv, measuresText } from '../src/stem/lists.js';

describe('lists of a piece', () => {
  it('are read in the project’s unit, and saved as RFC 4180 asks: a heading with units, quotes where they are needed', () => {
    const list = {
      id: 'members',
      label: 'Members',
      columns: [
        { label: 'Part', quantity: 'text' as const },
        { label: 'Length', quantity: 'length' as const },
        { label: 'Angle', quantity: 'angle' as const },
        { label: 'Pieces', quantity: 'count' as const },
      ],
      rows: [
        ['Tube, 1½"', 1.25, Math.PI / 2, 3],
        ['Rod', 0.0004, Math.PI / 8, 12],
      ],
    };
    expect(listCsv(list, 'mm')).toBe(
      'Part,Length (mm),Angle (°),Pieces\r\n"Tube, 1½""",1250,90,3\r\nRod,0.4,22.5,12\r\n',
    );
    expect(listCsv(list, 'in').split('\r\n')[1]).toBe('"Tube, 1½""",49.212598,90,3');
    expect(list.columns.map(({ quantity }, k) => entryText(list.rows[0][k], quantity, 'mm'))).toEqual([
      'Tube, 1½"',
      '1.25 m',
      '90°',
      '3',
    ]);
    const measures = [
      { id: 'pipe', label: 'Pipe', quantity: 'length' as const, value: 0.5 },
      { id: 'bends', label: 'Bends', quantity: 'count' as const, value: 2 },
    ];
    expect(measuresText(measures, 'mm')).toBe('Pipe 500 mm · Bends 2');
  });
});
