import { type Region, referencesOf } from '@kelp/core';
import { useThree } from '@react-three/fiber';
import { useMemo } from 'react';
import { Quaternion, Vector3 } from 'three';
import { useAppDispatch, useAppSelector } from '../app/store.js';
import { placeInView } from '../pens/pointer.js';
import { edit } from '../state/edits.js';
import { gestureEnded } from '../state/project-slice.js';
import { withRegion } from '../strip/region-edits.js';
import { usePalette } from '../theme/scheme.js';
import { type GripPlace, Grips } from './Grips.js';
import { Polyline } from './Polyline.js';

const STEPS = 48;
const AXES = ['x', 'y', 'z'] as const;
const NONE: readonly Region[] = [];

/** The regions that drive numbers of the chosen piece: moved by their middle, sized at their sides, softened at their edge. */
export function RegionGrips({ onGrab }: { onGrab(grabbed: boolean): void }) {
  const dispatch = useAppDispatch();
  const { camera, gl } = useThree();
  const piece = useAppSelector((state) => state.project.document?.pieces.find(({ id }) => id === state.view.piece));
  const all = useAppSelector((state) => state.project.document?.regions);
  const regions = useMemo(() => {
    const named = piece ? referencesOf(piece).regions : [];
    return named.length === 0 ? NONE : (all ?? NONE).filter(({ id }) => named.includes(id));
  }, [piece, all]);
  if (regions.length === 0) return null;
  const grips = regions.flatMap(gripsOf);
  const drag = (id: string, event: PointerEvent, _began: PointerEvent, done: boolean) => {
    const [name, what] = id.split(' ');
    const region = regions.find((one) => one.id === name);
    const grip = grips.find((one) => one.id === id);
    const place = region && grip && placeInView(camera, gl.domElement, event.clientX, event.clientY, grip.place);
    if (place)
      dispatch(
        edit(
          `${WORDS[what] ?? 'Size'} of ${region.name}`,
          (document) => withRegion(document, name, (now) => pulled(now, what, place)),
          id,
        ),
      );
    if (done) dispatch(gestureEnded());
  };
  return (
    <>
      {regions.map((region) => (
        <RegionLines key={region.id} region={region} />
      ))}
      <Grips grips={grips} onDrag={drag} onGrab={onGrab} />
    </>
  );
}

const WORDS: Record<string, string> = { move: 'Move', edge: 'Soft edge' };

/** A place of the region's own axes, in the world. */
function inWorld({ position, rotation }: Region, x: number, y: number, z: number): GripPlace {
  const at = new Vector3(x, y, z).applyQuaternion(new Quaternion(...rotation));
  return [position[0] + at.x, position[1] + at.y, position[2] + at.z];
}

function gripsOf(region: Region): { id: string; place: GripPlace }[] {
  const { id, form, size, edge } = region;
  const sides = form === 'ball' ? AXES.slice(0, 1) : AXES;
  return [
    { id: `${id} move`, place: inWorld(region, 0, 0, 0) },
    ...sides.map((axis, n) => ({
      id: `${id} ${axis}`,
      place: inWorld(region, ...(AXES.map((_, k) => (k === n ? size[n] : 0)) as [number, number, number])),
    })),
    { id: `${id} edge`, place: inWorld(region, -size[0] - edge, 0, 0) },
  ];
}

function pulled(region: Region, what: string, place: GripPlace): Region {
  if (what === 'move') return { ...region, position: [...place] };
  const away = new Vector3(...place)
    .sub(new Vector3(...region.position))
    .applyQuaternion(new Quaternion(...region.rotation).invert())
    .toArray();
  if (what === 'edge') return { ...region, edge: Math.max(0, -away[0] - region.size[0]) };
  const n = AXES.indexOf(what as 'x');
  const size = Math.max(1e-6, away[n]);
  return {
    ...region,
    size: region.form === 'ball' ? [size, size, size] : (region.size.with(n, size) as Region['size']),
  };
}

/** Its surface in lines, and where its edge ends, fainter. */
function RegionLines({ region }: { region: Region }) {
  const { tide } = usePalette();
  const { form, size, edge } = region;
  const inner = form === 'ball' ? rings(region, size[0]) : frames(region, 0);
  const outer = edge > 0 ? (form === 'ball' ? rings(region, size[0] + edge) : frames(region, edge)) : [];
  return (
    <>
      {inner.map((points, n) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: they have no other name
        <Polyline key={n} points={points} color={tide} width={1.5} opacity={0.8} through />
      ))}
      {outer.map((points, n) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: they have no other name
        <Polyline key={n} points={points} color={tide} width={1} opacity={0.35} through />
      ))}
    </>
  );
}

const rings = (region: Region, radius: number): GripPlace[][] =>
  [0, 1, 2].map((axis) =>
    Array.from({ length: STEPS + 1 }, (_, k) => {
      const angle = (2 * Math.PI * k) / STEPS;
      const at: [number, number, number] = [0, 0, 0];
      at[axis] = radius * Math.cos(angle);
      at[(axis + 1) % 3] = radius * Math.sin(angle);
      return inWorld(region, ...at);
    }),
  );

/** The edges of a box, as three outlines across it. */
const frames = (region: Region, out: number): GripPlace[][] => {
  const [x, y, z] = region.size.map((value) => value + out);
  const outline = (at: (a: number, b: number) => [number, number, number]) =>
    [
      [-1, -1],
      [1, -1],
      [1, 1],
      [-1, 1],
      [-1, -1],
    ].map(([a, b]) => inWorld(region, ...at(a, b)));
  return [
    outline((a, b) => [a * x, b * y, z]),
    outline((a, b) => [a * x, b * y, -z]),
    outline((a, b) => [x, a * y, b * z]),
    outline((a, b) => [-x, a * y, b * z]),
  ];
};
