import { project } from '../../../core/geometry/camera';
import { toOuter } from '../../../core/geometry/pose';
import type { Vec2 } from '../../../core/geometry/vec3';
import type { TakeMeasures } from '../../../core/take/analyse';
import { overlayOf } from './overlay';

/** What the film pane shows: all of the picture, close to the bridge, or close to the bow hand. */
export const ZOOMS = ['whole', 'bridge', 'hand'] as const;
export type Zoom = (typeof ZOOMS)[number];

/** A part of the picture: its middle in film pixels and how much larger it is shown. */
export interface CloseView {
  readonly middle: Vec2;
  readonly factor: number;
}

/** The instrument's length shown across this share of the pane; the hand yet closer (ours). */
const INSTRUMENT_SHARE = 0.75;
const HAND_FACTOR = 1.25;
const MOST = 5;
/** The view follows over so many seconds to either side, so that it does not shake (ours). */
const CALM = 0.5;

/** Where the closer views look in every frame, calmed over time; undefined in frames before anything was followed. */
export function closeCourses(take: TakeMeasures): Readonly<Record<Exclude<Zoom, 'whole'>, readonly (CloseView | undefined)[]>> {
  const { camera, model } = take.solution;
  const flip = ([x, y]: Vec2): Vec2 => (take.mirrored ? [camera.width - x, y] : [x, y]);
  const bridge = take.tracked.map(({ pose }): Vec2 | undefined => {
    const at = pose && project(camera, toOuter(pose, [0, 0, 0]));
    return at && flip(at);
  });
  const hand = take.frames.map((_, i) => overlayOf(take, i)?.frog);
  const depths = take.tracked.flatMap(({ pose }) => (pose ? [pose.translation[2]] : []));
  const depth = depths.length ? depths.reduce((a, b) => a + b, 0) / depths.length : 1;
  const length = (1.8 * model.stringLength * camera.focal) / depth;
  const factor = Math.min(MOST, Math.max(1, (INSTRUMENT_SHARE * camera.width) / length));
  const times = take.frames.map((f) => f.t);
  const course = (points: readonly (Vec2 | undefined)[], k: number) => calmed(points, times).map((middle) => middle && { middle, factor: Math.min(MOST, Math.max(1.5, k)) });
  return { bridge: course(bridge, factor), hand: course(hand, factor * HAND_FACTOR) };
}

/** Means over a window in time; places not seen take those about them. */
export function calmed(points: readonly (Vec2 | undefined)[], times: readonly number[]): (Vec2 | undefined)[] {
  const out: (Vec2 | undefined)[] = [];
  let from = 0;
  let to = 0;
  let n = 0;
  let sx = 0;
  let sy = 0;
  const count = (p: Vec2 | undefined, sign: 1 | -1) => {
    if (!p) return;
    n += sign;
    sx += sign * p[0];
    sy += sign * p[1];
  };
  for (let i = 0; i < points.length; i++) {
    while (to < points.length && times[to]! <= times[i]! + CALM) count(points[to++], 1);
    while (times[from]! < times[i]! - CALM) count(points[from++], -1);
    out.push(n > 0 ? [sx / n, sy / n] : out[i - 1]);
  }
  return out;
}
