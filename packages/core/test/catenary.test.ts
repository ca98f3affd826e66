import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { catenaryFromLength, catenaryFromSag, catenaryPoint } from '../src/shape/catenary.js';
import { evenly } from './helpers.js';

describe('hanging lines against the textbooks (values named from memory, re-computed)', () => {
  // T = w·y at the support, H = w·a at the lowest point: a, length, least and greatest pull, to the digits given
  it.each([
    ['Beer & Johnston, Statics, catenary sample problem', 500, 100, 3, ['327.93', '549.9', '983.8', '1283.8']],
    ['Hibbeler, Statics, cable under its own weight', 20, 6, 5, ['9.189', '24.19', '45.94', '75.94']],
    ['Meriam & Kraige, Statics, catenary sample (kN)', 300, 60, 0.00981 * 12, ['', '329.9', '23.16', '30.23']],
  ])('%s', (_source, span, drop, weight, digits) => {
    const { a, length } = catenaryFromSag(span, 0, drop);
    [a, length, weight * a, weight * (a + drop)].forEach((value, k) => {
      if (digits[k] === '') return;
      expect(value.toFixed(digits[k].split('.')[1].length)).toBe(digits[k]);
    });
  });

  it('slope at the end of example B is 52.8°', () => {
    const { a } = catenaryFromSag(20, 0, 6);
    expect((Math.atan(Math.sinh(10 / a)) * 180) / Math.PI).toBeCloseTo(52.8, 1);
  });

  it('flat lines follow the parabola: L ≈ span·(1 + 8/3·(sag/span)²) up to the fourth power', () => {
    for (const ratio of [0.05, 0.02, 0.005]) {
      const { length } = catenaryFromSag(1, 0, ratio);
      expect(Math.abs(length - (1 + (8 / 3) * ratio ** 2))).toBeLessThan(10 * ratio ** 4);
    }
  });
});

describe('any span', () => {
  const spans = {
    span: fc.double({ min: 0.01, max: 500, noNaN: true }),
    rise: evenly(-300, 300),
  };

  it('√(L² − v²) = 2a·sinh(h/2a) (Irvine, Cable Structures, chapter 1), both supports are met, the length is kept', () => {
    fc.assert(
      fc.property(
        fc.record({ ...spans, slack: fc.double({ min: 1e-3, max: 3, noNaN: true }) }),
        ({ span, rise, slack }) => {
          const wanted = Math.hypot(span, rise) * (1 + slack);
          const line = catenaryFromLength(span, rise, wanted);
          expect(Math.sqrt(wanted ** 2 - rise ** 2) / (2 * line.a * Math.sinh(span / (2 * line.a)))).toBeCloseTo(1, 6);
          const [x, y] = catenaryPoint(line, span, rise, 1);
          expect(Math.hypot(x - span, y - rise)).toBeLessThan(1e-6 * wanted);
          let walked = 0;
          for (let i = 1; i <= 400; i++) {
            const [px, py] = catenaryPoint(line, span, rise, (i - 1) / 400);
            const [qx, qy] = catenaryPoint(line, span, rise, i / 400);
            walked += Math.hypot(qx - px, qy - py);
          }
          expect(walked / wanted).toBeGreaterThan(0.995);
          expect(walked / wanted).toBeLessThan(1.0001);
        },
      ),
      { numRuns: 60 },
    );
  });

  it('hangs as far below the straight way as was asked, halfway across, at any rise', () => {
    fc.assert(
      fc.property(fc.record({ ...spans, share: fc.double({ min: 1e-3, max: 2, noNaN: true }) }), (of) => {
        const { span, rise } = of;
        const sag = of.share * span;
        const { a, lowest, length } = catenaryFromSag(span, rise, sag);
        // a·cosh((x − l)/a) − a·cosh(l/a) as a product, which keeps its digits
        const y = (x: number) => 2 * a * Math.sinh((x - 2 * lowest) / (2 * a)) * Math.sinh(x / (2 * a));
        expect((rise / 2 - y(span / 2)) / sag).toBeCloseTo(1, 3);
        expect((y(span) - rise) / length).toBeCloseTo(0, 6);
        expect(length).toBeGreaterThan(Math.hypot(span, rise) * (1 - 1e-12));
      }),
    );
  });

  it('tends to the straight line without NaN as slack vanishes, and gives it when the line is too short', () => {
    for (const slack of [1e-4, 1e-6, 1e-9, 1e-12, 0, -0.5]) {
      const line = catenaryFromLength(2, 1, Math.hypot(2, 1) * (1 + slack));
      const [x, y] = catenaryPoint(line, 2, 1, 0.5);
      expect(Math.hypot(x - 1, y - 0.5)).toBeLessThan(0.03);
      expect(Number.isFinite(x + y)).toBe(true);
    }
  });
});
