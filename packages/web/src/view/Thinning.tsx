import { useFrame, useThree } from '@react-three/fiber';
import { useEffect, useRef } from 'react';
import type { EventDispatcher, Object3D } from 'three';
import { useAppSelector } from '../app/store.js';
import { useComputed } from '../evaluation/EvaluationProvider.js';
import { DrawingSpeed, eyeOf, fitting, type Weighed } from './budget.js';
import { setLeftOut } from './left-out.js';

/** The view stands still when nothing moved it for so long, milliseconds. */
const REST = 260;
const AFTER_A_PRESS = 900;
/** Triangles above which a picture may take so long that a press would wait for it. */
const HEAVY = 400_000;
/** This many pieces that are still being made are followed by many more pictures. */
const BULK = 24;

/** Leaves a body's objects out of a picture, or draws them; of instances, single ones. */
interface Thing extends Weighed {
  show(shown: boolean): void;
}

/** What is drawn, as it says itself: `weigh` gives the parts of it that may be left out. */
export interface Weighable {
  weigh(): Thing[];
  /** Reported once all parts know whether they are drawn. */
  settle?(): void;
}

/**
 * Keeps large scenes quick: while the view moves, or many pieces are being made, small far things are left out of the
 * picture, as many as this machine needs; once it stands still all are drawn that it can draw in a moment.
 */
export function Thinning({ contentKey }: { contentKey: unknown }) {
  const { scene, camera, gl, controls, invalidate } = useThree();
  const builds = useComputed('builds');
  const progress = useComputed('progress');
  const pieces = useAppSelector((state) => state.project.document?.pieces.length ?? 0);
  const chosen = useAppSelector((state) => state.view.pieces);
  // at the very first nothing is known yet of what is to be made: all of it is
  const waiting = progress ? progress.total - progress.done : builds.size === 0 ? pieces : 0;
  const bulk = waiting > BULK;
  const speed = useRef<DrawingSpeed>(null);
  speed.current ??= new DrawingSpeed();
  const state = useRef({
    moving: false,
    things: [] as Thing[],
    owners: [] as Weighable[],
    stale: true,
    left: 0,
    triangles: 0,
  });
  const rested = useRef<ReturnType<typeof setTimeout>>(undefined);

  // biome-ignore lint/correctness/useExhaustiveDependencies: what is in the scene changes with these
  useEffect(() => {
    state.current.stale = true;
    invalidate();
  }, [contentKey, builds, bulk, chosen, invalidate]);

  useEffect(() => {
    if (!controls) return;
    const orbit = controls as unknown as EventDispatcher<{ change: object }>;
    const busyFor = (rest: number) => {
      if (!state.current.moving) {
        state.current.moving = true;
        state.current.stale = true;
      }
      clearTimeout(rested.current);
      rested.current = setTimeout(() => {
        state.current.moving = false;
        state.current.stale = true;
        // what is drawn already is not drawn again
        if (state.current.left > 0) invalidate();
      }, rest);
    };
    const moved = () => busyFor(REST);
    // who presses something wants to see what it did: the whole picture of a large scene can wait
    const pressed = () => {
      if (state.current.triangles > HEAVY) busyFor(AFTER_A_PRESS);
    };
    orbit.addEventListener('change', moved);
    addEventListener('pointerdown', pressed, true);
    addEventListener('keydown', pressed, true);
    return () => {
      orbit.removeEventListener('change', moved);
      removeEventListener('pointerdown', pressed, true);
      removeEventListener('keydown', pressed, true);
      clearTimeout(rested.current);
    };
  }, [controls, invalidate]);

  useFrame(() => {
    const now = state.current;
    if (now.stale) {
      now.stale = false;
      now.owners = weighables(scene);
      now.things = now.owners.flatMap((owner) => owner.weigh());
      const kept = fitting(now.things, eyeOf(camera), speed.current?.budget(now.moving || bulk) ?? Infinity);
      let left = 0;
      now.things.forEach((thing, i) => {
        thing.show(kept[i] === 1);
        if (!kept[i]) left++;
      });
      // what comes back into the picture throws its shadow again
      if (left < now.left) gl.shadowMap.needsUpdate = true;
      for (const owner of now.owners) owner.settle?.();
      now.left = left;
      now.triangles = now.things.reduce((sum, thing) => sum + thing.triangles, 0);
      setLeftOut(now.moving || bulk ? 0 : left);
    }
  }, -1);
  useEffect(() => {
    // after each picture: how long it takes the machine to draw it
    const { render } = gl;
    gl.render = (...args) => {
      render.apply(gl, args);
      // what is drawn into a texture, depths or shadows, is no picture
      if (gl.getRenderTarget() === null) speed.current?.drawn(gl, gl.info.render.triangles);
    };
    return () => {
      gl.render = render;
    };
  }, [gl]);
  return null;
}

function weighables(scene: Object3D): Weighable[] {
  const out: Weighable[] = [];
  const visit = (object: Object3D) => {
    const own = object.userData['weighable'] as Weighable | undefined;
    if (own) out.push(own);
    else for (const child of object.children) visit(child);
  };
  visit(scene);
  return out;
}
