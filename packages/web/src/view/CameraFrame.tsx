import { type Bounds, boundsOf, greatest, type KelpDocument, thicknessOf } from '@kelp/core';
import { useThree } from '@react-three/fiber';
import { useEffect, useRef } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { type PerspectiveCamera, Vector3 } from 'three';
import { useAppSelector } from '../app/store.js';
import { useComputed } from '../evaluation/EvaluationProvider.js';
import type { Computed } from '../evaluation/evaluation.js';
import { fitted } from './fitted.js';
import { useSceneBounds } from './scene-bounds.js';

/** From where a scene is first looked at: a little above, from the front right. */
const FIRST_LOOK = new Vector3(0.5, 0.33, 1).normalize();

/** More pieces than these are not waited for. */
const LARGE = 40;

/** A place is looked at from this many thicknesses away. */
const NEAR = 70;

/** Brings the scene into view when a project opens, and what is chosen (or everything) when asked. */
export function CameraFrame({ request, onFramed }: { request: number; onFramed(project: string): void }) {
  // measured here: what comes from outside the canvas may be a picture late
  const bounds = useSceneBounds();
  const { camera, controls, invalidate, size } = useThree();
  const project = useAppSelector((state) => state.project.id);
  const piece = useAppSelector((state) => state.view.piece);
  const builds = useComputed('builds');
  const busy = useComputed('busy');
  const meshes = useComputed('meshes');
  const failed = useComputed('failed');
  const document = useAppSelector((state) => state.project.document);
  const begun = useAppSelector(({ project }) => project.past.length > 0);
  const chosenThickness = useAppSelector((state) => {
    const chosen = state.project.document?.pieces.find((candidate) => candidate.id === state.view.piece);
    return chosen ? greatest(thicknessOf(chosen)) : 0;
  });
  const framed = useRef<string | null>(null);
  const handled = useRef(0);
  const show = (box: Bounds, direction: Vector3, roomy: number) => {
    const view = camera as PerspectiveCamera;
    const { target, distance } = fitted(box, direction, view.fov, size.width / size.height, roomy);
    camera.position.copy(target).addScaledVector(direction, distance);
    view.near = distance / 200;
    view.far = distance * 60;
    view.updateProjectionMatrix();
    const orbit = controls as unknown as { target: Vector3; maxDistance: number; update(): void } | null;
    if (orbit) {
      orbit.maxDistance = Math.max(orbit.maxDistance, 2 * distance);
      orbit.target.copy(target);
      orbit.update();
    }
    // a click may come before the next picture
    camera.updateMatrixWorld();
    invalidate();
  };
  // of a large scene the props say where it is: its pieces take their time
  const large = (document?.pieces.length ?? 0) > LARGE && (document?.props.length ?? 0) > 0;
  const ready =
    Boolean(controls) &&
    (large ? propsThere(document, meshes, failed) : !busy && isComplete(document, builds, meshes, failed));
  // biome-ignore lint/correctness/useExhaustiveDependencies: once a project, when its first picture is complete
  useEffect(() => {
    if (!ready || framed.current === project) return;
    framed.current = project;
    // a scene seldom fills its box, a first import does; who has just drawn the first line is looking at it
    if (!begun) show(bounds, FIRST_LOOK, large ? 1.04 : 0.95);
    else if (document?.props.length) show(bounds, FIRST_LOOK, 1.25);
    if (project) onFramed(project);
  }, [project, ready, bounds]);
  const frame = () => {
    const chosen = piece ? builds.get(piece) : undefined;
    const direction = camera.position
      .clone()
      .sub((controls as unknown as { target: Vector3 }).target)
      .normalize();
    show(
      chosen && chosen.guide.position.length > 0 ? boundsOf(chosen.guide.position) : bounds,
      direction,
      chosen ? 1.3 : 1.04,
    );
  };
  useHotkeys('f', frame, [piece, builds, bounds, controls, size]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: only when asked
  useEffect(() => {
    if (request === handled.current) return;
    handled.current = request;
    frame();
  }, [request]);
  const lookAt = useAppSelector((state) => state.view.lookAt);
  // biome-ignore lint/correctness/useExhaustiveDependencies: once each time a place is asked for
  useEffect(() => {
    if (!lookAt || !controls) return;
    const orbit = controls as unknown as { target: Vector3; update(): void };
    const place = new Vector3(...lookAt.place);
    // from the same side, near enough to see what is wrong
    const away = camera.position.clone().sub(orbit.target);
    away.setLength(Math.min(away.length(), NEAR * Math.max(0.01, chosenThickness)));
    camera.position.copy(place).add(away);
    orbit.target.copy(place);
    orbit.update();
    invalidate();
  }, [lookAt]);
  return null;
}

/** True once all that is to be seen is there, and there is something. */
function isComplete(
  document: KelpDocument | null,
  builds: Computed['builds'],
  meshes: Computed['meshes'],
  failed: Computed['failed'],
): boolean {
  if (!document || document.props.length + document.pieces.length === 0) return false;
  return (
    propsThere(document, meshes, failed) && document.pieces.every((piece) => !piece.visible || builds.has(piece.id))
  );
}

const propsThere = (document: KelpDocument | null, meshes: Computed['meshes'], failed: Computed['failed']): boolean =>
  document?.props.every(({ mesh }) => meshes.has(mesh) || failed.has(mesh)) ?? false;
